import type { Catalog } from "../../catalog/catalog.ts";
import { writtenName } from "../../catalog/names.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Policy } from "../../policy/policy.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Statement } from "../../sql/nodes/tree.ts";
import { assignedColumns } from "../changes/assigned-columns.ts";
import { type Change, targetName } from "../changes/change.ts";
import { inLoop } from "../changes/in-loop.ts";
import type { JudgedChange } from "../changes/judged-change.ts";
import { cutOff, type ReachResult, reachOf } from "../changes/reach.ts";
import type { TransactionSpan } from "./copies.ts";
import { Creations } from "./creations.ts";
import { History } from "./history.ts";
import { mitigation } from "./mitigations.ts";
import { Moves } from "./moves.ts";
import { notePast } from "./note-past.ts";
import { returnedRows } from "./returned.ts";
import { Returns } from "./returns.ts";
import type { Step } from "./step.ts";
import { Timeline } from "./timeline.ts";

/** All that is remembered of a script: it is told of each statement after that was reviewed. */
export class ScriptState {
  /** What it has made: tables, columns, whole copies. */
  readonly creations: Creations;
  /** What it has changed, and what later statements are compared with. */
  readonly history = new History();
  /** Transactions, copies, destruction, guards. */
  readonly timeline: Timeline;
  /** The values that it has taken from one place to another. */
  readonly moves: Moves;
  /** What comes back of what it has emptied or dropped. */
  readonly returns: Returns;
  /** The transaction in which the catalog stands, and how much it held at each savepoint. */
  #span: TransactionSpan | null = null;
  readonly #marks = new Map<string, number>();
  readonly #dialect: Dialect;
  readonly #policy: Policy;

  constructor(dialect: Dialect, policy: Policy) {
    this.#dialect = dialect;
    this.#policy = policy;
    this.creations = new Creations(dialect);
    this.timeline = new Timeline(dialect, policy, this.creations);
    this.moves = new Moves(dialect);
    this.returns = new Returns(dialect);
  }

  /**
   * Begins as an earlier script of a change set has left things: copies, new columns, values that were written. Its
   * transaction, its settings and its variables have ended with its session.
   *
   * @param place which script the earlier one is, as messages say it after a line: ` of 01.sql`; `here`: the same of this one
   */
  continueFrom(earlier: ScriptState, statements: number, place: string, here: string): void {
    const { copies } = this.timeline;
    copies.continueFrom(earlier.timeline.copies);
    this.creations.continueFrom(
      earlier.creations,
      copies.list.map(({ name }) => name),
    );
    this.timeline.guards.continueFrom(earlier.timeline.guards, here);
    this.history.continueFrom(earlier.history, statements, place);
    this.history.mayHaveMade ||= earlier.timeline.database !== null;
  }

  /** Begins where the script has ended that this one takes back: what that has made is its own, and its copies are there. */
  takeBack(undone: ScriptState): void {
    this.creations.takesBack(undone.creations);
    this.timeline.copies.continueFrom(undone.timeline.copies);
  }

  /** Takes a statement into account for those that follow. */
  observe(step: Step): void {
    notePast(step, this.history);
    const before = this.timeline.open;
    this.timeline.note(step);
    if (before?.end === "rollback" && this.timeline.open !== before) this.history.takeBack(before.at.statement);
    const { tree } = step;
    this.creations.note(tree, step.catalog);
    if (tree.kind === "unread")
      this.creations.noteUnread(step.slice(tree.start, Math.min(tree.end, tree.start + 2000)), step.catalog);
    this.moves.note(step.tree, step.catalog);
    this.returns.note(step);
  }

  /**
   * Begins, keeps or takes back the changes of a catalog as the transaction of a statement does. Where DDL commits by itself
   * there is nothing to take back.
   */
  transact(catalog: Catalog, tree: Statement): void {
    const { open } = this.timeline;
    if (this.#dialect.run.structureCommits) return;
    const before = this.#span;
    this.#span = open;
    if (before && before !== open) {
      if (before.end === "rollback") catalog.rollback();
      catalog.commit();
      this.#marks.clear();
    }
    if (open && open !== before) catalog.begin();
    if (!open || tree.kind !== "transaction" || !tree.name) return;
    const name = tree.name.text.toLowerCase();
    if (tree.action === "savepoint") this.#marks.set(name, catalog.mark);
    const mark = this.#marks.get(name);
    if (mark !== undefined && (tree.action === "rollback" || tree.action === "rollback-to")) catalog.rollback(mark);
  }

  #bounded(result: ReachResult): ReachResult {
    const rows = this.history.setting("rowcount");
    return rows !== null && /^[1-9]\d{0,9}$/.test(rows) ? cutOff(result, Number(rows)) : result;
  }

  /** A change with its reach and with what softens a finding about it, as the script stands now. */
  judge(change: Change, tree: Statement, catalog: Catalog | null, looped = false): JudgedChange {
    const target = targetName(change);
    const key = relationKey(change.name, catalog, this.#dialect);
    const copy = this.timeline.copies.wholeOf(key, () => lostColumns(change, tree));
    const rows = copy ? null : returnedRows(tree, change, this.#dialect);
    const whole = rows && rows.columns === null && rows.loses === null;
    return {
      change,
      result: looped ? inLoop(this.#bounded(reachOf(change)), change) : this.#bounded(reachOf(change)),
      target,
      softener: mitigation(change, target, this.creations, catalog, this.#dialect, this.#policy),
      copy: copy
        ? `\`${copy.shown}\` keeps a copy of ${copy.columns && tree.kind === "update" ? "its columns" : "the table"}, made earlier`
        : whole
          ? `its rows go into \`${writtenName(rows.into)}\` in the same statement`
          : null,
    };
  }
}

/**
 * The columns of a table whose values a change takes away, with its key where that is known, in small letters; null: they are not
 * known.
 */
function lostColumns({ table }: Change, tree: Statement): string[] | null {
  const known = table && !table.partial ? table : null;
  const lost =
    tree.kind === "update"
      ? assignedColumns(tree.assignments)
      : known?.columns.filter(({ generated }) => !generated).map(({ name }) => name);
  return lost ? [...(known?.primaryKey?.columns ?? []), ...lost].map((name) => name.toLowerCase()) : null;
}
