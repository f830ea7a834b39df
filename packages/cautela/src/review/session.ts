import { changesOf } from "../analysis/changes/change.ts";
import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import type { TransactionSpan } from "../analysis/script/copies.ts";
import type { ScriptOrigin } from "../analysis/script/origin.ts";
import { ScriptState } from "../analysis/script/script-state.ts";
import type { Gate } from "../analysis/script/step.ts";
import { changedTables } from "../analysis/statement/named-target.ts";
import { Catalog } from "../catalog/catalog.ts";
import { replay } from "../catalog/ddl/apply.ts";
import type { At, Draft, JudgedChange, Weight } from "../hazards/hazard.ts";
import { idleAccept, idleAcceptDraft } from "../hazards/reading/idle-accept.ts";
import { ofScript } from "../policy/merged.ts";
import { isScriptOf, isTableOf } from "../policy/patterns.ts";
import type { Policy, PolicyWeight } from "../policy/policy.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import { dialects } from "../sql/dialects/index.ts";
import type { Span, Statement } from "../sql/nodes/tree.ts";
import { walk } from "../sql/nodes/visitor.ts";
import { executed, leavesUnless, type RunsIf } from "../sql/reading/executed.ts";
import { classOf, type ReadStatement } from "../sql/reading/script.ts";
import { ownText } from "../text/own-text.ts";
import type { Region } from "../text/region.ts";
import { acceptsOf } from "./accepts.ts";
import { Answers } from "./answers.ts";
import { changeSource } from "./change-source.ts";
import { type Check, Checks } from "./checks.ts";
import { contentKey } from "./content-key.ts";
import { Declarations, declared } from "./declarations.ts";
import { inEveryForm } from "./draft-forms.ts";
import { Findings } from "./folding.ts";
import type { ReviewOptions } from "./options.ts";
import { type ChangeSource, heavier, type Review, type StatementReview } from "./result.ts";
import { joinedView, regionOf, type SourceView, shownSpan, withInnerTexts } from "./source-view.ts";
import { respelled, Speller } from "./spelled.ts";
import { type Runs, type ScriptContext, StatementContext } from "./statement-context.ts";
import { statementReview } from "./statement-result.ts";
import { Unchecked } from "./unchecked.ts";
import { UnjudgedStatements } from "./unjudged.ts";

/** What waits for the end of the script: something may be said then that makes it lighter. */
interface Unsettled {
  check: Check;
  draft: Draft;
  at: At;
  accepted: string | null;
  /** The transaction in which it stands. */
  span: TransactionSpan | null;
  /** The weight that the policy gives it for the tables of its statement. */
  given: Weight | null;
}

/** How an earlier script of a change set has left things for the next one. */
export interface Earlier {
  readonly dialect: DialectId;
  readonly state: ScriptState;
  readonly statements: number;
  readonly path: string;
  readonly catalog: Catalog;
  /** The catalog in which it began. */
  readonly before: Catalog;
  /** Its statements, as they were read; empty where not all of them are kept. */
  readonly read: readonly ReadStatement[];
}

/** How many tables a script makes, and how many statements change structure; and how many of them the engine refuses. */
export interface Made {
  tables: number;
  tablesRefused: number;
  structure: number;
  structureRefused: number;
}

/** A review in progress: statements go in one by one, in the order of the script. */
export class ReviewSession {
  readonly #dialect: DialectId;
  readonly #policy: Policy;
  readonly #path: string;
  /** What the database would hold at this point of the script. */
  readonly #catalog: Catalog;
  readonly #before: Catalog | null;
  readonly #state: ScriptState;
  readonly #result: Pick<Review, "path" | "dialect" | "verdict" | "statements" | "findings" | "unchecked" | "unjudged">;
  readonly #unchecked: Unchecked;
  readonly #unjudged = new UnjudgedStatements();
  readonly #answers = new Answers();
  readonly #made: Made = { tables: 0, tablesRefused: 0, structure: 0, structureRefused: 0 };
  readonly #keepAll: boolean;
  readonly #read: ReadStatement[] = [];
  readonly #excerpts = new Map<number, string>();
  readonly #contents = new Map<number, string>();
  /** Statements on which a finding may come to stand later, with short excerpts. */
  readonly #spare = new Map<number, { excerpt: string; text: string; key: string | null; review: StatementReview }>();
  /** Accepted hazards that may still be found. */
  readonly #waiting = new Map<string, { statement: number; region: Region; id: string; reason: string }>();
  readonly #unsettled: Unsettled[] = [];
  #finished = false;
  readonly #sources = new Map<number, ChangeSource>();
  readonly #ripples = new Map<number, readonly FiredRipple[]>();
  readonly #dialectReason: string;
  readonly #script: ScriptContext;
  readonly #declared: Declarations;
  readonly #findings: Findings;
  readonly #checks: Checks;
  #pending: { statement: ReadStatement; source: SourceView } | null = null;
  #previous: ReadStatement | null = null;
  /** The conditions that the batch has passed so far. */
  #passed: readonly Gate[] = NO_GATES;
  #noexec = false;
  #count = 0;

  /** `undo`: the script takes the earlier one back. */
  constructor(
    options: ReviewOptions & { dialect: DialectId; dialectReason?: string; earlier?: Earlier | null; undo?: boolean },
  ) {
    this.#dialect = options.dialect;
    this.#dialectReason = options.dialectReason ?? "";
    this.#path = options.path ?? "";
    this.#policy = ofScript(options.policy ?? {}, this.#path);
    const earlier = options.earlier?.dialect === this.#dialect ? options.earlier : null;
    const found = earlier?.catalog ?? options.catalog;
    this.#before = options.catalog && found ? found : null;
    // Without one, the tables that the script makes are known all the same.
    this.#catalog = found?.fork() ?? new Catalog(this.#dialect, { complete: false });
    const dialect = dialects[this.#dialect];
    this.#state = new ScriptState(dialect, this.#policy);
    if (earlier && options.undo) this.#state.takeBack(earlier.state);
    else if (earlier)
      this.#state.continueFrom(earlier.state, earlier.statements, placeIn(earlier.path), placeIn(this.#path));
    if (isScriptOf(this.#path, this.#policy.install ?? [])) this.#state.timeline.install = "the policy says so";
    this.#keepAll = options.keep !== "found";
    this.#declared = options.hazards ? new Declarations(options.hazards) : declared;
    this.#findings = new Findings(this.#declared);
    this.#checks = new Checks(this.#declared, this.#policy);
    this.#unchecked = new Unchecked(this.#declared);
    const { history, timeline, creations, moves, returns } = this.#state;
    const known = { history, timeline, creations, moves, returns };
    const origin: ScriptOrigin = {
      date: options.date ?? null,
      rewritten: options.rewritten ?? null,
      undoes: null,
      undoneBy: null,
    };
    const start = { statement: 0, region: { line: 1, column: 1, endLine: 1, endColumn: 1 } };
    const own = { dialect, catalog: this.#catalog, known: this.#before !== null, policy: this.#policy };
    this.#script = { ...own, origin, start, ...known, speller: new Speller() };
    this.#result = {
      path: this.#path,
      dialect: this.#dialect,
      verdict: "clear",
      statements: [],
      findings: this.#findings.list,
      unchecked: this.#unchecked.list,
      unjudged: this.#unjudged.list,
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
      contents: this.#contents,
      known: [],
      answers: this.#answers.list,
      undoes: this.#script.origin.undoes?.path ?? null,
      read: this.#read,
      ripples: this.#ripples,
      sources: this.#sources,
      policy: this.#policy,
      catalog: this.#before ? this.#catalog : null,
      before: this.#before,
    };
  }

  /** How it leaves things for the next script of a change set: asked after its last statement, and before its result. */
  get left(): Earlier {
    this.#flush(null);
    const [dialect, state, path, catalog] = [this.#dialect, this.#state, this.#path, this.#catalog];
    const before = this.#catalog.below ?? new Catalog(dialect, { complete: false });
    return { dialect, state, statements: this.#count, path, catalog, before, read: this.#read };
  }

  /** What the script makes; asked after its last piece. */
  get made(): Readonly<Made> {
    this.#flush(null);
    return this.#made;
  }

  /** Says of the whole script what could not be judged. */
  lacks(missing: string, hazards: string[]): void {
    this.#unchecked.add(missing, hazards, 0, this.#script.start.region.line);
  }

  /** Whether a later script of the change set may still decide something of this one; asked after its last piece. */
  get waits(): boolean {
    this.#flush(null);
    return this.#state.timeline.guards.waits;
  }

  /** Says what the script is to others, as far as that is known only now; asked for before its result. */
  stands(origin: Partial<ScriptOrigin>): void {
    this.#script.origin = { ...this.#script.origin, ...origin };
  }

  /** Takes the next statement; it is reviewed when the one after it is known. */
  add(statement: ReadStatement, source: SourceView): void {
    this.#flush({ statement, source });
    this.#pending = { statement, source };
  }

  /** Takes the comments after the last statement: they are read with it. */
  trail(comments: readonly Span[], view: SourceView): void {
    const waiting = this.#pending;
    if (!waiting) return;
    const { statement, source } = waiting;
    this.#pending = {
      statement: { ...statement, comments: [...statement.comments, ...comments] },
      source: joinedView(source, view),
    };
  }

  /** Reviews the statement that waits, and the statements that run inside it. */
  #flush(next: { statement: ReadStatement; source: SourceView } | null): void {
    const waiting = this.#pending;
    if (!waiting) return;
    this.#pending = null;
    const { statement } = waiting;
    // Checks look at what comes after the statement too.
    const held = next ? joinedView(waiting.source, next.source) : waiting.source;
    const source = withInnerTexts(held, statement, next?.statement);
    const outer = this.#count;
    const runs = this.#passed.length === 0 ? ALWAYS : { ...ALWAYS, gates: this.#passed };
    this.#one(statement, source, { previous: this.#previous, next: next?.statement ?? null }, runs, null);
    this.#previous = statement;
    if (runsOthers(statement.tree)) this.#inside(statement, source, outer);
    this.#pass(statement.tree, outer);
    if (statement.terminator === "batch") {
      if (!this.#noexec) this.#passed = NO_GATES;
      this.#state.history.batch.end(source.lines.at(statement.end).line);
      this.#state.timeline.endBatch();
    }
  }

  /** IF … RETURN at the top of a batch: what follows it in the batch runs only otherwise; SET NOEXEC ON holds on. */
  #pass(tree: Statement, asked: number): void {
    if (tree.kind === "setting" && tree.name === "noexec") {
      this.#noexec = false;
      this.#passed = NO_GATES;
      return;
    }
    const left = leavesUnless(tree);
    if (!left || this.#passed.length >= GATES) return;
    this.#passed = [...this.#passed, { ...left, asked }];
    walk(tree, (node) => {
      if (node.kind === "setting" && node.name === "noexec") this.#noexec = true;
      return undefined;
    });
  }

  #gates(conditions: readonly RunsIf[], asked: number): readonly Gate[] {
    if (conditions.length === 0) return this.#passed;
    return [...this.#passed, ...conditions.map((one) => ({ ...one, asked }))];
  }

  /** Reviews the statements that run inside another one. */
  #inside(statement: ReadStatement, source: SourceView, outer: number): void {
    const { kind } = statement.tree;
    const inCode = kind !== "dynamic" && kind !== "create-schema" && !dialects[this.#dialect].syntax.controlFlow;
    for (const { tree, conditional, looped, quoted, conditions } of executed(statement.tree)) {
      const { start, end } = tree;
      const inner = { kind: tree.kind, class: classOf(tree), tree, start, end };
      this.#one(
        { ...inner, comments: [], terminator: "", rows: 0, repeat: 1 },
        source,
        ALONE,
        // Names in a text that is run are none of the block around it.
        {
          inCode: inCode && !quoted,
          conditional,
          looped,
          quoted: quoted || start < 0,
          gates: this.#gates(conditions, outer),
        },
        outer,
      );
    }
  }

  /** `inside`: the index of the statement within which this one runs. */
  #one(
    statement: ReadStatement,
    source: SourceView,
    beside: { previous: ReadStatement | null; next: ReadStatement | null },
    runs: Runs,
    inside: number | null,
  ): void {
    const { tree } = statement;
    const index = this.#count++;
    const before = this.#findings.list.length + this.#unsettled.length;
    const place = { statement: index, region: regionOf(statement, source) };
    const judged = this.#judge(tree, runs.looped);
    if (index === 0) this.#script.start = place;
    const context = new StatementContext(this.#script, statement, source, beside, runs, place, judged);
    const accepts = acceptsOf(statement, source.slice);
    const used = new Set<string>();
    this.#find(context, accepts, used);
    if (accepts.size > 0) this.#settleAccepts(context, accepts, used);
    const found = this.#findings.list.length + this.#unsettled.length > before;
    if (this.#keepAll || found || this.#spare.size < SPARE) this.#keep(context, source, found, inside);
    if (context.ripples.length > 0 && (this.#keepAll || found)) this.#ripples.set(index, context.ripples);
    this.#unchecked.note(context);
    this.#unjudged.note(tree, index);
    if (statement.comments.length > 0) this.#answers.note(statement, source.slice, source.lines, index);
    this.#countMade(tree, context.refused);
    if (context.refused) return;
    this.#state.observe(context);
    // SET LOCAL outside of a transaction does nothing.
    if (tree.kind !== "setting" || tree.scope !== "local" || this.#state.timeline.open)
      replay(this.#catalog, tree, source.slice);
    this.#state.transact(this.#catalog, tree);
  }

  #countMade(tree: Statement, refused: boolean): void {
    if (!/^(?:create-|alter-|rename)/.test(tree.kind)) return;
    this.#made.structure++;
    if (refused) this.#made.structureRefused++;
    if (tree.kind !== "create-table" || tree.ifNotExists || tree.temporary) return;
    this.#made.tables++;
    if (refused) this.#made.tablesRefused++;
  }

  /** Looks for every hazard that the statement may hold. */
  #find(context: StatementContext, accepts: ReadonlyMap<string, string>, used: Set<string>): void {
    const { tree, at } = context;
    const { open } = this.#state.timeline;
    for (const check of this.#checks.of(tree.kind, context.traits)) {
      const drafts = this.#run(check, context);
      for (let i = 0; i < drafts.length; i++) {
        // The same said of two places that read alike is said once.
        if (i > 0 && drafts.some((one, k) => k < i && one.message === drafts[i].message && one.at === drafts[i].at))
          continue;
        const found = context.quoted ? unfixed(drafts[i]) : drafts[i];
        const draft = respelled(found, context.spellings);
        if (draft.at && draft.at.statement !== at.statement) {
          this.#late(check, draft, draft.at);
          continue;
        }
        if (draft.refused) context.refused = true;
        const given = weightForTables(check, context);
        if (given === "off") continue;
        const accepted = accepts.get(check.id) ?? null;
        if (accepted !== null) used.add(check.id);
        const waits = draft.settle !== undefined || draft.structural || (check.lasting && open !== null);
        if (waits && this.#unsettled.length < UNSETTLED)
          this.#unsettled.push({ check, draft, at: draft.at ?? at, accepted, span: open, given });
        else this.#findings.add(check.id, given ?? weightOf(check, draft), draft, draft.at ?? at, accepted);
      }
    }
  }

  /** Says what waited for the end of the script, as heavy as it is then. */
  #settle(): void {
    for (const { check, draft, at, accepted, span, given } of this.#unsettled) {
      const settled = draft.settle ? draft.settle(this.#script) : draft;
      if (!settled) continue;
      const said = inTrial(check, undone(settled, this.#script.origin), span);
      this.#findings.add(check.id, given ?? weightOf(check, said), said, at, accepted);
    }
    this.#unsettled.length = 0;
  }

  /** Runs one check; a statement that is nested too deep for it is listed as not judged. */
  #run(check: Check, context: StatementContext): readonly Draft[] {
    try {
      return check.run(context);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      const { statement, region } = context.at;
      this.#unchecked.add("the statement is nested too deep to be followed", [check.id], statement, region.line);
      return [];
    }
  }

  /** Accepted hazards that were not found: they may still be, or their acceptance is a finding. */
  #settleAccepts({ at }: StatementContext, accepts: ReadonlyMap<string, string>, used: ReadonlySet<string>): void {
    for (const [id, reason] of accepts) {
      if (used.has(id)) continue;
      // What a later statement, or the end of the script, may still find here.
      if (this.#declared.late.has(id)) this.#waiting.set(`${at.statement} ${id}`, { ...at, id, reason });
      else {
        const said = this.#policy.weights?.[idleAccept.id];
        if (said === "off") continue;
        const accepted = accepts.get(idleAccept.id) ?? null;
        this.#findings.add(idleAccept.id, said ?? idleAccept.weight, idleAcceptDraft(id), at, accepted);
      }
    }
  }

  /** Keeps what the result says of a statement; of one without findings, in case one comes to stand on it later. */
  #keep(context: StatementContext, source: SourceView, found: boolean, inside: number | null): void {
    const { statement, at, slice } = context;
    const { region } = at;
    const review = statementReview(context);
    const { start, end } = shownSpan(statement, source);
    const lineStart = start - (region.column - 1);
    const excerpt = (length: number): string => ownText(slice(lineStart, Math.min(end, lineStart + length)));
    if (found || this.#spare.size < SPARE) {
      const { dialect } = context;
      const text = slice(statement.start, statement.end);
      if (found) {
        this.#excerpts.set(at.statement, excerpt(EXCERPT));
        this.#contents.set(at.statement, contentKey(text, dialect));
      } else {
        // Most are never asked for. A long text is not held for that, unless it is held anyway.
        const key = this.#keepAll || text.length <= EXCERPT ? null : contentKey(text, dialect);
        const kept = key === null ? (this.#keepAll ? text : ownText(text)) : "";
        this.#spare.set(at.statement, { excerpt: excerpt(SHORT), text: kept, key, review });
      }
    }
    if (this.#keepAll || found) this.#result.statements.push(review);
    if (!this.#keepAll) return;
    this.#read.push(statement);
    this.#sources.set(at.statement, changeSource(context, inside));
  }

  /** A finding that turned up later stands on an earlier statement. */
  #late({ id, fixed, usual }: Pick<Check, "id" | "fixed" | "usual">, draft: Draft, at: At): void {
    const key = `${at.statement} ${id}`;
    const accepted = this.#waiting.get(key)?.reason ?? null;
    this.#waiting.delete(key);
    const own = this.#findings.add(id, fixed ?? draft.weight ?? usual, draft, at, accepted);
    const spare = own ? this.#spare.get(at.statement) : undefined;
    if (spare && !this.#excerpts.has(at.statement)) {
      this.#excerpts.set(at.statement, spare.excerpt);
      this.#contents.set(at.statement, spare.key ?? contentKey(spare.text, dialects[this.#dialect]));
      if (!this.#keepAll) this.#result.statements.push(spare.review);
    }
  }

  /** What can be said only at the end of the script. */
  #finish(): void {
    if (this.#finished) return;
    this.#finished = true;
    if (this.#count > 0) this.#unchecked.lacking(this.#before);
    if (this.#count > 0 && this.#policy.freeze && this.#script.origin.date === null)
      this.#unchecked.add(
        "the policy has times without changes, and no date was given",
        ["frozen"],
        0,
        this.#script.start.region.line,
      );
    this.#settle();
    for (const check of this.#checks.late())
      for (const draft of check.finish?.(this.#script) ?? [])
        if (draft.at) this.#late(check, undone(draft, this.#script.origin), draft.at);
    const idle = { id: idleAccept.id, fixed: null, usual: idleAccept.weight };
    for (const { id, statement, region } of this.#waiting.values())
      this.#late(idle, idleAcceptDraft(id), { statement, region });
    this.#findings.sorted();
    this.#weigh();
  }

  /** Gives each statement, and the script, the heaviest weight of what was found. */
  #weigh(): void {
    const result = this.#result;
    const verdicts = this.#findings.verdicts();
    for (const verdict of verdicts.values()) result.verdict = heavier(result.verdict, verdict);
    for (const one of result.statements) one.verdict = verdicts.get(one.index) ?? "clear";
    if (this.#keepAll) return;
    // What waited for the end may have come to nothing.
    const found = new Set(this.#findings.list.map(({ statement }) => statement));
    result.statements = result.statements.filter(({ index }) => found.has(index)).sort((a, b) => a.index - b.index);
    for (const index of this.#excerpts.keys()) if (!found.has(index)) this.#excerpts.delete(index);
  }

  #judge(tree: Statement, looped: boolean): readonly JudgedChange[] {
    const changes = changesOf(tree, this.#catalog, dialects[this.#dialect]);
    return changes.length === 0
      ? NO_CHANGES
      : changes.map((change) => this.#state.judge(change, tree, this.#catalog, looped));
  }
}

/** Which script a line stands in, as messages say it after the line. */
function placeIn(path: string): string {
  return path === "" ? " of another script" : ` of ${path}`;
}

/** A draft without its fix: what would be put into the script stands in a text there, whose quotes are doubled. */
function unfixed(draft: Draft): Draft {
  return inEveryForm(draft, ({ fix: _, ...rest }) => rest);
}

function weightOf({ fixed, usual }: Check, draft: Draft): Weight {
  return fixed ?? draft.weight ?? usual;
}

/** The weight that the policy gives a hazard for the tables that a statement changes; null: it says nothing of them. */
function weightForTables({ forTables }: Check, context: StatementContext): PolicyWeight | null {
  if (forTables.length === 0) return null;
  const tables = changedTables(context.tree, context.changes, context.catalog);
  let weight: PolicyWeight | null = null;
  for (const rule of forTables)
    if (rule.tables.includes("*") || tables.some((table) => isTableOf(table, rule.tables))) weight = rule.weight;
  return weight;
}

/** What is about structure alone is worth knowing, no more, where another script brings all structure back. */
function undone(draft: Draft, { undoneBy }: ScriptOrigin): Draft {
  if (!draft.structural || undoneBy === null) return draft;
  return { ...draft, weight: "note", because: [...draft.because, `\`${undoneBy}\` brings all structure back`] };
}

/** What speaks of lasting loss is worth knowing, no more, in a transaction that is rolled back at its end. */
function inTrial(check: Check, draft: Draft, span: TransactionSpan | null): Draft {
  if (!check.lasting || span?.end !== "rollback") return draft;
  return { ...draft, weight: "note", because: [...draft.because, "the transaction is rolled back at its end"] };
}

const ALONE = { previous: null, next: null };
const NO_GATES: readonly Gate[] = [];
const ALWAYS: Runs = { inCode: false, conditional: false, looped: false, quoted: false, gates: NO_GATES };

/** A batch asks at most this often whether it is to go on. */
const GATES = 16;

/** This much waits for the end of the script; beyond that it is told at once. */
const UNSETTLED = 4000;

const NO_CHANGES: readonly JudgedChange[] = [];

/** This many statements without findings are remembered, for findings that come to stand on them later. */
const SPARE = 5000;
const SHORT = 400;

/** Characters of a statement's source that a report can show. */
const EXCERPT = 4000;

function runsOthers(tree: Statement): boolean {
  switch (tree.kind) {
    case "block":
    case "if":
    case "loop":
    case "dynamic":
      return true;
    case "create-schema":
      return tree.elements.length > 0;
    default:
      return false;
  }
}
