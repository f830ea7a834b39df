import { namedRelation } from "../../catalog/catalog.ts";
import type { Table, Trigger } from "../../catalog/model.ts";
import { foldName, writtenName } from "../../catalog/names.ts";
import type { Policy } from "../../policy/policy.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Name, Query, Select, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { ownText } from "../../text/own-text.ts";
import type { Change } from "../changes/change.ts";
import { conjuncts, type Reach } from "../changes/reach.ts";
import { takenFrom } from "../changes/taken-from.ts";
import { assignedColumns } from "../changes/writes.ts";
import type { FilterFact } from "../conditions/filter-facts.ts";
import { innerSources, namedTable, rowFacts, type Tie } from "../conditions/row-facts.ts";
import { Copy, Destruction, type Lost, type TransactionSpan } from "./copies.ts";
import type { Creations } from "./creations.ts";
import { NarrowedGuards } from "./narrowed.ts";
import type { Moment, Step } from "./step.ts";

/** A guard that the script switches off. */
export interface GuardOff {
  at: Moment;
  /** `session` ends with the script; `table` stays off until somebody switches it on. */
  lasts: "session" | "table";
  what: string;
  key: string;
  shown: string;
  back: Moment | null;
  /** Rows that there are have not been looked at when it was switched on again. */
  untrusted: boolean;
  changes: number;
  /** Foreign keys that are put on tables which were there before, meanwhile. */
  keys: number;
}

/** A trigger or foreign key of the catalog that the script drops. */
interface Removed {
  at: Moment;
  what: string;
  key: string;
  shown: string;
  /** When it fired; null: it is a foreign key. */
  fires: Pick<Trigger, "timing" | "events"> | null;
  /** The script makes it again, or drops its table. */
  back: boolean;
}

const NO_RIPPLED: Destruction["ripples"] = [];

/** What may stand in a script that is there to drop things. */
const ONLY_BESIDE: ReadonlySet<Statement["kind"]> = new Set(["transaction", "setting", "directive", "select"]);

/** Whether a DROP takes rows along: a schema that still holds something is refused without CASCADE. */
function dropsRows({ object, cascade }: Extract<Statement, { kind: "drop" }>, { engine }: Dialect): boolean {
  if (object === "table" || object === "database") return true;
  if (object === "schema") return cascade || (engine.useDatabase && !engine.threePartNames);
  return object === "user" && cascade;
}

/** This many entries of each kind are kept. */
const KEPT = 4000;

/**
 * What a script does in the course of time, as far as going back is concerned: transactions and silent
 * commits, copies and what becomes of them, what is destroyed, guards that are off, the current database.
 * It is told of every statement after that was reviewed.
 */
export class Timeline {
  readonly copies: Copy[] = [];
  readonly destructions: Destruction[] = [];
  readonly spans: TransactionSpan[] = [];
  readonly guards: GuardOff[] = [];
  /** Triggers and foreign keys of the catalog that the script drops; `back`: it makes them again. */
  readonly removed: Removed[] = [];
  /** Keys and CHECKs that are put back narrower than they were. */
  readonly narrowed: NarrowedGuards;
  /** Statements that change rows, and whether they stand in a transaction. */
  readonly changes: { at: Moment; key: string; shown: string; span: TransactionSpan | null; reads: string[] }[] = [];
  /** DDL statements that committed a transaction in which rows had been changed. */
  readonly silentCommits: { at: Moment; span: TransactionSpan; what: string }[] = [];
  /** What the script says about going on after an error; null: nothing. */
  errors: { at: Moment; stops: boolean } | null = null;
  /** The database that USE has made the current one. */
  database: { name: string; at: Moment } | null = null;
  /** Why the script is a first installation: what it makes is its own; null: nobody says so. */
  install: string | null = null;
  /** How many tables it drops, and whether it does nothing else. */
  dropped = 0;
  dropsOnly = true;
  /** How much had been destroyed when a savepoint was set. */
  readonly #savepoints = new Map<string, number>();
  readonly #creations: Creations;
  readonly #byTable = new Map<string, Copy[]>();
  readonly #byName = new Map<string, Copy[]>();
  /** Tables of which a copy took some rows by a filter that is followed. */
  readonly #filtered = new Set<string>();
  #open: TransactionSpan | null = null;
  /** Transactions that were begun inside of the open one. */
  #nested = 0;
  #declared: string | null;
  readonly #dialect: Dialect;

  constructor(dialect: Dialect, policy: Policy, creations: Creations) {
    this.#dialect = dialect;
    this.#creations = creations;
    this.narrowed = new NarrowedGuards(dialect);
    this.#declared = policy.backup?.elsewhere ?? null;
  }

  /** What was said so far about a copy that is kept elsewhere; null: nothing. */
  get declared(): string | null {
    return this.#declared;
  }

  /** The transaction that is open now. */
  get open(): TransactionSpan | null {
    return this.#open;
  }

  note(step: Step): void {
    const { tree } = step;
    if (step.backup !== null) this.#declared = step.backup === "" ? "it is kept elsewhere" : step.backup;
    // The reason is required.
    if (step.install) this.install = step.install;
    this.#transactions(step);
    this.#copying(step);
    this.#destroying(step);
    this.#guarding(step);
    this.#removing(step);
    const held = this.#open !== null && !this.#dialect.run.structureCommits;
    this.narrowed.note(step, held, (table) => this.changes.some(({ key }) => key === table));
    if (tree.kind === "setting" && tree.name === "database") this.database = { name: tree.value, at: step.at };
    if (tree.kind === "directive") this.#directive(tree.text, step.at);
    if (tree.kind === "drop") this.dropped += tree.object === "table" ? tree.names.length : 0;
    else if (!ONLY_BESIDE.has(tree.kind)) this.dropsOnly = false;
    if (tree.kind === "setting" && tree.name === "xact_abort")
      this.errors = { at: step.at, stops: /^on$/i.test(tree.value) };
  }

  #directive(text: string, at: Moment): void {
    const psql = /^\\set\s+ON_ERROR_STOP(?:\s+(\S+))?/i.exec(text);
    if (psql) this.errors = { at, stops: !/^(?:off|0|false)$/i.test(psql[1] ?? "on") };
    const bail = /^\.bail\s+(\S+)/i.exec(text);
    if (bail) this.errors = { at, stops: /^(?:on|1|yes)$/i.test(bail[1]) };
    const whenever = /^whenever\s+(?:sqlerror|oserror)\s+(exit|continue)/i.exec(text);
    if (whenever) this.errors = { at, stops: whenever[1].toLowerCase() === "exit" };
    if (/^:on\s+error\s+exit/i.test(text)) this.errors = { at, stops: true };
  }

  // ------------------------------------------------------------ transactions

  #transactions({ tree, at, conditional }: Step): void {
    // IF @@ERROR <> 0 ROLLBACK is no end; where a branch commits, the whole cannot be taken for a trial.
    if (conditional && tree.kind === "transaction" && tree.action !== "begin" && this.#open) {
      if (tree.action === "commit") this.#open.end = "commit";
      return;
    }
    if (tree.kind === "if" && endsEitherWay(tree)) this.#end("commit", at, "");
    if (tree.kind === "transaction") {
      if (tree.action === "begin") {
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
    if (tree.kind === "setting" && tree.name === "autocommit") {
      if (/^(?:0|off)$/i.test(tree.value) && !this.#open) this.#begin(at);
      return;
    }
    if (tree.kind === "setting" && tree.name === "implicit_transactions" && /^on$/i.test(tree.value) && !this.#open)
      this.#begin(at);
    if (this.#open && this.#dialect.run.structureCommits && commitsSilently(tree)) {
      const what = tree.kind === "opaque" ? `${tree.verb} ${tree.object}`.trim() : tree.kind.replace("-", " ");
      this.#end("silent", at, what.toUpperCase());
    }
  }

  #begin(at: Moment): void {
    const span: TransactionSpan = { at, end: "open", endAt: null, changes: 0 };
    this.#open = span;
    if (this.spans.length < KEPT) this.spans.push(span);
  }

  #end(how: "commit" | "rollback" | "silent", at: Moment, what: string): void {
    const span = this.#open;
    if (!span) return;
    if (span.end === "open") span.end = how;
    span.endAt = at;
    this.#nested = 0;
    // A copy that was made in it is gone with it.
    if (span.end === "rollback")
      for (let i = this.copies.length - 1; i >= 0 && this.copies[i].at.statement > span.at.statement; i--)
        this.copies[i].undone ??= at;
    if (how === "silent" && this.silentCommits.length < KEPT) this.silentCommits.push({ at, span, what });
    this.#open = null;
  }

  // ------------------------------------------------------------ copies

  #copying(step: Step): void {
    const { tree, catalog } = step;
    switch (tree.kind) {
      case "create-table": {
        const made = namedRelation(tree.name, catalog, this.#dialect);
        if (tree.query)
          this.#copy(step, tree.query, made, {
            temporary: tree.temporary,
            empty: !tree.withData || /\bno\s+data\b/i.test(tree.options),
            into: false,
          });
        else if (tree.like.length > 0) {
          const source = namedRelation(tree.like[0], catalog, this.#dialect);
          this.#add(Object.assign(new Copy(step.at, source, made), { structureOnly: true, temporary: tree.temporary }));
        }
        break;
      }
      case "select": {
        const { body } = tree.query;
        const target = body.kind === "select" && body.into?.what === "table" ? body.into.targets[0] : null;
        if (body.kind !== "select" || !body.into || target?.kind !== "column") break;
        const name: Name = { kind: "name", parts: target.path, link: null, start: target.start, end: target.end };
        const last = target.path[target.path.length - 1].text;
        this.#copy(step, tree.query, namedRelation(name, catalog, this.#dialect), {
          temporary: body.into.temporary || last.startsWith("#"),
          empty: false,
          into: false,
        });
        break;
      }
      case "insert": {
        if (tree.target.kind !== "table" || !tree.source) break;
        const made = namedRelation(tree.target.name, catalog, this.#dialect);
        // A copy whose structure was made before is filled now.
        const shell = this.#byName.get(made.key)?.find((one) => one.structureOnly && !one.gone);
        this.#copy(step, tree.source, made, { temporary: shell?.temporary ?? false, empty: false, into: !shell });
        break;
      }
      case "drop":
        if (tree.object === "table")
          for (const name of tree.names) this.#lose(namedRelation(name, catalog, this.#dialect).key, step.at);
        break;
      case "truncate":
        for (const { name } of tree.targets) this.#lose(namedRelation(name, catalog, this.#dialect).key, step.at);
        break;
      case "delete":
        for (const { change, result } of step.changes)
          if (result.reach.bound === "every")
            this.#lose(namedRelation(change.name, catalog, this.#dialect).key, step.at);
        break;
      default:
    }
  }

  #lose(key: string, at: Moment): void {
    for (const copy of this.#byName.get(key) ?? []) if (!copy.gone) copy.gone = at;
  }

  #add(copy: Copy): void {
    if (this.copies.length >= KEPT) return;
    copy.place = this.copies.length;
    this.copies.push(copy);
    keep(this.#byTable, copy.of, copy);
    if (copy.filtered && copy.uncertain === null && !copy.structureOnly) this.#filtered.add(copy.of);
    keep(this.#byName, copy.name, copy);
  }

  /** The copies of a table, in the order in which they are made. */
  copiesOf(key: string): readonly Copy[] {
    return this.#byTable.get(key) ?? [];
  }

  #copy(
    step: Step,
    query: Query,
    made: { key: string; shown: string },
    { temporary, empty, into }: { temporary: boolean; empty: boolean; into: boolean },
  ): void {
    const { body } = query;
    const { catalog } = step;
    if (this.copies.length >= KEPT) return;
    if (body.kind === "table-query") {
      this.#add(
        Object.assign(new Copy(step.at, namedRelation(body.name, catalog, this.#dialect), made), {
          structureOnly: empty,
          temporary,
          into,
        }),
      );
      return;
    }
    if (body.kind !== "select") return;
    const [source] = body.from;
    if (body.from.length === 0 || !source) return;
    const first = source.kind === "joined" ? leftmost(source) : source;
    if (first.kind !== "table") return;
    const of = namedRelation(first.name, catalog, this.#dialect);
    if (of.key === made.key) return;
    const copy = new Copy(step.at, of, made);
    copy.temporary = temporary || /(?:^|\.)[#@]/.test(made.shown);
    copy.into = into;
    copy.columns = columnsOf(body);
    const facts =
      query.limit || body.top || body.groupBy.length > 0
        ? null
        : this.#rowsOf(body, first, step.slice, catalog?.byKey(of.key));
    const asks = body.from.length > 1 || source.kind === "joined";
    if (query.limit || body.top) copy.uncertain = "it is cut off by a limit";
    else if (body.groupBy.length > 0) copy.uncertain = "it puts rows together";
    else if (asks && !facts) copy.uncertain = "it joins other tables, so rows may be missing";
    else if (body.distinct && !keepsKey(body, catalog?.byKey(of.key))) copy.uncertain = "it puts rows together";
    if (facts && (asks || facts.some(({ key }) => key.startsWith("in ")))) copy.takes(facts, body.where, step.slice);
    else if (body.where) {
      // Those of a copy that is not followed are never compared.
      copy.filters(body.where, step.slice, copy.uncertain === null);
    }
    copy.structureOnly = empty || (body.where !== null && neverTrue(body.where));
    this.#add(copy);
  }

  /** The rows that a SELECT takes of its first table; null where that could not be told. */
  #rowsOf(
    body: Select,
    first: Exclude<Select["from"][number], { kind: "joined" }>,
    slice: Step["slice"],
    table: Table | undefined,
  ): readonly FilterFact[] | null {
    const target = namedTable(first);
    const level = target ? innerSources(body.from) : null;
    if (!target || !level) return null;
    const conditions = [...level.on, ...(body.where ? [body.where] : [])];
    return rowFacts(target.alias, level.sources, conditions, slice, (to, ties) => isByKey(table, to, ties));
  }

  // ------------------------------------------------------------ destruction

  #destroying(step: Step): void {
    const { tree, at, catalog, ripples } = step;
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
    const kept = returnedInto(tree);
    const add = (one: Lost): void => {
      if (this.destructions.length >= KEPT) return;
      this.destructions.push(
        new Destruction(
          at,
          one,
          kept ?? this.#declared,
          rippled.length === 0 ? rippled : rippled.filter(({ name }) => name !== one.shown),
          this.#open,
          this.copies.length,
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
      const columns = statement.kind === "update" ? lostColumns(statement.assignments, parts) : null;
      if (columns && columns.length === 0) continue;
      add({
        key,
        shown,
        action: change.action,
        columns,
        joined,
        where,
        facts: this.#filtered.has(key),
        rows: this.#filtered.has(key) ? (changedRows(change, step.slice) ?? undefined) : undefined,
        slice: step.slice,
        reach,
        table: change.table ?? null,
        softener,
        source: sourceOf(step, change),
        among: this.copies.length === 0 ? [] : takenFrom(change, catalog, this.#dialect),
      });
    }
    this.#destroyedOtherwise(step, add);
  }

  /** What statements destroy that change no rows by a filter: a drop, a partition, REPLACE, a branch of MERGE. */
  #destroyedOtherwise(step: Step, add: (one: Lost) => void): void {
    const { tree, catalog } = step;
    switch (tree.kind) {
      case "drop":
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
        for (const action of tree.actions)
          if (action.what === "drop-partition" || action.what === "truncate-partition") {
            const { key, shown } = namedRelation(tree.name, catalog, this.#dialect);
            add({
              key,
              shown,
              action: "drop-partition",
              columns: null,
              table: catalog?.resolve(tree.name) ?? null,
              reach: { bound: "some" },
            });
          }
        break;
      case "insert":
        if (tree.target.kind === "table") {
          const { key, shown } = namedRelation(tree.target.name, catalog, this.#dialect);
          if (this.#open) this.#open.changes++;
          this.#change(step, key, shown);
          if (tree.replace)
            add({
              key,
              shown,
              action: "replace",
              columns: null,
              table: catalog?.resolve(tree.target.name) ?? null,
              reach: { bound: "some" },
            });
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

  // ------------------------------------------------------------ guards

  /** Triggers and foreign keys that are dropped, and those that come back. */
  #removing({ tree, at, catalog }: Step): void {
    if (!catalog) return;
    const gone = (what: string, key: string, shown: string, fires: Removed["fires"]): void => {
      if (this.removed.length < KEPT) this.removed.push({ at, what, key, shown, fires, back: false });
    };
    const back = (key: string): void => {
      for (const one of this.removed) if (one.key === key) one.back = true;
    };
    if (tree.kind === "drop" && tree.object === "trigger")
      for (const name of tree.names) {
        const bare = foldName(name.parts[name.parts.length - 1], this.#dialect);
        const table = tree.on ? namedRelation(tree.on, catalog, this.#dialect).key : null;
        for (const trigger of catalog.objects("trigger"))
          if (trigger.name === bare && (table === null || trigger.table === table)) {
            gone(
              `trigger \`${bare}\``,
              `trigger ${bare}`,
              trigger.table.slice(trigger.table.indexOf("\u0000") + 1),
              trigger,
            );
            break;
          }
      }
    else if (tree.kind === "create-routine" && tree.trigger && tree.name) {
      back(`trigger ${foldName(tree.name.parts[tree.name.parts.length - 1], this.#dialect)}`);
      // One that fires at the same moment takes its place, whatever it is called.
      const { table, timing, events } = tree.trigger;
      const on = table && foldName(table.parts[table.parts.length - 1], this.#dialect);
      for (const one of this.removed)
        if (
          one.shown === on &&
          one.fires?.timing === timing &&
          one.fires.events.some((event) => events.includes(event))
        )
          one.back = true;
    } else if (tree.kind === "alter-table") {
      const table = catalog.resolve(tree.name);
      for (const action of tree.actions) {
        if (action.what === "drop-constraint" && action.name && table) {
          const name = foldName(action.name, this.#dialect);
          const key = table.foreignKeys.find((one) => one.name === name);
          if (key) gone(`foreign key \`${name}\``, `key ${table.name} ${key.columns.join()}`, table.name, null);
        } else if (action.what === "add-constraint" && action.constraint.kind === "foreign" && table)
          back(`key ${table.name} ${action.constraint.columns.map((one) => foldName(one, this.#dialect)).join()}`);
      }
    } else if (tree.kind === "drop" && tree.object === "table")
      // Its keys and triggers go with a table.
      for (const name of tree.names) {
        const { shown } = namedRelation(name, catalog, this.#dialect);
        for (const one of this.removed) if (one.shown === shown.slice(shown.lastIndexOf(".") + 1)) one.back = true;
      }
  }

  #guarding({ tree, at, catalog, changes }: Step): void {
    if (changes.length > 0) for (const guard of this.guards) if (!guard.back) guard.changes++;
    if (tree.kind === "alter-table" && this.guards.length > 0 && addsKey(tree)) {
      const { key } = namedRelation(tree.name, catalog, this.#dialect);
      if (!this.#creations.everMade(key)) for (const guard of this.guards) if (!guard.back) guard.keys++;
    }
    const off = (lasts: GuardOff["lasts"], what: string, key: string, shown: string): void => {
      if (this.guards.length < KEPT)
        this.guards.push({ at, lasts, what, key, shown, back: null, untrusted: false, changes: 0, keys: 0 });
    };
    const on = (key: string, untrusted = false): void => {
      for (const guard of this.guards)
        if ((guard.key === key || key.startsWith(`${guard.key} `) || guard.key.startsWith(`${key} `)) && !guard.back) {
          guard.back = at;
          guard.untrusted = untrusted;
        }
    };
    if (tree.kind === "setting") {
      const guard = sessionGuard(tree.name, tree.value, this.#dialect);
      if (guard?.off) off("session", guard.what, guard.key, "the session");
      else if (guard) on(guard.key);
    } else if (tree.kind === "alter-table") {
      const { key, shown } = namedRelation(tree.name, catalog, this.#dialect);
      for (const action of tree.actions) {
        if (action.what === "trigger") {
          const name = action.name?.text ?? "all triggers";
          const own = `trigger ${key}${action.name ? ` ${action.name.text.toLowerCase()}` : ""}`;
          const what = action.name ? `trigger \`${name}\`` : action.userOnly ? "the table's own triggers" : name;
          const all = this.guards.find((guard) => guard.key === own && guard.what === "all triggers" && !guard.back);
          if (action.enabled === "off") off("table", what, own, shown);
          else if (all && action.userOnly) all.what = KEYS_ONLY;
          else on(own);
        } else if (action.what === "constraint-enabled") {
          const own = `constraint ${key}${action.name ? ` ${action.name.text.toLowerCase()}` : ""}`;
          if (!action.enabled)
            off("table", action.name ? `constraint \`${action.name.text}\`` : "all constraints", own, shown);
          else on(own, !action.trusted);
        }
      }
    } else if (tree.kind === "alter-trigger") {
      const table = tree.table ? namedRelation(tree.table, catalog, this.#dialect) : { key: "", shown: "" };
      for (const name of tree.names ?? [null]) {
        const bare = name ? name.parts[name.parts.length - 1].text : null;
        const own = `trigger ${table.key}${bare ? ` ${bare.toLowerCase()}` : ""}`;
        if (!tree.enabled)
          off("table", bare ? `trigger \`${bare}\`` : "all triggers", own, table.shown || (bare ?? ""));
        else on(own);
      }
    }
  }
}

function addsKey({ actions }: Extract<Statement, { kind: "alter-table" }>): boolean {
  return actions.some((action) => action.what === "add-constraint" && action.constraint.kind === "foreign");
}

/** What is still off when DISABLE TRIGGER ALL is followed by ENABLE TRIGGER USER. */
const KEYS_ONLY = "the triggers that keep foreign keys (ENABLE TRIGGER USER leaves them off)";

/** A table is copied a few times in a script; of very many the latest are kept in mind. */
const COPIES = 24;

function keep(map: Map<string, Copy[]>, key: string, copy: Copy): void {
  const list = map.get(key);
  if (!list) map.set(key, [copy]);
  else {
    list.push(copy);
    if (list.length > COPIES) list.shift();
  }
}

function leftmost(source: Select["from"][number]): Exclude<Select["from"][number], { kind: "joined" }> {
  return source.kind === "joined" ? leftmost(source.first) : source;
}

/** Whether a join follows a foreign key whose columns are never NULL: it finds a row for every row. */
function isByKey(table: Table | undefined, to: string, ties: readonly Tie[]): boolean {
  return (
    table?.foreignKeys.some(
      (key) =>
        key.enabled &&
        key.trusted &&
        key.table.slice(key.table.indexOf("\u0000") + 1).toLowerCase() === to &&
        ties.every(({ own, column }) => {
          const i = key.columns.findIndex((name) => name.toLowerCase() === own);
          const known = i < 0 ? undefined : table.columns.find((one) => one.name === key.columns[i]);
          return known?.required === true && (key.referenced[i]?.toLowerCase() ?? column) === column;
        }),
    ) ?? false
  );
}

/** A change with its text, where a query for its rows may be written from it. */
function sourceOf({ tree, slice, inCode }: Step, change: Change): Lost["source"] {
  if (inCode || change.statement !== tree || tree.end - tree.start > 2000) return null;
  return { change, tree, text: ownText(slice(tree.start, tree.end)), start: tree.start };
}

/** Whether DISTINCT puts no rows together: the key is among the columns. */
function keepsKey(body: Select, table: Table | undefined): boolean {
  const key = table?.primaryKey?.columns;
  const columns = columnsOf(body);
  return key !== undefined && (columns === null || key.every((column) => columns.includes(column.toLowerCase())));
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

/** The columns of a select list, in lower case; null where a star takes all of them. */
function columnsOf(body: Select): readonly string[] | null {
  const columns: string[] = [];
  for (const { expr } of body.items) {
    if (expr.kind === "star") return null;
    if (expr.kind === "column") columns.push(expr.path[expr.path.length - 1].text.toLowerCase());
  }
  return columns;
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

/** Where the rows that a statement returns go: OUTPUT … INTO, or an INSERT around a DELETE … RETURNING. */
function returnedInto(tree: Statement): string | null {
  if ((tree.kind === "delete" || tree.kind === "update") && tree.returning?.into) {
    const { into } = tree.returning;
    if (into.kind === "column") return `its rows are kept in \`${into.path.map(({ text }) => text).join(".")}\``;
  }
  if (tree.kind !== "insert" || tree.target.kind !== "table") return null;
  const clause = tree.with ?? tree.source?.with ?? null;
  // Rows that are filtered, joined or cut off on their way are not all kept.
  const body = tree.source?.body;
  const whole =
    body?.kind === "select" &&
    body.from.length === 1 &&
    body.from[0].kind === "table" &&
    !body.where &&
    !body.distinct &&
    body.groupBy.length === 0 &&
    !body.top &&
    !tree.source?.limit;
  const kept = whole && (clause?.tables.some(({ body }) => body.kind === "delete" && body.returning !== null) ?? false);
  return kept ? `its rows are kept in \`${writtenName(tree.target.name)}\`` : null;
}

/** IF … COMMIT ELSE ROLLBACK: whichever branch runs, the transaction is at its end. */
function endsEitherWay({ branches }: Extract<Statement, { kind: "if" }>): boolean {
  const ends = (one: Statement): boolean =>
    one.kind === "block"
      ? one.body.some(ends)
      : one.kind === "transaction" && (one.action === "commit" || one.action === "rollback");
  return branches.some(({ condition }) => condition === null) && branches.every(({ body }) => body.some(ends));
}

function neverTrue(where: Expr): boolean {
  if (where.kind === "literal") return where.value === "false" || where.value === "0";
  if (where.kind !== "binary") return false;
  const { left, right, op } = where;
  if (left.kind !== "literal" || right.kind !== "literal") return false;
  return op === "=" ? left.value !== right.value : (op === "<>" || op === "!=") && left.value === right.value;
}

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

/** Session settings that switch checks off, and the values that do. */
function sessionGuard(
  name: string,
  value: string,
  { engine }: Dialect,
): { what: string; key: string; off: boolean } | null {
  const on = /^(?:1|on|true|yes|default)$/i.test(value);
  const guard = (what: string, off: boolean) => ({ what, key: name, off });
  switch (name) {
    case "foreign_key_checks":
      return guard("foreign key checks", !on && !value.startsWith("@"));
    case "unique_checks":
      return guard("unique checks", !on && !value.startsWith("@"));
    case "check_constraint_checks":
      return guard("CHECK constraints", !on);
    case "sql_safe_updates":
      return guard("the guard against updates without a key", !on && !value.startsWith("@"));
    case "foreign_keys":
      return engine.pragmas ? guard("foreign keys", !on) : null;
    case "ignore_check_constraints":
      return guard("CHECK constraints", on);
    case "session_replication_role":
      return guard("triggers and foreign keys", /^replica$/i.test(value));
    default:
      return null;
  }
}
