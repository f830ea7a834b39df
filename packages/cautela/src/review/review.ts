import { changesOf, targetName } from "../analysis/changes/change.ts";
import { multipliedBy } from "../analysis/changes/multiplied.ts";
import { type Reach, reachOf } from "../analysis/changes/reach.ts";
import { allWrites, directWrites } from "../analysis/changes/writes.ts";
import { missingTables } from "../analysis/names/missing.ts";
import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import { annotation } from "../analysis/script/annotations.ts";
import { type Expectation, expectation } from "../analysis/script/expectations.ts";
import { History } from "../analysis/script/history.ts";
import { Course } from "../analysis/script/mitigations.ts";
import { Timeline } from "../analysis/script/timeline.ts";
import { unfollowed } from "../analysis/statement/unfollowed.ts";
import { type Catalog, type RelationObject, tableKey, type UnreadDdl } from "../catalog/catalog.ts";
import { replay } from "../catalog/ddl/apply.ts";
import { shownName, type Trigger } from "../catalog/model.ts";
import { writtenName } from "../catalog/names.ts";
import { type Check, Checks } from "../hazards/checks.ts";
import type { Draft, HazardContext, JudgedChange, Weight } from "../hazards/hazard.ts";
import { idleAccept, idleAcceptDraft } from "../hazards/reading/idle-accept.ts";
import { record } from "../hazards/record.ts";
import { hazards } from "../hazards/register.ts";
import type { Policy } from "../policy/policy.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import { dialects, isDialectId } from "../sql/dialects/index.ts";
import type { Name, Span, Statement } from "../sql/nodes/tree.ts";
import { executed } from "../sql/reading/executed.ts";
import { type DialectGuess, guessDialect, HEAD } from "../sql/reading/guess.ts";
import { classOf, type ReadStatement, ScriptReader } from "../sql/reading/script.ts";
import { LineMap } from "../text/lines.ts";
import { ownText } from "../text/own-text.ts";
import type { Region } from "../text/region.ts";
import {
  type ChangeSource,
  type Finding,
  heavier,
  type PlacedUnchecked,
  type Review,
  type StatementReview,
  type Verdict,
} from "./result.ts";
import { type ScriptContext, type SourceView, StatementContext } from "./statement-context.ts";

export interface ReviewOptions {
  /**
   * The language of the script. If left out: what a `-- cautela: dialect …` comment says, then the
   * catalog's, then what the script itself looks like (see `guessDialect`).
   */
  dialect?: DialectId;
  /** What the database holds; without it hazards that need it are listed as unchecked. */
  catalog?: Catalog;
  policy?: Policy;
  /** The name of the script in the result. */
  path?: string;
  /** Which statements the result lists: all, or only those with findings (for very long scripts). */
  keep?: "all" | "found";
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
  const stream = new ReviewStream(options);
  stream.push(text, true);
  return stream.result();
}

/**
 * Reviews a script that comes in pieces, with memory for the longest statement and not for the
 * script. Options are those of {@link review}.
 *
 * @example
 * const stream = new ReviewStream({ dialect: "mysql", keep: "found" });
 * for (const piece of pieces) stream.push(piece, false);
 * stream.push("", true);
 * stream.result().verdict
 */
export class ReviewStream {
  readonly #options: ReviewOptions;
  #begun: { session: ReviewSession; reader: ScriptReader } | null = null;
  /** The pieces that wait until there is enough of them to tell the dialect. */
  #head = "";

  constructor(options: ReviewOptions = {}) {
    this.#options = options;
  }

  /** Takes the next piece; `final` with the last one. */
  push(piece: string, final: boolean): void {
    let text = piece;
    if (!this.#begun) {
      text = this.#head + piece;
      this.#head = text;
      if (!final && text.length < HEAD && this.#options.dialect === undefined) return;
      this.#begun = this.#begin(text);
      this.#head = "";
    }
    const { session, reader } = this.#begun;
    let view: SourceView | null = null;
    reader.push(text, final, (statement) => {
      view ??= sourceView(reader);
      session.add(statement, view);
    });
    if (final && reader.trailing.length > 0) session.trail(reader.trailing, view ?? sourceView(reader));
  }

  /** The head of the script decides the dialect where nobody else has. */
  #begin(piece: string): { session: ReviewSession; reader: ScriptReader } {
    const { dialect, reason } = scriptDialect(piece, this.#options);
    const session = new ReviewSession({ ...this.#options, dialect, dialectReason: reason });
    return { session, reader: new ScriptReader(dialect) };
  }

  result(): Review {
    if (!this.#begun) this.push("", true);
    this.#begun ??= this.#begin("");
    return this.#begun.session.result();
  }
}

/** The text that a reader holds, and its places. */
function sourceView(reader: ScriptReader): SourceView {
  const { text, base, line } = reader.buffer;
  const lines = new LineMap(text, base, line);
  return { slice: (start, end) => text.slice(Math.max(0, start - base), end - base), lines };
}

/** Which language a script is in: as asked for, as it says itself, as its catalog, or as it looks. */
function scriptDialect(text: string, options: ReviewOptions): DialectGuess {
  const said = options.dialect ?? declaredDialect(text) ?? options.catalog?.dialect;
  return said === undefined ? guessDialect(text) : { dialect: said, reason: "" };
}

/** The dialect that a comment at the head of the script names. */
function declaredDialect(text: string): DialectId | null {
  const match = /(?:--|#|\/\*)[ \t]*cautela:[ \t]*dialect[ \t]+([a-z]+)/i.exec(text.slice(0, 4000));
  const id = match?.[1].toLowerCase();
  return id !== undefined && isDialectId(id) ? id : null;
}

/** A review in progress: statements go in one by one, in the order of the script. */
export class ReviewSession {
  readonly #dialect: DialectId;
  readonly #policy: Policy;
  readonly #path: string;
  /** What the database would hold at this point of the script; null without a catalog. */
  readonly #catalog: Catalog | null;
  readonly #before: Catalog | null;
  readonly #course: Course;
  readonly #result: Pick<Review, "path" | "dialect" | "verdict" | "statements" | "findings" | "unchecked">;
  /** What is listed as unchecked, by reason. */
  readonly #lacks = new Map<string, PlacedUnchecked>();
  readonly #keepAll: boolean;
  readonly #read: ReadStatement[] = [];
  readonly #excerpts = new Map<number, string>();
  /** Statements on which a finding may come to stand later, with short excerpts. */
  readonly #spare = new Map<number, { excerpt: string; review: StatementReview }>();
  /** Accepted hazards that may still be found. */
  readonly #waiting = new Map<string, { statement: number; region: Region; id: string; reason: string }>();
  #finished = false;
  readonly #sources = new Map<number, ChangeSource>();
  readonly #ripples = new Map<number, readonly FiredRipple[]>();
  readonly #dialectReason: string;
  readonly #history = new History();
  readonly #timeline: Timeline;
  readonly #script: ScriptContext;
  readonly #checks: Checks;
  #pending: { statement: ReadStatement; source: SourceView } | null = null;
  #count = 0;

  constructor(options: ReviewOptions & { dialect: DialectId; dialectReason?: string }) {
    this.#dialect = options.dialect;
    this.#dialectReason = options.dialectReason ?? "";
    this.#policy = options.policy ?? {};
    this.#path = options.path ?? "";
    this.#before = options.catalog ?? null;
    this.#catalog = options.catalog?.fork() ?? null;
    this.#course = new Course(dialects[this.#dialect], this.#policy);
    this.#timeline = new Timeline(dialects[this.#dialect], this.#policy);
    this.#keepAll = options.keep !== "found";
    this.#checks = new Checks(this.#policy);
    this.#script = {
      dialect: dialects[this.#dialect],
      catalog: this.#catalog,
      policy: this.#policy,
      history: this.#history,
      timeline: this.#timeline,
    };
    this.#result = {
      path: this.#path,
      dialect: this.#dialect,
      verdict: "clear",
      statements: [],
      findings: [],
      unchecked: [],
    };
  }

  result(): Review {
    this.#flush(null);
    this.#finish();
    return {
      ...this.#result,
      dialectReason: this.#dialectReason,
      statementCount: this.#count,
      excerpts: this.#excerpts,
      read: this.#read,
      ripples: this.#ripples,
      sources: this.#sources,
      policy: this.#policy,
      catalog: this.#catalog,
      before: this.#before,
    };
  }

  /** Takes the next statement; it is reviewed when the one behind it is known. */
  add(statement: ReadStatement, source: SourceView): void {
    this.#flush(statement);
    this.#pending = { statement, source };
  }

  /** Takes the comments behind the last statement: they are read with it. */
  trail(comments: readonly Span[], view: SourceView): void {
    const waiting = this.#pending;
    if (!waiting) return;
    const { statement, source } = waiting;
    // They may have come with a later piece than the statement.
    const of = (offset: number): SourceView => (offset >= comments[0].start ? view : source);
    this.#pending = {
      statement: { ...statement, comments: [...statement.comments, ...comments] },
      source: {
        slice: (start, end) => of(start).slice(start, end),
        lines: { at: (offset) => of(offset).lines.at(offset) },
      },
    };
  }

  /** Reviews the statement that waits, and the statements that run inside it. */
  #flush(next: ReadStatement | null): void {
    const waiting = this.#pending;
    if (!waiting) return;
    this.#pending = null;
    const { statement, source } = waiting;
    const outer = this.#count;
    this.#one(statement, source, next, false, null);
    if (!runsOthers(statement.tree)) return;
    const inCode = statement.tree.kind !== "dynamic" && !dialects[this.#dialect].syntax.controlFlow;
    for (const tree of executed(statement.tree)) {
      const { start, end } = tree;
      const inner = { kind: tree.kind, class: classOf(tree), tree, start, end };
      this.#one({ ...inner, comments: [], terminator: "", rows: 0, repeat: 1 }, source, null, inCode, outer);
    }
  }

  /** `inside`: the index of the statement within which this one runs. */
  #one(
    statement: ReadStatement,
    source: SourceView,
    next: ReadStatement | null,
    inCode: boolean,
    inside: number | null,
  ): void {
    const { tree } = statement;
    const index = this.#count++;
    const before = this.#result.findings.length;
    const region = regionOf(statement, source.lines);
    const judged = this.#judge(tree);
    const place = { statement: index, region };
    const context = new StatementContext(this.#script, statement, source, next, inCode, place, judged);
    let verdict = this.#find(context);
    if (statement.comments.length > 0) verdict = heavier(verdict, this.#settleAccepts(context, before));
    const found = this.#result.findings.length > before;
    if (this.#keepAll || found || this.#spare.size < SPARE) this.#keep(context, verdict, found, inside);
    if (context.ripples.length > 0 && (this.#keepAll || found)) this.#ripples.set(index, context.ripples);
    this.#result.verdict = heavier(this.#result.verdict, verdict);
    this.#uncheck(context, index, region.line, judged);
    record(context, this.#history, place);
    this.#timeline.note({
      tree,
      at: place,
      changes: judged,
      ripples: context.ripples,
      catalog: this.#catalog,
      slice: source.slice,
      backup: statement.comments.length > 0 ? keptElsewhere(statement, source) : null,
    });
    this.#course.note(tree, this.#catalog);
    if (this.#catalog) replay(this.#catalog, tree, source.slice);
  }

  /** Looks for every hazard that the statement may hold, and gives the weight of what stands on it. */
  #find(context: StatementContext): Verdict {
    const { tree, statement, at } = context;
    let verdict: Verdict = "clear";
    let accepts: Map<string, string> | null = null;
    for (const check of this.#checks.of(tree.kind, context.traits)) {
      const drafts = this.#run(check, context);
      for (let i = 0; i < drafts.length; i++) {
        const draft = drafts[i];
        // The same said of two places that read alike is said once.
        if (i > 0 && drafts.some((one, k) => k < i && one.message === draft.message && one.at === draft.at)) continue;
        const weight = check.fixed ?? draft.weight ?? check.usual;
        if (draft.at && draft.at.statement !== at.statement) {
          this.#late(check.id, weight, draft, draft.at);
          continue;
        }
        if (statement.comments.length > 0) accepts ??= this.#accepts(context);
        const accepted = accepts?.get(check.id) ?? null;
        this.#result.findings.push(findingOf(check.id, weight, draft, draft.at ?? at, accepted));
        if (accepted === null) verdict = heavier(verdict, weight);
      }
    }
    return verdict;
  }

  /** Runs one check; a statement that is nested too deep for it is listed as not judged. */
  #run(check: Check, context: StatementContext): readonly Draft[] {
    try {
      return check.run(context);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      const { statement, region } = context.at;
      this.#missing("the statement is nested too deep to be followed", [check.id], statement, region.line);
      return [];
    }
  }

  /** Accepted hazards that were not found: they may still be, or their acceptance is a finding. */
  #settleAccepts(context: StatementContext, before: number): Verdict {
    const { at } = context;
    let verdict: Verdict = "clear";
    const accepts = this.#accepts(context);
    if (accepts.size === 0) return verdict;
    const { findings } = this.#result;
    const used = new Set<string>();
    for (let i = before; i < findings.length; i++)
      if (findings[i].statement === at.statement && findings[i].accepted !== null) used.add(findings[i].hazard);
    for (const [id, reason] of accepts) {
      if (used.has(id)) continue;
      // What a later statement, or the end of the script, may still find here.
      if (LATE.has(id)) this.#waiting.set(`${at.statement} ${id}`, { ...at, id, reason });
      else {
        const said = this.#policy.weights?.[idleAccept.id];
        if (said === "off") continue;
        const weight = said ?? idleAccept.weight;
        const accepted = accepts.get(idleAccept.id) ?? null;
        findings.push(findingOf(idleAccept.id, weight, idleAcceptDraft(id), at, accepted));
        if (accepted === null) verdict = heavier(verdict, weight);
      }
    }
    return verdict;
  }

  /** Keeps what the result says of a statement; of one without findings, in case one comes to stand on it later. */
  #keep(context: StatementContext, verdict: Verdict, found: boolean, inside: number | null): void {
    const { tree, statement, at, changes, slice } = context;
    const { region } = at;
    const review: StatementReview = {
      index: at.statement,
      ...region,
      kind: kindOf(tree),
      target: this.#target(tree, changes),
      verdict,
      reach: multiplied(
        changes.length > 0 ? widest(changes.map(({ result }) => result.reach)) : context.insertReach,
        context,
      ),
      writes: allWrites(directWrites(tree, changes, this.#catalog), context.ripples),
    };
    const lineStart = statement.start - (region.column - 1);
    const excerpt = (length: number): string => ownText(slice(lineStart, Math.min(statement.end, lineStart + length)));
    if (found) this.#excerpts.set(at.statement, excerpt(EXCERPT));
    else if (this.#spare.size < SPARE) this.#spare.set(at.statement, { excerpt: excerpt(SHORT), review });
    if (this.#keepAll || found) this.#result.statements.push(review);
    if (!this.#keepAll) return;
    this.#read.push(statement);
    this.#sources.set(at.statement, this.#source(context, changes, inside));
  }

  /** A finding that turned up later stands on an earlier statement, and makes its verdict heavier. */
  #late(hazard: string, weight: Weight, draft: Draft, at: { statement: number; region: Region }): void {
    const key = `${at.statement} ${hazard}`;
    const accepted = this.#waiting.get(key)?.reason ?? null;
    this.#waiting.delete(key);
    this.#result.findings.push(findingOf(hazard, weight, draft, at, accepted));
    const spare = this.#spare.get(at.statement);
    if (spare && !this.#excerpts.has(at.statement)) {
      this.#excerpts.set(at.statement, spare.excerpt);
      if (!this.#keepAll) this.#result.statements.push(spare.review);
    }
    if (accepted !== null) return;
    this.#result.verdict = heavier(this.#result.verdict, weight);
    const earlier = this.#result.statements.find((one) => one.index === at.statement);
    if (earlier) earlier.verdict = heavier(earlier.verdict, weight);
  }

  /** What can be said only at the end of the script. */
  #finish(): void {
    if (this.#finished) return;
    this.#finished = true;
    this.#lacking();
    for (const { id, fixed, usual, finish } of this.#checks.late())
      for (const draft of finish?.(this.#script) ?? [])
        if (draft.at) this.#late(id, fixed ?? draft.weight ?? usual, draft, draft.at);
    for (const { id, statement, region } of this.#waiting.values())
      this.#late(idleAccept.id, idleAccept.weight, idleAcceptDraft(id), { statement, region });
    if (!this.#keepAll) this.#result.statements.sort((a, b) => a.index - b.index);
    this.#result.findings.sort((a, b) => a.line - b.line || a.column - b.column || a.statement - b.statement);
  }

  /** What is missing in the catalog because its DDL could not be read. */
  #lacking(): void {
    const unread = this.#before?.unread ?? [];
    if (unread.length === 0 || this.#count === 0) return;
    const place = ({ path, line, text }: UnreadDdl): string =>
      `line ${line} of ${path === "" ? "the catalog's DDL" : path} could not be read, so what it makes is not known: ${text}`;
    const more = unread.length - LACKING;
    const missing = unread.slice(0, LACKING).map(place);
    if (more > 0) missing.push(`${more} more statements of the catalog's DDL could not be read`);
    for (const what of missing) this.#missing(what, NAME_HAZARDS, 0, 1);
  }

  /** Lists what could not be judged; the same reason once for all the statements that it holds for. */
  #missing(missing: string, hazards: string[], statement: number, line: number): void {
    const key = `${missing}\0${hazards.join(" ")}`;
    const known = this.#lacks.get(key);
    if (!known) {
      const one: PlacedUnchecked = { statement, statements: [statement], missing, hazards, lines: [line] };
      this.#lacks.set(key, one);
      this.#result.unchecked.push(one);
    } else if (known.statements[known.statements.length - 1] !== statement) {
      known.statements.push(statement);
      known.lines.push(line);
    }
  }

  #judge(tree: Statement): readonly JudgedChange[] {
    const changes = changesOf(tree, this.#catalog, dialects[this.#dialect]);
    if (changes.length === 0) return NO_CHANGES;
    const judged: JudgedChange[] = [];
    for (const change of changes) {
      const target = targetName(change);
      judged.push({
        change,
        result: reachOf(change),
        target,
        softener: this.#course.softener(change, target),
        copy: this.#course.copyOf(change),
      });
    }
    return judged;
  }

  #source(context: StatementContext, changes: readonly JudgedChange[], inside: number | null): ChangeSource {
    const { tree, statement, slice, ripples } = context;
    const name = tree.kind === "insert" || tree.kind === "merge" ? namedTarget(tree) : null;
    let expected: Expectation | null = null;
    let elsewhere = this.#timeline.declared;
    for (const comment of statement.comments) {
      const said = annotation(slice(comment.start, comment.end), comment);
      if (said?.what === "expect") expected = expectation(said.text);
      if (said?.what === "backup") elsewhere = said.text === "" ? "it is kept elsewhere" : said.text;
    }
    const into = name ? (this.#catalog?.resolveRelation(name) ?? null) : null;
    const triggers = new Map<RelationObject, readonly Trigger[]>();
    const take = (relation: RelationObject | null | undefined): void => {
      if (!relation || !this.#catalog || triggers.has(relation)) return;
      triggers.set(relation, this.#catalog.triggersOf(tableKey(relation.schema, relation.name)));
    };
    take(into);
    for (const { change } of changes) take(change.table);
    for (const { ripple } of ripples) for (const { relation } of ripple.nodes) take(relation);
    return {
      tree,
      text: slice(tree.start, tree.end),
      start: tree.start,
      changes,
      into,
      triggers,
      expected,
      inside,
      elsewhere,
      repeat: statement.repeat,
    };
  }

  /** The hazards that comments of the statement accept, with their reasons. */
  #accepts({ statement, slice }: HazardContext): Map<string, string> {
    const accepts = new Map<string, string>();
    for (const comment of statement.comments) {
      const said = annotation(slice(comment.start, comment.end), comment);
      // The reason is required: without one nothing is accepted.
      if (said?.what === "accept" && said.reason !== "") accepts.set(said.hazard, said.reason);
    }
    return accepts;
  }

  #target(tree: Statement, judged: readonly JudgedChange[]): string | null {
    if (judged.length > 0) return judged[0].target;
    const name = namedTarget(tree);
    if (!name) return null;
    const table = this.#catalog?.resolve(name);
    return table ? shownName(table) : writtenName(name);
  }

  /** Lists what could not be judged about a statement. */
  #uncheck(context: HazardContext, index: number, line: number, judged: readonly JudgedChange[]): void {
    const { tree, names } = context;
    const missing = (what: string, ids: string[]): void => this.#missing(what, ids, index, line);
    if (names) {
      for (const table of missingTables(names, context)) missing(`table ${table} is not in the catalog`, NAME_HAZARDS);
    } else if (judged.some(({ change, softener }) => !change.table && !softener)) {
      missing("no catalog was given, so keys, required columns and row counts are not known", NAME_HAZARDS);
    }
    const cutOff = context.ripples.find(({ ripple }) => ripple.cutOff !== null)?.ripple.cutOff;
    if (cutOff)
      missing(cutOff, ["cascade", "trigger-writes", "trigger-rewrites", "reference-blocks", "routine-writes"]);
    const all = ["every-row", "hollow-filter", "dead-filter"];
    const runs = unfollowed(tree, this.#catalog);
    if (runs !== null) missing(runs, all);
    if (tree.kind === "create-routine" && tree.problem) {
      missing(
        `the body could not be read: ${tree.problem.found} stands where ${tree.problem.expected} was expected`,
        [],
      );
    }
  }
}

/** The name of what a statement works on, where it is not a change of rows. */
function namedTarget(tree: Statement): Name | null {
  switch (tree.kind) {
    case "insert":
    case "merge":
      return tree.target.kind === "table" ? tree.target.name : null;
    case "create-table":
    case "create-view":
    case "create-routine":
    case "alter-table":
    case "opaque":
      return tree.name;
    case "create-index":
    case "copy":
      return tree.table;
    case "drop":
      return tree.names[0] ?? null;
    default:
      return null;
  }
}

const NO_CHANGES: readonly JudgedChange[] = [];

/** The hazards that depend on knowing a table. */
const NAME_HAZARDS = ["unknown-name", "hollow-filter", "dead-filter", "weak-filter", "off-key-join", "fan-out"];

/** What a comment of the statement says about a copy that is kept elsewhere; null: nothing. */
function keptElsewhere(statement: ReadStatement, source: SourceView): string | null {
  for (const comment of statement.comments) {
    const said = annotation(source.slice(comment.start, comment.end), comment);
    if (said?.what === "backup") return said.text;
  }
  return null;
}

/** Hazards that may turn up after their statement. */
const LATE: ReadonlySet<string> = new Set([
  ...hazards.filter(({ finish }) => finish).map(({ id }) => id),
  "early-use",
  "dangling-reference",
]);

/** This many statements of a catalog that could not be read are listed one by one. */
const LACKING = 20;

/** So many statements without findings are remembered, for findings that come to stand on them later. */
const SPARE = 5000;
const SHORT = 400;

function findingOf(
  hazard: string,
  weight: Weight,
  { message, because, remedy }: Draft,
  at: { statement: number; region: Region },
  accepted: string | null,
): Finding {
  return { hazard, weight, statement: at.statement, ...at.region, message, because, remedy, accepted };
}

/** Characters of a statement's source that a report can show. */
const EXCERPT = 4000;

function runsOthers(tree: Statement): boolean {
  return tree.kind === "block" || tree.kind === "if" || tree.kind === "loop" || tree.kind === "dynamic";
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

function regionOf(span: Span, lines: SourceView["lines"]): Region {
  const from = lines.at(span.start);
  const to = lines.at(span.end);
  return { line: from.line, column: from.column, endLine: to.line, endColumn: to.column };
}

/** The kind of a statement as the result names it: `update`, `create table`, `alter trigger`. */
function kindOf(tree: Statement): string {
  switch (tree.kind) {
    case "create-routine":
      return `create ${tree.object}`;
    case "call-statement":
      return "call";
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

/** The reach, or `multiplied` where rows are met several times and that changes the outcome. */
function multiplied(reach: Reach | null, { tree, names, changes }: HazardContext): Reach | null {
  if (!reach || !names || reach.bound === "none") return reach;
  return multipliedBy(tree, names, changes[0]?.change ?? null).length > 0 ? { bound: "multiplied" } : reach;
}

const WIDTH = ["none", "one", "few", "some", "unknown", "every", "multiplied"];

function widest(reaches: readonly Reach[]): Reach {
  return reaches.reduce((a, b) => (WIDTH.indexOf(b.bound) > WIDTH.indexOf(a.bound) ? b : a));
}
