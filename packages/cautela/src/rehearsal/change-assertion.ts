import { tableKey } from "../catalog/keys.ts";
import type { Table } from "../catalog/model.ts";
import { walk } from "../sql/nodes/visitor.ts";
import { keyOf } from "../writing/kept.ts";
import { holes, withoutReturning } from "./change-pieces.ts";
import { keyOfTarget, overwrites, type Target, viewed } from "./change-target.ts";
import { changingSql, countSql } from "./looks.ts";
import type { ScriptStep } from "./script-steps.ts";
import type { Sheet } from "./sheet.ts";

/** The change as it is run, and what is known of the rows that it meets. */
interface ToAssert {
  change: string;
  /** A transaction is open around it. */
  inside: boolean;
  /** It acts on the rows of a copy instead of those of its own filter. */
  rewritten: boolean;
  /** Copies that hold the rows of a target, no more and no fewer. */
  exact: ReadonlyMap<Table, string>;
}

/** The change with an assertion on its number of rows; null where that cannot be told, with the reason. */
export function asserted(
  step: ScriptStep,
  sheet: Sheet,
  targets: readonly Target[],
  { change, inside, rewritten, exact: copies }: ToAssert,
): string | null {
  const { source, fired, statement } = step;
  const { writer } = sheet;
  const { expected } = sheet;
  const { tree } = source;
  const given = expected && !expected.atMost ? String(expected.rows) : null;
  if (tree.kind === "insert" && !overwrites(step.source.tree) && given === null) return null;
  if (tree.kind !== "update" && tree.kind !== "delete" && tree.kind !== "insert") return null;
  if (tree.kind === "insert" && (given === null || overwrites(step.source.tree))) return null;
  if (tree.kind !== "insert" && targets.length === 0) return null;
  if (
    source.changes.some(({ change }) =>
      viewed(step, change)?.ripple.edges.some(({ from, how }) => from === 0 && how === "trigger"),
    )
  ) {
    sheet.reason("a trigger writes in the view's place, and what the engine counts is not what that writes");
    return null;
  }
  if (fired.some(({ ripple }) => ripple.notes.some(({ kind }) => kind === "swallows"))) {
    sheet.reason("a trigger or rule may drop rows without a word, so fewer may change than the count says");
    return null;
  }
  if (fired.some(({ ripple }) => ripple.edges.some(({ from, how }) => from === 0 && how === "rule"))) {
    sheet.reason("a rule writes besides, and its rows are counted too: compare the number of rows by hand");
    return null;
  }
  if (writer.cascadesAtOnce && tree.kind === "delete" && targets.some((target) => movesMeanwhile(step, target))) {
    sheet.reason(
      "rows that a key takes along are gone before the statement comes to them, and the engine counts them otherwise",
    );
    return null;
  }
  if (holes(source)) {
    sheet.reason("a placeholder has to be filled in first, so the number of rows is not asserted");
    return null;
  }
  if (
    targets.some(
      ({ table, filter, values }) =>
        (filter?.writes && !(table && copies.has(table))) ||
        (values !== null && writer.countsChanged && tree.kind === "update"),
    )
  ) {
    sheet.reason("counting beforehand may write, so the number of rows is not asserted");
    return null;
  }
  const counts: string[] = [];
  for (const target of targets) {
    const copy = target.table && copies.get(target.table);
    const exact =
      copy !== undefined
        ? `SELECT COUNT(*) FROM ${copy}`
        : rewritten
          ? null
          : countSql(writer, target.text, target.table, keyOfTarget(step, target));
    if (exact === null) return null;
    counts.push(`(${exact})`);
  }
  const exact = given ?? counts.join(" + ");
  let changing: string | null = null;
  if (writer.countsChanged && tree.kind === "update") {
    const rewrites = step.written.some(({ tidied }) => tidied === null || tidied.size > 0);
    const parts = targets.map(({ text, table, change }) =>
      rewrites || viewed(step, change) ? null : changingSql(writer, text, table, table ? keyOf(table) : null),
    );
    if (parts.includes(null)) {
      sheet.reason(
        "ROW_COUNT() counts rows whose values really change, which cannot be told beforehand here: compare it by hand",
      );
      return null;
    }
    changing = parts.map((one) => `(${one})`).join(" + ");
    // Fewer rows may change than are met; those that are met have to be as many as the author expects.
    if (given !== null) changing = `IF(${counts.join(" + ")} = ${given}, ${changing}, -1)`;
  }
  const form = writer.guarded(withoutReturning(source, change), {
    expected: exact,
    changing,
    inside,
    line: statement.line,
  });
  if (form === null)
    sheet.reason(
      `${writer.dialect.title} has no assertion outside of routines: compare the number of rows by hand${writer.transaction ? " before COMMIT" : ""}`,
    );
  return form;
}

/** Rows of the target, or of a table that its filter reads, go or change by a key while the statement still runs. */
function movesMeanwhile(step: ScriptStep, { table, change }: Target): boolean {
  const moved = new Set<string>();
  const key = (one: Pick<Table, "schema" | "name"> | null | undefined): string =>
    one ? tableKey(one.schema, one.name) : "";
  for (const { ripple } of step.fired)
    for (const { to, how } of ripple.edges) if (how === "cascade") moved.add(key(ripple.nodes[to].relation));
  if (moved.has(key(table))) return true;
  let reads = false;
  walk(change.statement, (node) => {
    if (node.kind === "table" && moved.has(key(step.catalog?.resolve(node.name)))) reads = true;
    return undefined;
  });
  return reads;
}
