import type { Table } from "../../catalog/model.ts";
import { namedRelation } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Name, Query, Select } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { FilterFact } from "../conditions/filter-facts.ts";
import { isClock } from "../conditions/moving.ts";
import { innerSources, namedTable, rowFacts, type Tie } from "../conditions/row-facts.ts";
import { Copy } from "./copies.ts";
import { returnedRows } from "./returned.ts";
import type { Moment, Step } from "./step.ts";

/** This many copies are kept. */
const KEPT = 4000;

/** What a script copies, and what becomes of the copies. */
export class CopyLedger {
  readonly list: Copy[] = [];
  readonly #byTable = new Map<string, Copy[]>();
  readonly #byName = new Map<string, Copy[]>();
  /** Tables of which a copy took some rows by a filter that is followed. */
  readonly #filtered = new Set<string>();
  /** The new names of tables that were renamed, by their old keys. */
  readonly #moved = new Map<string, { key: string; shown: string }>();
  readonly #dialect: Dialect;

  constructor(dialect: Dialect) {
    this.#dialect = dialect;
  }

  /** Takes over the copies that are still there at the end of an earlier script. */
  continueFrom(earlier: CopyLedger): void {
    for (const copy of earlier.list) if (!copy.temporary && copy.isKept) this.#add(copy.carried());
  }

  note(step: Step): void {
    const { tree, catalog } = step;
    this.#returned(step);
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
      case "alter-table":
        for (const action of tree.actions) if (action.what === "rename") this.#rename(tree.name, action.to, step);
        break;
      case "rename":
        if (tree.object === "table") for (const { from, to } of tree.renames) this.#rename(from, to, step);
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

  /** Rows that a statement hands on while it takes them away. */
  #returned(step: Step): void {
    for (const { change, target } of step.changes) {
      const rows = returnedRows(step.tree, change, this.#dialect);
      if (!rows) continue;
      const { key } = namedRelation(change.name, step.catalog, this.#dialect);
      const made = namedRelation(rows.into, step.catalog, this.#dialect);
      const copy = new Copy(step.at, { key, shown: target }, made);
      copy.into = true;
      copy.handedOn = true;
      copy.temporary = /(?:^|\.)[#@]/.test(made.shown);
      copy.columns = rows.columns;
      copy.uncertain = rows.loses;
      this.#add(copy);
    }
  }

  /** A copy under a new name; under that of its table it has taken the table's place. */
  #rename(from: Name, to: Name, { at, catalog }: Step): void {
    const { key } = namedRelation(from, catalog, this.#dialect);
    const renamed = namedRelation(to, catalog, this.#dialect);
    const own = this.#byName.get(key);
    if (!own) {
      if (this.#moved.size < KEPT) this.#moved.set(key, renamed);
      // Its copies are copies of it under its new name as well.
      for (const copy of this.of(key)) if (copy.isKept) keep(this.#byTable, renamed.key, copy);
      return;
    }
    this.#byName.delete(key);
    for (const copy of own) {
      if (!copy.isKept) continue;
      copy.name = renamed.key;
      copy.shown = renamed.shown;
      if (copy.of !== renamed.key) keep(this.#byName, renamed.key, copy);
      else {
        copy.became = at;
        // The old table under its new name holds what the new one began with.
        const old = this.#moved.get(copy.of);
        if (old) this.#add(new Copy(at, renamed, old));
      }
    }
  }

  #lose(key: string, at: Moment): void {
    for (const copy of this.#byName.get(key) ?? []) if (!copy.gone) copy.gone = at;
  }

  #add(copy: Copy): void {
    if (this.list.length >= KEPT) return;
    copy.place = this.list.length;
    this.list.push(copy);
    keep(this.#byTable, copy.of, copy);
    if (copy.filtered && copy.uncertain === null && !copy.structureOnly) this.#filtered.add(copy.of);
    keep(this.#byName, copy.name, copy);
  }

  /** The copies of a table, in the order in which they are made. */
  of(key: string): readonly Copy[] {
    return this.#byTable.get(key) ?? [];
  }

  /**
   * A copy of a table that holds every row now: with all columns, or with those that are `needed` where it is meant as a copy;
   * null: none.
   */
  wholeOf(key: string, needed: () => readonly string[] | null): Copy | null {
    return (
      this.of(key).findLast((copy) => {
        if (!copy.holdsAllRows || !copy.keeps(key)) return false;
        const { columns } = copy;
        if (columns === null) return true;
        const list = copy.isMeantFor(copy.ofShown) ? needed() : null;
        // Values alone, without what tells whose they are, bring nothing back.
        return list !== null && columns.length > 1 && list.every((column) => columns.includes(column));
      }) ?? null
    );
  }

  /** Whether a copy took some rows of a table by a filter that is followed. */
  hasFiltered(key: string): boolean {
    return this.#filtered.has(key);
  }

  #copy(
    step: Step,
    query: Query,
    made: { key: string; shown: string },
    { temporary, empty, into }: { temporary: boolean; empty: boolean; into: boolean },
  ): void {
    const { body } = query;
    const { catalog } = step;
    if (this.list.length >= KEPT) return;
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
    if (copy.columns) copy.derived = derivedOf(body);
    const facts =
      query.limit || body.top || body.groupBy.length > 0
        ? null
        : this.#rowsOf(body, first, step.slice, catalog?.byKey(of.key));
    const asks = body.from.length > 1 || source.kind === "joined";
    if (query.limit || body.top) copy.uncertain = "it is cut off by a limit";
    else if (body.groupBy.length > 0) copy.uncertain = "it puts rows together";
    else if (asks && !facts) copy.uncertain = "it joins other tables, so rows may be missing";
    else if (body.distinct && !keepsKey(body, catalog?.byKey(of.key))) copy.uncertain = "it puts rows together";
    else if (body.distinct && this.#dialect.engine.desktopRules && holdsLongText(body, catalog?.byKey(of.key)))
      copy.uncertain = "DISTINCT keeps 255 characters of each long text";
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
}

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

/** Whether DISTINCT puts no rows together: the key is among the columns, or what is called so where no key is known. */
function keepsKey(body: Select, table: Table | undefined): boolean {
  const columns = columnsOf(body);
  if (!table) return columns === null || columns.includes("id");
  const key = table.primaryKey?.columns;
  return key !== undefined && (columns === null || key.every((column) => columns.includes(column.toLowerCase())));
}

/** The columns that stand within a value of a select list. */
function derivedOf({ items }: Select): string[] {
  const names = new Set<string>();
  for (const { expr } of items)
    if (expr.kind !== "column" && expr.kind !== "star")
      walk(expr, (node) => {
        if (node.kind === "column") names.add(node.path[node.path.length - 1].text.toLowerCase());
        return undefined;
      });
  return [...names];
}

/** The columns of a select list, in lower case; null where a star takes all of them. */
function columnsOf(body: Select): readonly string[] | null {
  const columns: string[] = [];
  for (const { expr } of body.items) {
    if (expr.kind === "star") return null;
    if (expr.kind === "column" && !isClock(expr)) columns.push(expr.path[expr.path.length - 1].text.toLowerCase());
  }
  return columns;
}

function neverTrue(where: Expr): boolean {
  if (where.kind === "literal") return where.value === "false" || where.value === "0";
  if (where.kind !== "binary") return false;
  const { left, right, op } = where;
  if (left.kind !== "literal" || right.kind !== "literal") return false;
  return op === "=" ? left.value !== right.value : (op === "<>" || op === "!=") && left.value === right.value;
}

/** Whether a SELECT takes a column of long text (jet). */
function holdsLongText(body: Select, table: Table | undefined): boolean {
  const long = (table?.columns ?? []).filter(({ type }) => type === "memo").map(({ name }) => name);
  if (long.length === 0) return false;
  return body.items.some(
    ({ expr }) =>
      expr.kind === "star" ||
      (expr.kind === "column" && long.includes(expr.path[expr.path.length - 1].text.toLowerCase())),
  );
}
