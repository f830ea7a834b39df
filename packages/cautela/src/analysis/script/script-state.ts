import type { Catalog } from "../../catalog/catalog.ts";
import { relationKey } from "../../catalog/catalog.ts";
import type { Policy } from "../../policy/policy.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Statement } from "../../sql/nodes/tree.ts";
import { type Change, targetName } from "../changes/change.ts";
import type { JudgedChange } from "../changes/judged-change.ts";
import { reachOf } from "../changes/reach.ts";
import type { TransactionSpan } from "./copies.ts";
import { Creations } from "./creations.ts";
import { History } from "./history.ts";
import { mitigation } from "./mitigations.ts";
import { Moves } from "./moves.ts";
import { notePast } from "./note-past.ts";
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

  /** Takes a statement into account for those that follow. */
  observe(step: Step): void {
    notePast(step, this.history);
    const before = this.timeline.open;
    this.timeline.note(step);
    if (before?.end === "rollback" && this.timeline.open !== before) this.history.takeBack(before.at.statement);
    const { tree } = step;
    this.creations.note(tree, step.catalog);
    if (tree.kind === "unread")
      this.creations.noteUnread(step.slice(tree.start, Math.min(tree.end, tree.start + 2000)));
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

  /** A change with its reach and with what softens a finding about it, as the script stands now. */
  judge(change: Change, catalog: Catalog | null): JudgedChange {
    const target = targetName(change);
    return {
      change,
      result: reachOf(change),
      target,
      softener: mitigation(change, target, this.creations, catalog, this.#dialect, this.#policy),
      copy: this.creations.copyOf(relationKey(change.name, catalog, this.#dialect)),
    };
  }
}
