import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import { privilegesOf } from "../analysis/statement/privileges.ts";
import { unfollowed } from "../analysis/statement/unfollowed.ts";
import { tableKey } from "../catalog/keys.ts";
import type { Review } from "../review/result.ts";
import { dialects } from "../sql/dialects/index.ts";
import { sqlWriter } from "../sql/dialects/writing.ts";
import { executed } from "../sql/reading/executed.ts";
import { classOf } from "../sql/reading/script.ts";
import { changeSheet } from "./change-sheet.ts";
import { CopyNames } from "./copy-names.ts";
import { PHASES, type Phase, type PhaseFrame, type Rehearsal, type RehearsalSheet } from "./rehearsal.ts";
import { type ScriptStep, scriptSteps } from "./script-steps.ts";
import { Sheet, type SheetContext } from "./sheet.ts";
import { structureSheet } from "./structure-sheet.ts";

export interface RehearseOptions {
  /** One statement of the script, by its index. */
  statement?: number;
  /** The day that goes into the names of copies, as it is to be written: `20261125`. */
  date?: string;
  /** Counts stop after this many rows; without it they count all. Not for tsql, plsql and jet. */
  countUpTo?: number;
}

/**
 * Writes the rehearsal of a review, statement by statement in the order of the script: count, preview with old and new
 * values, control figures, copies, the guarded change, the checks afterwards, the restore. What depends on an earlier
 * statement is looked at and copied in the change, at its place. Pure; nothing is run.
 *
 * @example
 * rehearse(review(script, { catalog }), { date: "20261125" }).sheets[0].queries
 */
export function rehearse(review: Review, options: RehearseOptions = {}): Rehearsal {
  const steps = rehearseStepwise(review, options);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/**
 * Writes the rehearsal like {@link rehearse}, with a pause after each statement, so that a page stays alive and can drop
 * it: a script of thousands of lines takes seconds.
 *
 * @example
 * const steps = rehearseStepwise(review(script, { catalog }));
 * let step = steps.next();
 * while (!step.done) step = steps.next();
 * step.value.sheets
 */
export function* rehearseStepwise(
  review: Review,
  options: RehearseOptions = {},
): Generator<undefined, Rehearsal, undefined> {
  const writer = sqlWriter(dialects[review.dialect], options.countUpTo ?? null);
  writer.spelled = (schema, name) => review.before?.get(schema, name) ?? review.catalog?.get(schema, name);
  const names = new CopyNames(review.policy, options.date ?? "", writer.dialect, review.catalog);
  for (const table of review.before?.tables() ?? []) names.taken(table.name);
  const context: SheetContext = { writer, names, policy: review.policy, alone: options.statement !== undefined };
  const sheets: RehearsalSheet[] = [];
  const head: string[] = [];
  let changes = false;
  let undoesStructure = false;
  for (const step of scriptSteps(review)) {
    yield;
    const ended = review.read[step.statement.index]?.terminator === "batch";
    const sheet = sheetOf(step, context, review.read[step.statement.index]?.terminator !== "");
    if (!sheet) {
      if (ended && sheets.length > 0) sheets[sheets.length - 1].endsBatch = true;
      continue;
    }
    sheet.endsBatch = ended;
    const beyond = beyondRows(step);
    changes ||= step.does !== "other" || beyond.length > 0;
    if (!changes && places(step)) head.push(step.source.text);
    sheet.privileges =
      step.does === "rows"
        ? privilegesOf(
            step.source.tree,
            step.catalog,
            viewNamed(step.fired) ?? (sheet.target === "" ? null : sheet.target),
          )
        : [];
    // Names of copies are given out in the order of the script, whichever statement is asked for.
    if (options.statement !== undefined && options.statement !== step.statement.index) continue;
    sheet.reasons.push(...beyond);
    if (!context.alone && sheet.queries.some(({ phase }) => phase === "after") && !stands(step, review)) {
      sheet.queries = sheet.queries.filter(({ phase }) => phase !== "after");
      sheet.reasons.push("its result is not compared afterwards: a later statement drops or renames a part of it");
    }
    const earlier = sheet.dependsOn ?? sheet.countDependsOn;
    if (context.alone && earlier !== null)
      sheet.reasons.unshift(`this holds once line ${earlier} has run, on which its rows depend`);
    undoesStructure ||= step.does === "structure" && sheet.queries.some(({ phase }) => phase === "restore");
    sheets.push(sheet);
  }
  const whole = changes ? sheets : [];
  const transactional = !whole.some(({ queries }) =>
    queries.some(({ phase, sql }) => phase === "restore" && writer.commits(sql)),
  );
  const structure = whole.some(({ queries }) =>
    queries.some(({ phase, sql }) => phase === "restore" && /^(?:drop table|alter table .* rename to)\b/im.test(sql)),
  );
  const frames = {} as Record<Phase, PhaseFrame>;
  for (const phase of PHASES)
    frames[phase] = writer.frame(phase, transactional, phase === "change" && !context.alone ? [] : head, structure);
  if (undoesStructure && !context.alone)
    frames.restore = {
      ...frames.restore,
      note: "If the change stopped on the way, leave out what undoes lines that have not run",
    };
  return { format: "cautela.rehearsal", version: 1, path: review.path, dialect: review.dialect, sheets: whole, frames };
}

/** `sends`: something comes after the statement that makes a client program run it. */
function sheetOf(step: ScriptStep, context: SheetContext, sends: boolean): RehearsalSheet | null {
  switch (step.does) {
    case "rows":
      return changeSheet(step, context);
    case "structure":
      return structureSheet(step, context);
    case "other": {
      const { tree } = step.source;
      // A look of the author's own is no part of the change.
      if (tree.kind === "select" && !takesInto(tree)) return null;
      // Delimiters and what sends a batch are set where they are needed.
      if (tree.kind === "directive" && (sends || /^delimiter\b/i.test(step.source.text))) return null;
      const sheet = new Sheet(step, context.writer, context.alone);
      if (tree.kind === "unread") sheet.reason("it could not be read, so nothing is kept of what it may change");
      sheet.add("change", "script", "As the script has it", step.source.text);
      return sheet.done();
    }
  }
}

/** What a step changes, or may change, that no restore puts back. */
function beyondRows({ source, does, catalog, structure, fired }: ScriptStep): string[] {
  const reasons: string[] = [];
  for (const one of [source.tree, ...[...executed(source.tree)].map(({ tree }) => tree)]) {
    const runs = unfollowed(one, catalog);
    if (runs !== null) reasons.push(`${runs}: what it changes is neither kept nor put back`);
    if (classOf(one) === "rights") reasons.push("rights are not put back");
  }
  for (const { ripple } of does === "other" ? fired : [])
    for (const { kind, name, text } of ripple.notes)
      if (kind === "opaque")
        reasons.push(`what ${name} does is not known (${text}), so nothing is kept of what it may change`);
  if (does !== "structure" && structure.length > 0)
    reasons.push("what it makes, changes or drops besides rows is not undone here");
  return [...new Set(reasons)];
}

/** Whether the tables that a step writes are still there, with their columns, when the script has ended. */
function stands({ written, does }: ScriptStep, { catalog }: Review): boolean {
  if (does !== "rows" || !catalog) return true;
  return written.every(({ table }) => {
    const last = catalog.byKey(tableKey(table.schema, table.name));
    return last && table.columns.every(({ name }) => last.columns.some((one) => one.name === name));
  });
}

function takesInto({ query }: Extract<ScriptStep["source"]["tree"], { kind: "select" }>): boolean {
  const { body } = query;
  return (
    query.into !== null ||
    (body.kind === "select" &&
      (body.into !== null ||
        body.items.some(({ expr }) => expr.kind !== "column" && expr.kind !== "star" && expr.kind !== "literal")))
  );
}

/** Statements that decide which database or schema names mean. */
function places({ source: { tree } }: ScriptStep): boolean {
  return tree.kind === "setting" && /^(?:database|search_path|current_schema)$/.test(tree.name);
}

/** The view that a statement names: the rights to it are asked for, not those to the table behind it. */
function viewNamed(fired: readonly FiredRipple[]): string | null {
  const root = fired.find(({ ripple }) => ripple.nodes[0].object === "view")?.ripple.nodes[0];
  return root?.name ?? null;
}
