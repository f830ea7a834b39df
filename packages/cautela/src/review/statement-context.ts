import { insertReach } from "../analysis/changes/insert-reach.ts";
import { type InsertedRows, insertedRows } from "../analysis/changes/inserted.ts";
import type { Reach } from "../analysis/changes/reach.ts";
import type { Resolution } from "../analysis/names/resolution.ts";
import { resolveStatement } from "../analysis/names/resolve.ts";
import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import { sessionState } from "../analysis/ripples/session.ts";
import { mayRipple, statementRipples } from "../analysis/ripples/statement-ripples.ts";
import { annotation } from "../analysis/script/annotations.ts";
import type { Creations } from "../analysis/script/creations.ts";
import { fingerprint, type History } from "../analysis/script/history.ts";
import type { Moves } from "../analysis/script/moves.ts";
import type { ScriptOrigin } from "../analysis/script/origin.ts";
import type { Returns } from "../analysis/script/returns.ts";
import type { Gate, Step } from "../analysis/script/step.ts";
import type { Timeline } from "../analysis/script/timeline.ts";
import { canonicalChange } from "../analysis/statement/canonical.ts";
import { type NodeIndex, nodeIndexOf } from "../analysis/statement/node-index.ts";
import { relationTraits } from "../analysis/statement/table-traits.ts";
import { Trait } from "../analysis/statement/traits.ts";
import type { Catalog } from "../catalog/catalog.ts";
import { relationKey } from "../catalog/relation-keys.ts";
import type { At, HazardContext, JudgedChange } from "../hazards/hazard.ts";
import { oneLine } from "../hazards/wording.ts";
import type { Policy } from "../policy/policy.ts";
import type { Dialect, SessionState } from "../sql/dialects/dialect.ts";
import type { Span, Statement } from "../sql/nodes/tree.ts";
import type { ReadStatement } from "../sql/reading/script.ts";
import type { Region } from "../text/region.ts";
import { regionOf, type SourceView } from "./source-view.ts";
import type { Speller, Spellings } from "./spelled.ts";

/** What is the same for every statement of a script. */
export interface ScriptContext {
  dialect: Dialect;
  catalog: Catalog | null;
  known: boolean;
  policy: Policy;
  origin: ScriptOrigin;
  start: At;
  history: History;
  timeline: Timeline;
  creations: Creations;
  moves: Moves;
  returns: Returns;
  speller: Speller;
}

const NO_RIPPLES: readonly FiredRipple[] = [];

/** How a statement comes to run, see `HazardContext`. */
export interface Runs {
  readonly inCode: boolean;
  readonly conditional: boolean;
  readonly looped: boolean;
  readonly quoted: boolean;
  readonly gates: readonly Gate[];
}

/** What the hazards are given about one statement; names and nodes are gathered when the first one asks. */
export class StatementContext implements HazardContext, Step {
  readonly dialect: Dialect;
  readonly catalog: Catalog | null;
  readonly known: boolean;
  readonly policy: Policy;
  readonly origin: ScriptOrigin;
  readonly history: History;
  readonly timeline: Timeline;
  readonly creations: Creations;
  readonly moves: Moves;
  readonly statement: ReadStatement;
  readonly tree: Statement;
  readonly changes: readonly JudgedChange[];
  readonly previous: ReadStatement | null;
  readonly next: ReadStatement | null;
  readonly inCode: boolean;
  readonly conditional: boolean;
  readonly quoted: boolean;
  readonly inLoop: boolean;
  readonly gates: readonly Gate[];
  readonly at: At;
  readonly slice: (start: number, end: number) => string;
  readonly #source: SourceView;
  readonly #speller: Speller;
  #names: Resolution | null | undefined = undefined;
  #found: NodeIndex | null = null;
  #ripples: readonly FiredRipple[] | null = null;
  #text: number | null | undefined = undefined;
  #show: ((node: Span) => string) | null = null;

  constructor(
    script: ScriptContext,
    statement: ReadStatement,
    source: SourceView,
    beside: { previous: ReadStatement | null; next: ReadStatement | null },
    runs: Runs,
    at: At,
    changes: readonly JudgedChange[],
  ) {
    this.dialect = script.dialect;
    this.catalog = script.catalog;
    this.known = script.known;
    this.policy = script.policy;
    this.origin = script.origin;
    this.history = script.history;
    this.timeline = script.timeline;
    this.creations = script.creations;
    this.moves = script.moves;
    this.statement = statement;
    this.tree = statement.tree;
    this.changes = changes;
    this.previous = beside.previous;
    this.next = beside.next;
    this.inCode = runs.inCode;
    this.conditional = runs.conditional;
    this.inLoop = runs.looped;
    this.gates = runs.gates;
    this.quoted = runs.quoted;
    this.at = at;
    this.slice = source.slice;
    this.#source = source;
    this.#speller = script.speller;
  }

  /** The engine refuses the statement, see `Draft.refused`. */
  refused = false;

  get names(): Resolution | null {
    if (this.#names === undefined)
      this.#names = this.catalog ? resolveStatement(this.tree, this.catalog, this.dialect) : null;
    return this.#names;
  }

  #insertReach: Reach | null | undefined = undefined;

  #inserted: InsertedRows | null | undefined = undefined;

  get inserted(): InsertedRows | null {
    if (this.#inserted === undefined) this.#inserted = insertedRows(this.tree, this.catalog, this.dialect);
    return this.#inserted;
  }

  get insertReach(): Reach | null {
    if (this.#insertReach === undefined) this.#insertReach = insertReach(this.tree, this.catalog, this.dialect);
    return this.#insertReach;
  }

  get text(): number | null {
    if (this.#text === undefined) {
      const { start, end } = this.statement;
      this.#text =
        end - start > 2000
          ? null
          : fingerprint((canonicalChange(this.tree, this.slice) ?? this.slice(start, end)) + this.#targets());
    }
    return this.#text;
  }

  /** The tables that are changed, as keys: under another search path the same words change another table. */
  #targets(): string {
    return this.changes.map(({ change }) => relationKey(change.name, this.catalog, this.dialect)).join();
  }

  get found(): NodeIndex {
    this.#found ??= nodeIndexOf(this.tree);
    return this.#found;
  }

  #spellings: Spellings | null = null;

  /** How its names are spelled, where any spelling is the same to the engine. */
  get spellings(): Spellings {
    if (this.#spellings) return this.#spellings;
    const { tree, catalog } = this;
    const altered = tree.kind === "alter-table" ? catalog?.resolve(tree.name) : undefined;
    this.#spellings = this.#speller.of(tree, this.names, this.found, altered);
    return this.#spellings;
  }

  /** What the statement holds, see `Trait`. */
  get traits(): number {
    const { names } = this;
    let traits = this.found.traits;
    if (this.changes.length > 0) traits |= Trait.change;
    if (this.statement.class === "structure" || this.tree.kind === "truncate") traits |= Trait.structure;
    if (this.tree.kind === "unread") traits |= Trait.unread;
    if (this.ripples.length > 0) traits |= Trait.ripple;
    if (names && this.catalog) traits |= relationTraits(names, this.tree, this.catalog);
    if (names && (names.open.length > 0 || names.missing.length > 0)) traits |= Trait.openName;
    const lists = this.tree.kind === "insert" || this.tree.kind === "copy";
    if (this.tree.kind === "merge" || (lists && this.tree.columns)) traits |= Trait.columnList;
    if (this.tree.kind === "insert" && this.tree.conflicts.some(({ target }) => target.length > 0))
      traits |= Trait.conflictTarget;
    if (this.statement.comments.length > 0) traits |= Trait.comment;
    return traits;
  }

  /** What a comment of the statement says about a copy that is kept elsewhere; null: nothing. */
  get backup(): string | null {
    return this.#said("backup");
  }

  /** Why its author says, at the head of the script, that this is a first installation; null: nobody says so. */
  get install(): string | null {
    return this.at.statement === 0 ? this.#said("install") : null;
  }

  #said(what: "backup" | "install"): string | null {
    for (const { start, end } of this.statement.comments) {
      const said = annotation(this.slice(start, end), { start, end });
      if (said?.what === what) return said.text;
    }
    return null;
  }

  get session(): SessionState {
    return sessionState(this.dialect, (name) => this.history.setting(name), this.policy);
  }

  get ripples(): readonly FiredRipple[] {
    this.#ripples ??=
      this.catalog && mayRipple(this.tree)
        ? statementRipples(
            this.tree,
            this.changes,
            this.catalog,
            this.dialect,
            () => this.session,
            () => this.found,
          )
        : NO_RIPPLES;
    return this.#ripples;
  }

  // Hazards take these apart from the context, so they are bound to it; most statements are asked for none.

  get show(): (node: Span) => string {
    this.#show ??= ({ start, end }) => oneLine(this.#source.slice(start, Math.min(end, start + 400)));
    return this.#show;
  }

  get region(): (span: Span) => Region {
    return (span) => regionOf(span, this.#source);
  }

  get line(): (offset: number) => number {
    return (offset) => this.#source.lines.at(offset).line;
  }

  get comments(): () => string {
    return () =>
      this.statement.comments
        .map(({ start, end }) => this.#source.slice(start, end))
        .filter((text) => !/cautela\s*:/i.test(text))
        .join("\n");
  }
}
