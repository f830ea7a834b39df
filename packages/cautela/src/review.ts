import { annotation } from "./analysis/annotations.ts";
import { changesOf, targetName } from "./analysis/change.ts";
import { type Reach, reachOf } from "./analysis/reach.ts";
import { Course } from "./analysis/softeners.ts";
import { directWrites } from "./analysis/writes.ts";
import type { Catalog } from "./catalog/catalog.ts";
import { shownName } from "./catalog/model.ts";
import { writtenName } from "./catalog/names.ts";
import { replay } from "./catalog/replay.ts";
import type { HazardContext, JudgedChange } from "./hazards/hazard.ts";
import { hazards } from "./hazards/register.ts";
import type { Policy } from "./policy.ts";
import {
  type Finding,
  heavier,
  type Region,
  type Review,
  type ScriptResult,
  type StatementReview,
  type Verdict,
} from "./result.ts";
import type { DialectId } from "./sql/dialects/dialect.ts";
import { dialects, isDialectId } from "./sql/dialects/index.ts";
import { LineMap } from "./sql/lines.ts";
import { type ReadStatement, ScriptReader } from "./sql/script.ts";
import type { Span, Statement } from "./sql/tree.ts";

export interface ReviewOptions {
  /** The language of the script; a `-- cautela: dialect …` comment and then `postgresql` if left out. */
  dialect?: DialectId;
  /** What the database holds; without it hazards that need it are listed as unchecked. */
  catalog?: Catalog;
  policy?: Policy;
  /** The name of the script in the result. */
  path?: string;
}

/**
 * Reviews one script without running it.
 *
 * Never throws for what a script holds: a statement that cannot be read is a finding, and what
 * could not be judged is listed as unchecked.
 *
 * @example
 * review("DELETE FROM berth;", { dialect: "postgresql" }).verdict // "stop"
 */
export function review(text: string, options: ReviewOptions = {}): Review {
  const dialect = options.dialect ?? declaredDialect(text) ?? "postgresql";
  const session = new ReviewSession({ ...options, dialect });
  const read: ReadStatement[] = [];
  const lines = new LineMap(text);
  new ScriptReader(dialect).push(text, true, (statement) => {
    read.push(statement);
    session.add(statement, { slice: (start, end) => text.slice(start, end), lines });
  });
  return { ...session.result(), text, read };
}

/** The dialect that a comment at the head of the script names. */
function declaredDialect(text: string): DialectId | null {
  const match = /(?:--|#|\/\*)[ \t]*cautela:[ \t]*dialect[ \t]+([a-z]+)/i.exec(text.slice(0, 4000));
  const id = match?.[1].toLowerCase();
  return id !== undefined && isDialectId(id) ? id : null;
}

/** Where the text of a statement lies. */
export interface SourceView {
  slice(start: number, end: number): string;
  lines: LineMap;
}

/** A review in progress: statements go in one by one, in the order of the script. */
export class ReviewSession {
  readonly #dialect: DialectId;
  readonly #policy: Policy;
  readonly #path: string;
  /** What the database would hold at this point of the script; null without a catalog. */
  readonly #catalog: Catalog | null;
  readonly #course: Course;
  readonly #result: ScriptResult;

  constructor(options: ReviewOptions & { dialect: DialectId }) {
    this.#dialect = options.dialect;
    this.#policy = options.policy ?? {};
    this.#path = options.path ?? "";
    this.#catalog = options.catalog?.fork() ?? null;
    this.#course = new Course(dialects[this.#dialect], this.#policy);
    this.#result = {
      path: this.#path,
      dialect: this.#dialect,
      verdict: "clear",
      statements: [],
      findings: [],
      unchecked: [],
    };
  }

  result(): ScriptResult {
    return this.#result;
  }

  /** Reviews the next statement. */
  add(statement: ReadStatement, source: SourceView): void {
    const { tree } = statement;
    const index = this.#result.statements.length;
    const region = regionOf(statement, source.lines);
    const judged = this.#judge(tree);
    const context: HazardContext = {
      dialect: dialects[this.#dialect],
      catalog: this.#catalog,
      statement,
      changes: judged,
      slice: source.slice,
      line: (offset) => source.lines.at(offset).line,
    };
    const accepts = this.#accepts(statement, source);
    let verdict: Verdict = "clear";
    for (const hazard of hazards) {
      const weight = this.#policy.weights?.[hazard.id];
      if (weight === "off") continue;
      for (const draft of hazard.check(context)) {
        const accepted = accepts.get(hazard.id) ?? null;
        const finding: Finding = {
          hazard: hazard.id,
          weight: weight ?? draft.weight ?? hazard.weight,
          statement: index,
          ...region,
          message: draft.message,
          because: draft.because,
          remedy: draft.remedy,
          accepted,
        };
        this.#result.findings.push(finding);
        if (accepted === null) verdict = heavier(verdict, finding.weight);
      }
    }
    const reaches = judged.map(({ change, result }) => ({ change, reach: result.reach }));
    const review: StatementReview = {
      index,
      ...region,
      kind: kindOf(tree),
      target: this.#target(tree, judged),
      verdict,
      reach: reaches.length > 0 ? widest(reaches.map(({ reach }) => reach)) : insertReach(tree),
      writes: directWrites(tree, reaches, this.#catalog),
    };
    this.#result.statements.push(review);
    this.#result.verdict = heavier(this.#result.verdict, verdict);
    this.#uncheck(tree, index, judged);
    this.#course.note(tree, this.#catalog);
    if (this.#catalog) replay(this.#catalog, tree, source.slice);
  }

  #judge(tree: Statement): JudgedChange[] {
    return changesOf(tree, this.#catalog, dialects[this.#dialect]).map((change) => ({
      change,
      result: reachOf(change),
      target: targetName(change),
      softener: this.#course.softener(change),
      copy: this.#course.copyOf(change),
    }));
  }

  /** The hazards that comments of the statement accept, with their reasons. */
  #accepts(statement: ReadStatement, source: SourceView): Map<string, string> {
    const accepts = new Map<string, string>();
    for (const comment of statement.comments) {
      const said = annotation(source.slice(comment.start, comment.end), comment);
      // The reason is required: without one nothing is accepted.
      if (said?.what === "accept" && said.reason !== "") accepts.set(said.hazard, said.reason);
    }
    return accepts;
  }

  #target(tree: Statement, judged: readonly JudgedChange[]): string | null {
    if (judged.length > 0) return judged[0].target;
    const name =
      (tree.kind === "insert" || tree.kind === "merge") && tree.target.kind === "table"
        ? tree.target.name
        : tree.kind === "create-table" || tree.kind === "alter-table" || tree.kind === "opaque"
          ? tree.name
          : tree.kind === "create-index"
            ? tree.table
            : tree.kind === "drop"
              ? (tree.names[0] ?? null)
              : null;
    if (!name) return null;
    const table = this.#catalog?.resolve(name);
    return table ? shownName(table) : writtenName(name);
  }

  /** Lists what could not be judged about a statement. */
  #uncheck(tree: Statement, index: number, judged: readonly JudgedChange[]): void {
    const { unchecked } = this.#result;
    for (const { change, softener } of judged) {
      if (change.table || softener) continue;
      unchecked.push({
        statement: index,
        missing: this.#catalog
          ? `table ${targetName(change)} is not in the catalog`
          : "no catalog was given, so keys, required columns and row counts are not known",
        hazards: ["hollow-filter", "dead-filter"],
      });
    }
    if (tree.kind === "opaque" && tree.class === "code") {
      unchecked.push({
        statement: index,
        missing: "the statements inside this code are not read",
        hazards: ["every-row", "hollow-filter", "dead-filter"],
      });
    }
  }
}

/** Reviews several scripts in order; each finds the database as the ones before it have left it. */
export function reviewChangeSet(
  scripts: readonly { text: string; path?: string; dialect?: DialectId }[],
  options: { catalog?: Catalog; policy?: Policy } = {},
): Review[] {
  const carried = options.catalog?.fork();
  return scripts.map(({ text, path, dialect }) => {
    const result = review(text, { path, dialect, catalog: carried, policy: options.policy });
    if (carried) for (const { tree } of result.read) replay(carried, tree, (start, end) => text.slice(start, end));
    return result;
  });
}

function regionOf(span: Span, lines: LineMap): Region {
  const from = lines.at(span.start);
  const to = lines.at(span.end);
  return { line: from.line, column: from.column, endLine: to.line, endColumn: to.column };
}

/** The kind of a statement as the result names it: `update`, `create table`, `alter trigger`. */
function kindOf(tree: Statement): string {
  switch (tree.kind) {
    case "opaque":
      return [tree.verb, tree.object].filter((word) => word !== "").join(" ");
    case "drop":
      return `drop ${tree.object}`.trim();
    case "transaction":
      return tree.action;
    default:
      return tree.kind.replace("-", " ");
  }
}

const WIDTH = ["none", "one", "few", "some", "unknown", "every", "multiplied"];

function widest(reaches: readonly Reach[]): Reach {
  return reaches.reduce((a, b) => (WIDTH.indexOf(b.bound) > WIDTH.indexOf(a.bound) ? b : a));
}

/** The reach of an INSERT: the rows inserted. */
function insertReach(tree: Statement): Reach | null {
  if (tree.kind !== "insert") return null;
  if (tree.set || tree.defaults) return { bound: "one", rows: 1 };
  const body = tree.source?.body;
  if (body?.kind === "values")
    return body.rowCount === 1 ? { bound: "one", rows: 1 } : { bound: "few", rows: body.rowCount };
  return { bound: "some" };
}
