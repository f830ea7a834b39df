import { writtenName } from "../../catalog/names.ts";
import { namedRelation } from "../../catalog/relation-keys.ts";
import type { Policy } from "../../policy/policy.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { leaves } from "../../sql/reading/executed.ts";
import { ownText } from "../../text/own-text.ts";
import { assignedColumns } from "../changes/assigned-columns.ts";
import type { Change } from "../changes/change.ts";
import { keepsAllValues } from "../changes/own-value.ts";
import { conjuncts, type Reach } from "../changes/reach.ts";
import { takenFrom } from "../changes/taken-from.ts";
import { takesKeys } from "../changes/taken-keys.ts";
import type { FilterFact } from "../conditions/filter-facts.ts";
import { innerSources, namedTable, rowFacts } from "../conditions/row-facts.ts";
import { Destruction, type Lost, type TransactionSpan } from "./copies.ts";
import { CopyLedger } from "./copy-ledger.ts";
import type { Creations } from "./creations.ts";
import { GuardLedger } from "./guard-ledger.ts";
import type { Moment, Step } from "./step.ts";

const NO_RIPPLED: Destruction["ripples"] = [];

/** What brings rows in, and so begins a transaction where autocommit is off. */
const BRINGS: ReadonlySet<Statement["kind"]> = new Set(["insert", "multi-insert", "merge", "copy"]);

/** What may stand in a script that is there to drop things. */
const ONLY_BESIDE: ReadonlySet<Statement["kind"]> = new Set(["transaction", "setting", "directive", "select"]);

/** Whether a DROP takes rows along: a schema that still holds something is refused without CASCADE. */
function dropsRows({ object, cascade }: Extract<Statement, { kind: "drop" }>, { engine }: Dialect): boolean {
  if (object === "table" || object === "database") return true;
  if (object === "schema") return cascade || (engine.useDatabase && !engine.threePartNames);
  return object === "user" && cascade;
}

/** Whether a transaction still stands, in Transact-SQL. */
const LOOKS_FOR_ERRORS = /@@error\b|@@trancount\b|\bxact_state\b/i;

/** This many entries of each kind are kept. */
const KEPT = 4000;

/**
 * What a script does in the course of time, as far as going back is concerned: transactions and silent
 * commits, copies and what becomes of them, what is destroyed, guards that are off, the current database.
 * It is told of every statement after that was reviewed.
 */
export class Timeline {
  readonly copies: CopyLedger;
  readonly destructions: Destruction[] = [];
  readonly spans: TransactionSpan[] = [];
  readonly guards: GuardLedger;
  /** Where a table was altered last in a way that may lose values: the index of the statement, by key. */
  readonly altered = new Map<string, number>();
  /** Where columns were dropped last: the index of the statement, by table and column in small letters. */
  readonly #columnsDropped = new Map<string, number>();
  /** Statements that change rows, and whether they stand in a transaction. */
  readonly changes: { at: Moment; key: string; shown: string; span: TransactionSpan | null; reads: string[] }[] = [];
  /** DDL statements that committed a transaction in which rows had been changed. */
  readonly silentCommits: { at: Moment; span: TransactionSpan; what: string }[] = [];
  /** What the script says about going on after an error; null: nothing. */
  errors: { at: Moment; stops: boolean } | null = null;
  /** The client program ends at the first error (`:on error exit`). */
  exits = false;
  /** The database that USE has made the current one. */
  database: { name: string; at: Moment } | null = null;
  /** Why the script is a first installation: what it makes is its own; null: nobody says so. */
  install: string | null = null;
  /** How many tables it drops, and whether it does nothing else. */
  dropped = 0;
  dropsOnly = true;
  /** Those in a transaction that nobody has begun, since the last COMMIT. */
  readonly #impliedCommits: { at: Moment; span: TransactionSpan; what: string }[] = [];
  /** How much had been destroyed when a savepoint was set. */
  readonly #savepoints = new Map<string, number>();
  readonly #creations: Creations;
  #open: TransactionSpan | null = null;
  /** Where the script finds something amiss, says so, and goes on. */
  warned: { at: Moment; next: Moment | null } | null = null;
  /** Errors are caught: RAISERROR ends the block then. */
  #catches = false;
  /** A change begins a transaction, and only COMMIT ends it: autocommit is off. */
  #keepsOpen = false;
  /** Transactions that were begun inside the open one. */
  #nested = 0;
  #declared: string | null;
  readonly #dialect: Dialect;

  constructor(dialect: Dialect, policy: Policy, creations: Creations) {
    this.#dialect = dialect;
    this.#creations = creations;
    this.copies = new CopyLedger(dialect);
    this.guards = new GuardLedger(dialect, creations);
    this.#declared = policy.backup?.elsewhere ?? null;
    this.#imply({ statement: -1, region: NOWHERE });
  }

  /** What was said so far about a copy that is kept elsewhere; null: nothing. */
  get declared(): string | null {
    return this.#declared;
  }

  /** The transaction that is open now. */
  get open(): TransactionSpan | null {
    return this.#open;
  }

  /** A line for the client has come: the script is run by it. */
  shell = false;
  /** SET SQLBLANKLINES ON: an entry may hold blank lines (Oracle's shell). */
  blankLines = false;

  note(step: Step): void {
    const { tree } = step;
    if (step.backup !== null) this.#declared = step.backup === "" ? "it is kept elsewhere" : step.backup;
    // The reason is required.
    if (step.install) this.install = step.install;
    this.#transactions(step);
    this.copies.note(step);
    this.#destroying(step);
    const held = this.#open !== null && !this.#dialect.run.structureCommits;
    this.guards.note(step, held, (table) => this.changes.some(({ key }) => key === table));
    if (tree.kind === "setting" && tree.name === "database") this.database = { name: tree.value, at: step.at };
    if (tree.kind === "directive") this.#directive(tree.text, step.at);
    if (tree.kind === "drop") this.dropped += tree.object === "table" ? tree.names.length : 0;
    else if (!ONLY_BESIDE.has(tree.kind)) this.dropsOnly = false;
    if (tree.kind === "setting" && tree.name === "xact_abort")
      this.errors = { at: step.at, stops: /^on$/i.test(tree.value) };
  }

  /** A batch has ended: what comes next is sent by itself (tsql). */
  endBatch(): void {
    if (this.#open) this.#open.batches++;
  }

  #directive(text: string, at: Moment): void {
    if (text.trim() !== "/") this.shell = true;
    const blank = /^set\s+sqlbl(?:anklines)?\s+(on|off)\b/i.exec(text);
    if (blank) this.blankLines = blank[1].toLowerCase() === "on";
    const psql = /^\\set\s+ON_ERROR_STOP(?:\s+(\S+))?/i.exec(text);
    if (psql) this.errors = { at, stops: !/^(?:off|0|false)$/i.test(psql[1] ?? "on") };
    const psqlCommit = /^\\set\s+AUTOCOMMIT\s+(\S+)/i.exec(text);
    if (psqlCommit) this.#keepsOpen = /^(?:off|0|false)$/i.test(psqlCommit[1]);
    const bail = /^\.bail\s+(\S+)/i.exec(text);
    if (bail) this.errors = { at, stops: /^(?:on|1|yes)$/i.test(bail[1]) };
    const whenever = /^whenever\s+(?:sqlerror|oserror)\s+(exit|continue)/i.exec(text);
    if (whenever) this.errors = { at, stops: whenever[1].toLowerCase() === "exit" };
    if (/^:on\s+error\s+exit/i.test(text)) {
      this.errors = { at, stops: true };
      this.exits = true;
    }
  }

  // ------------------------------------------------------------ transactions

  #transactions(step: Step): void {
    const { tree, at, conditional, slice } = step;
    // IF @@ERROR <> 0 ROLLBACK is no end; where a branch commits, the whole cannot be taken for a trial.
    if (conditional && tree.kind === "transaction" && tree.action !== "begin" && this.#open) {
      if (tree.action === "commit") {
        this.#open.end = "commit";
        this.#open.implied = false;
      }
      return;
    }
    if (
      tree.kind === "if" &&
      this.#open &&
      LOOKS_FOR_ERRORS.test(slice(tree.start, Math.min(tree.end, tree.start + 300)))
    )
      this.#open.checked = true;
    if (tree.kind === "if" && endsEitherWay(tree)) this.#end("commit", at, "");
    if (tree.kind === "if" && this.#open && tree.branches.some(({ body }) => rollsBackOnly(body)))
      this.#open.goesOn ??= { at, next: null };
    this.#warning(step);
    const left = this.#open?.goesOn;
    if (left && left.next === null && !conditional && step.changes.length > 0) left.next = at;
    if (tree.kind === "transaction") {
      if (tree.action === "begin") {
        if (this.#open?.implied) return;
        // MySQL commits what is open; the others warn, or nest.
        if (this.#open && this.#dialect.run.structureCommits) this.#end("silent", at, "BEGIN");
        // T-SQL counts them: only the outermost COMMIT commits.
        if (this.#open && this.#dialect.engine.nestedTransactions) this.#nested++;
        if (!this.#open) this.#begin(at);
      } else if (tree.action === "commit" && this.#nested > 0) this.#nested--;
      else if (tree.action === "commit" || tree.action === "prepare") this.#end("commit", at, "");
      else if (tree.action === "rollback" && !(tree.name && this.#savepoints.has(tree.name.text.toLowerCase())))
        this.#end("rollback", at, "");
      else if (tree.action === "savepoint" && tree.name)
        this.#savepoints.set(tree.name.text.toLowerCase(), this.destructions.length);
      else if (tree.name) {
        const from = this.#savepoints.get(tree.name.text.toLowerCase());
        if (from !== undefined) for (const lost of this.destructions.slice(from)) lost.undone = true;
      }
      return;
    }
    if (tree.kind === "setting" && (tree.name === "autocommit" || tree.name === "implicit_transactions")) {
      const on = tree.name === "autocommit" ? !/^(?:0|off|false)$/i.test(tree.value) : /^on$/i.test(tree.value);
      // The default of autocommit is on, and a dump puts back what it has noted.
      this.#keepsOpen = tree.name === "autocommit" ? !on : on;
      // To switch it on again commits what is open.
      if (tree.name === "autocommit" && on) this.#end("commit", at, "");
      return;
    }
    if (this.#keepsOpen && !this.#open && (step.changes.length > 0 || BRINGS.has(tree.kind))) this.#begin(at);
    if (this.#open && this.#dialect.run.structureCommits && commitsSilently(tree)) {
      const what = tree.kind === "opaque" ? `${tree.verb} ${tree.object}`.trim() : tree.kind.replace("-", " ");
      this.#end("silent", at, what.toUpperCase());
    }
  }

  /** IF … RAISERROR, which tells and does not end the batch, and the first change after it (tsql). */
  #warning({ tree, at, conditional, changes }: Step): void {
    if (tree.kind === "block" && tree.handlers.length > 0) this.#catches = true;
    if (
      !this.warned &&
      tree.kind === "if" &&
      !this.#catches &&
      tree.branches.length === 1 &&
      onlyWarns(tree.branches[0].body)
    )
      this.warned = { at, next: null };
    else if (this.warned && this.warned.next === null && !conditional && changes.length > 0) this.warned.next = at;
  }

  /** Whether a column of a table is dropped after a statement. */
  dropsColumnAfter(key: string, column: string, statement: number): boolean {
    return (this.#columnsDropped.get(`${key}\0${column.toLowerCase()}`) ?? -1) > statement;
  }

  #begin(at: Moment): void {
    const span: TransactionSpan = { ...newSpan(at), implied: false, end: "open" };
    this.#open = span;
    if (this.spans.length < KEPT) this.spans.push(span);
  }

  /** Where the engine is always in a transaction, the next one begins with the end of the one before. */
  #imply(at: Moment): void {
    if (this.#dialect.run.alwaysInTransaction) this.#open = { ...newSpan(at), implied: true, end: "commit" };
  }

  #end(how: "commit" | "rollback" | "silent", at: Moment, what: string): void {
    const span = this.#open;
    if (!span) return;
    if (span.end === "open" || (span.implied && how === "rollback")) span.end = how;
    span.endAt = at;
    this.#nested = 0;
    // A copy that was made in it is gone with it.
    if (span.end === "rollback")
      for (let i = this.copies.list.length - 1; i >= 0 && this.copies.list[i].at.statement > span.at.statement; i--)
        this.copies.list[i].undone ??= at;
    if (how === "silent" && !span.implied && this.silentCommits.length < KEPT)
      this.silentCommits.push({ at, span, what });
    this.#open = null;
    this.#impliedEnd(span, how, at, what);
  }

  /** DDL between changes is everyday work in Oracle; what it has committed matters where a ROLLBACK is to bring that back. */
  #impliedEnd(span: TransactionSpan, how: "commit" | "rollback" | "silent", at: Moment, what: string): void {
    if (how === "silent" && span.implied && span.changes > 0 && this.#impliedCommits.length < KEPT)
      this.#impliedCommits.push({ at, span, what });
    if (how === "rollback") this.silentCommits.push(...this.#impliedCommits);
    if (how !== "silent") this.#impliedCommits.length = 0;
    this.#imply(at);
  }

  // ------------------------------------------------------------ destruction

  #destroying(step: Step): void {
    const { at, catalog, ripples } = step;
    const rippled =
      ripples.length === 0
        ? NO_RIPPLED
        : ripples.flatMap(({ ripple }) =>
            ripple.nodes
              .filter(
                ({ id, written, action }) =>
                  id !== 0 && written && (action === "delete" || action === "update" || action === "truncate"),
              )
              .map(({ name, action }) => ({ name, action: String(action) })),
          );
    const add = (one: Lost): void => {
      if (this.destructions.length >= KEPT) return;
      this.destructions.push(
        new Destruction(
          at,
          one,
          this.#declared,
          rippled.length === 0 ? rippled : rippled.filter(({ name }) => name !== one.shown),
          this.#open,
          this.copies.list.length,
        ),
      );
    };
    for (const { change, result, target: shown, softener } of step.changes) {
      const { reach } = result;
      const { key } = namedRelation(change.name, catalog, this.#dialect);
      if (this.#open) this.#open.changes++;
      this.#change(step, key, shown);
      if (reach.bound === "none") continue;
      // A rule, or a trigger that stands in its place, does something else with the rows.
      const own = ripples.find(({ firing }) => firing.change === change)?.ripple.nodes[0];
      if (own?.object === "table" && !own.written) continue;
      if (this.destructions.length >= KEPT) continue;
      const { statement } = change;
      const where = "where" in statement ? statement.where : null;
      const parts = where ? conjuncts(where) : [];
      const joined = change.conditions.length > parts.length && change.conditions.some((one) => one.where === "join");
      if (takesKeys(change))
        add({ key, shown, action: "replace", columns: null, table: change.table ?? null, reach: { bound: "some" } });
      const columns = statement.kind === "update" ? lostColumns(statement.assignments, parts) : null;
      if (columns && columns.length === 0) continue;
      if (keepsAllValues(statement, step)) continue;
      add({
        key,
        shown,
        action: change.action,
        columns,
        joined,
        where,
        facts: this.copies.hasFiltered(key),
        rows: this.copies.hasFiltered(key) ? (changedRows(change, step.slice) ?? undefined) : undefined,
        slice: step.slice,
        reach,
        table: change.table ?? null,
        softener,
        source: sourceOf(step, change),
        conditions: isLong(step) ? [] : change.conditions,
        among: this.copies.list.length === 0 ? [] : takenFrom(change, catalog, this.#dialect),
      });
    }
    this.#destroyedOtherwise(step, add);
  }

  /** What statements destroy that change no rows by a filter: a drop, a partition, REPLACE, a branch of MERGE. */
  #destroyedOtherwise(step: Step, add: (one: Lost) => void): void {
    const { tree, catalog, at } = step;
    switch (tree.kind) {
      case "drop":
        if (tree.object === "") {
          // DROP OWNED BY role (postgresql): its tables with their rows.
          const owned = /^drop\s+owned\s+by\s+([^;]{1,200})/i.exec(
            step.slice(tree.start, Math.min(tree.end, tree.start + 240)),
          );
          if (owned)
            add({
              key: "owned",
              shown: `all that ${owned[1].trim()} owns`,
              action: "drop",
              columns: null,
              table: null,
              reach: { bound: "every" },
            });
        }
        if (dropsRows(tree, this.#dialect))
          for (const name of tree.names) {
            const relation = tree.object === "table" ? catalog?.resolve(name) : undefined;
            // IF EXISTS of a table that the catalog does not hold drops nothing.
            if (tree.object === "table" && tree.ifExists && catalog?.complete && !relation) continue;
            const { key, shown } = namedRelation(name, catalog, this.#dialect);
            if (tree.object === "table" && this.#creations.everMade(key)) continue;
            const reach: Reach = relation?.rows == null ? { bound: "every" } : { bound: "every", rows: relation.rows };
            add({
              key,
              shown: tree.object === "table" ? shown : writtenName(name),
              action: "drop",
              columns: null,
              table: relation ?? null,
              reach,
            });
          }
        break;
      case "alter-table":
        if (tree.actions.some(({ what }) => LOSES.has(what)))
          this.altered.set(namedRelation(tree.name, catalog, this.#dialect).key, at.statement);
        for (const action of tree.actions)
          if (action.what === "drop-column") {
            if (this.#columnsDropped.size >= KEPT) continue;
            const { key } = namedRelation(tree.name, catalog, this.#dialect);
            this.#columnsDropped.set(`${key}\0${action.name.text.toLowerCase()}`, at.statement);
          } else if (action.what === "drop-partition" || action.what === "truncate-partition") {
            const { key, shown } = namedRelation(tree.name, catalog, this.#dialect);
            add({
              key,
              shown,
              action: "drop-partition",
              columns: null,
              table: catalog?.resolve(tree.name) ?? null,
              reach: { bound: "some" },
            });
          } else if (action.what === "switch" || action.what === "exchange-partition") {
            const { key, shown } = namedRelation(tree.name, catalog, this.#dialect);
            add({
              key,
              shown: `${shown} → ${writtenName(action.table)}`,
              action: action.what === "switch" ? "switch" : "exchange",
              columns: null,
              table: catalog?.resolve(tree.name) ?? null,
              reach: { bound: "some" },
            });
          }
        break;
      case "opaque":
        // To a point in time: every change since then is taken back (Oracle SQL reference, FLASHBACK TABLE).
        if (tree.verb === "flashback" && tree.object === "table" && tree.name) {
          const { key, shown } = namedRelation(tree.name, catalog, this.#dialect);
          const table = catalog?.resolve(tree.name) ?? null;
          add({ key, shown, action: "flashback", columns: null, table, reach: { bound: "some" } });
        }
        break;
      case "copy":
        if (tree.table && tree.replace) {
          const { key, shown } = namedRelation(tree.table, catalog, this.#dialect);
          const table = catalog?.resolve(tree.table) ?? null;
          add({ key, shown, action: "replace", columns: null, table, reach: { bound: "some" } });
        }
        break;
      case "insert":
        if (tree.target.kind === "table") {
          const { key, shown } = namedRelation(tree.target.name, catalog, this.#dialect);
          if (this.#open) this.#open.changes++;
          this.#change(step, key, shown);
          const table = catalog?.resolve(tree.target.name) ?? null;
          if (tree.replace) add({ key, shown, action: "replace", columns: null, table, reach: { bound: "some" } });
          const columns = upserted(tree);
          if (columns.length > 0)
            add({ key, shown, action: "update", columns, filterText: "ON CONFLICT", reach: { bound: "some" }, table });
        }
        break;
      case "merge":
        if (tree.target.kind === "table") {
          const { key, shown } = namedRelation(tree.target.name, catalog, this.#dialect);
          if (this.#open) this.#open.changes++;
          this.#change(step, key, shown);
          const table = catalog?.resolve(tree.target.name) ?? null;
          const updates = tree.whens.filter(({ action }) => action === "update");
          const columns = updates.flatMap(({ assignments }) =>
            assignedColumns(assignments).map((one) => one.toLowerCase()),
          );
          if (columns.length > 0)
            add({ key, shown, action: "update", columns, filterText: "MERGE", reach: { bound: "some" }, table });
          const deletes = tree.whens.filter(({ action, deleteWhere }) => action === "delete" || deleteWhere);
          if (deletes.length > 0) {
            const bySource = deletes.some(
              ({ matched, action }) => matched === "not-matched-by-source" && action === "delete",
            );
            const reach: Reach = { bound: bySource ? "unknown" : "some" };
            add({ key, shown, action: "delete", columns: null, filterText: "MERGE", reach, table });
          }
        }
        break;
      default:
    }
  }

  #change(step: Step, key: string, shown: string): void {
    if (this.changes.length >= KEPT) return;
    const reads: string[] = [];
    // Only rows that come from another table make one change depend on another.
    if (step.tree.kind === "insert" && step.tree.source && step.tree.source.body.kind !== "values")
      walk(step.tree.source, (node) => {
        if (node.kind === "table") reads.push(namedRelation(node.name, step.catalog, this.#dialect).key);
        return undefined;
      });
    this.changes.push({ at: step.at, key, shown, span: this.#open, reads });
  }
}

/** The columns of rows that are there already which an INSERT overwrites with rows of other tables, in small letters. */
function upserted({ conflicts, source }: Extract<Statement, { kind: "insert" }>): string[] {
  const body = source?.body;
  // Rows that stand in the script itself are there to be had again.
  if (body?.kind !== "select" || body.from.length === 0) return [];
  return conflicts.flatMap(({ action, assignments }) =>
    action === "update" ? assignedColumns(assignments).map((one) => one.toLowerCase()) : [],
  );
}

/** Whether a branch raises an error of the ordinary kind and does not leave. */
function onlyWarns(body: readonly Statement[]): boolean {
  return (
    !leaves(body) &&
    body.some((one) => (one.kind === "block" ? onlyWarns(one.body) : one.kind === "opaque" && one.verb === "raiserror"))
  );
}

/** Whether a branch rolls back and does not leave. */
function rollsBackOnly(body: readonly Statement[]): boolean {
  return !leaves(body) && body.some((one) => rollsBack(one));
}

function rollsBack(tree: Statement): boolean {
  if (tree.kind === "block") return rollsBackOnly(tree.body);
  return tree.kind === "transaction" && tree.action === "rollback" && !tree.name;
}

const NOWHERE = { line: 0, column: 0, endLine: 0, endColumn: 0 };

function newSpan(at: Moment): Omit<TransactionSpan, "implied" | "end"> {
  return { at, endAt: null, changes: 0, batches: 0, checked: false, goesOn: null };
}

/** A change with its text, where a query for its rows may be written from it. */
function sourceOf(step: Step, change: Change): Lost["source"] {
  const { tree, slice, inCode, quoted, dialect } = step;
  if (inCode || change.statement !== tree || isLong(step)) return null;
  if (quoted && dialect.syntax.controlFlow && takesParameters(tree)) return null;
  return { change, tree, text: ownText(slice(tree.start, tree.end)), start: tree.start };
}

/** A statement that is longer than this is not kept to the end of the script. */
function isLong({ tree }: Step): boolean {
  return tree.end - tree.start > 2000;
}

/** Whether it has variables: in a text that T-SQL runs they are the parameters of that text. */
function takesParameters(tree: Statement): boolean {
  let found = false;
  walk(tree, ({ kind }) => {
    found ||= kind === "variable";
    return !found;
  });
  return found;
}

/** The rows that a change meets, as conditions on them and on the tables that they are tied to. */
function changedRows({ statement, relation, conditions }: Change, slice: Step["slice"]): readonly FilterFact[] | null {
  const target = relation ? namedTable(relation.source) : null;
  if (!target || statement.kind === "truncate") return null;
  const all =
    statement.kind === "delete" ? [...statement.from, ...statement.using] : [...statement.target, ...statement.from];
  const level = innerSources(all);
  if (!level) return null;
  return rowFacts(
    target.alias,
    level.sources,
    conditions.map(({ expr }) => expr),
    slice,
  );
}

/** The columns whose old values an UPDATE loses: not those whose old value its filter names. */
function lostColumns(
  assignments: Extract<Statement, { kind: "update" }>["assignments"],
  parts: readonly Expr[],
): string[] {
  const known = new Set<string>();
  const column = (expr: Expr): string | null =>
    expr.kind === "column" ? expr.path[expr.path.length - 1].text.toLowerCase() : null;
  for (const part of parts) {
    if (part.kind === "binary" && part.op === "=") {
      const left = column(part.left);
      const right = column(part.right);
      if (left && part.right.kind === "literal") known.add(left);
      if (right && part.left.kind === "literal") known.add(right);
    } else if (part.kind === "in" && !part.negated && part.items?.length === 1 && part.items[0].kind === "literal") {
      const operand = column(part.operand);
      if (operand) known.add(operand);
    } else if (part.kind === "is" && part.test === "null" && !part.negated) {
      const operand = column(part.operand);
      if (operand) known.add(operand);
    }
  }
  const lost: string[] = [];
  for (const column of assignedColumns(assignments)) {
    const lower = column.toLowerCase();
    if (!known.has(lower)) lost.push(lower);
  }
  return lost;
}

/** IF … COMMIT ELSE ROLLBACK: whichever branch runs, the transaction is at its end. */
function endsEitherWay({ branches }: Extract<Statement, { kind: "if" }>): boolean {
  const ends = (one: Statement): boolean =>
    one.kind === "block"
      ? one.body.some(ends)
      : one.kind === "transaction" && (one.action === "commit" || one.action === "rollback");
  return branches.some(({ condition }) => condition === null) && branches.every(({ body }) => body.some(ends));
}

/** What a table may lose values by: a copy that stands before it was made for it. */
const LOSES: ReadonlySet<string> = new Set(["drop-column", "column-type", "change-column"]);

/** DDL statements that commit, in the engines where they do (mysql, plsql). */
function commitsSilently(tree: Statement): boolean {
  switch (tree.kind) {
    case "create-table":
    case "drop":
      return !("temporary" in tree && tree.temporary);
    case "create-index":
    case "alter-table":
    case "create-view":
    case "create-routine":
    case "truncate":
    case "rename":
    case "alter-trigger":
      return true;
    case "opaque":
      return tree.class === "structure" || tree.class === "rights";
    default:
      return false;
  }
}
