import type { Catalog } from "../../catalog/catalog.ts";
import { namesKey } from "../../catalog/columns.ts";
import type { Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Node, Query, Source, Statement, UpdateStatement } from "../../sql/nodes/tree.ts";
import { flatSources, walk } from "../../sql/nodes/visitor.ts";
import { conjuncts } from "../changes/reach.ts";
import { isTie } from "../conditions/conditions.ts";
import { constant } from "../conditions/constants.ts";

/** This many columns are remembered. */
const KEPT = 5000;

/** The values that a script has taken from one place to another: what is dropped afterwards is not lost. */
export class Moves {
  readonly #columns = new Set<string>();
  readonly #tables = new Set<string>();
  /** Of which columns, and which tables, values went elsewhere in some rows only: how many times. */
  readonly #some = new Map<string, number>();
  /** Columns by which rows were found whose values went elsewhere. */
  readonly #asked = new Set<string>();
  readonly #dialect: Dialect;

  constructor(dialect: Dialect) {
    this.#dialect = dialect;
  }

  /** Whether values of a column, folded, have gone into another column. */
  hasTaken(table: string, column: string): boolean {
    const [own, all] = [`${table}\u0000${column}`, `${table}\u0000*`];
    return this.#columns.has(own) || this.#columns.has(all) || this.#split(own) || this.#split(all);
  }

  /** Whether values of a table have gone into another table. */
  hasTakenFrom(table: string): boolean {
    return this.#tables.has(table) || this.#split(table);
  }

  /** Whether some rows of a table went into another one, and nothing took the rest. */
  hasTakenSomeFrom(table: string): boolean {
    return this.#some.has(table) && !this.hasTakenFrom(table);
  }

  /** Two kinds of rows went their two ways: that they are all, the two conditions say. */
  #split(what: string): boolean {
    return (this.#some.get(what) ?? 0) > 1;
  }

  /** The columns of a table of which no value has gone anywhere, and by which none was found; keys do not count. */
  leftIn(key: string, { columns, primaryKey, foreignKeys }: Table): string[] {
    const keys = new Set([...(primaryKey?.columns ?? []), ...foreignKeys.flatMap((one) => one.columns)]);
    return columns
      .filter(({ name, generated }) => generated === null && !keys.has(name) && !this.hasTaken(key, name))
      .map(({ name }) => name)
      .filter((name) => !this.#asked.has(`${key}\u0000${name}`));
  }

  note(tree: Statement, catalog: Catalog | null): void {
    if (this.#columns.size >= KEPT) return;
    switch (tree.kind) {
      case "insert": {
        if (!tree.source || (tree.source.body.kind === "values" && tree.source.body.rowCount > 20)) return;
        const own = tree.target.kind === "table" ? relationKey(tree.target.name, catalog, this.#dialect) : "";
        this.#takeQuery(tree.source, tree.with?.tables.map(({ body }) => body) ?? [], own, catalog);
        return;
      }
      case "create-table":
        if (tree.query) this.#takeQuery(tree.query, [], "", catalog);
        return;
      case "select":
        if (tree.query.body.kind === "select" && tree.query.body.into?.what === "table")
          this.#takeQuery(tree.query, [], "", catalog);
        return;
      case "update": {
        const [target] = tree.target;
        const own = target?.kind === "table" ? relationKey(target.name, catalog, this.#dialect) : "";
        for (const { targets, value } of tree.assignments) {
          if (value.kind === "literal") continue;
          const into = targets.length === 1 && targets[0].kind === "column" ? targets[0].path : null;
          const column = into ? foldName(into[into.length - 1], this.#dialect) : null;
          this.#take([value], [...tree.target, ...tree.from], own, column, catalog);
        }
        const ties = this.#reference(tree, catalog);
        if (ties.length > 0) this.#take(ties, [...tree.target, ...tree.from], own, null, catalog);
        if (tree.where) this.#ask([tree.where, ...tree.from], [...tree.target], own, catalog);
        return;
      }
      case "merge": {
        const own = tree.target.kind === "table" ? relationKey(tree.target.name, catalog, this.#dialect) : "";
        for (const { assignments, values } of tree.whens) {
          const nodes = [...assignments.map(({ value }) => value), ...(values ?? [])];
          if (nodes.length > 0) this.#take(nodes, [tree.target, tree.source], own, null, catalog);
        }
        return;
      }
      default:
    }
  }

  /**
   * The ties of a joined UPDATE that writes the key of the joined row: what stood in the tied columns is kept there, and can be
   * looked up by the key.
   *
   * @example
   * // UPDATE owner o JOIN country c ON c.code = o.country_code SET o.country_id = c.id   -- o.country_code is taken
   */
  #reference(tree: UpdateStatement, catalog: Catalog | null): Expr[] {
    if (!tree.assignments.some(({ value }) => isKeyColumn(value, [...tree.target, ...tree.from], catalog))) return [];
    const ties: Expr[] = tree.where ? conjuncts(tree.where).filter(isTie) : [];
    for (const source of [...tree.target, ...tree.from])
      if (source.kind === "joined")
        for (const { on } of source.joins) if (on) ties.push(...conjuncts(on).filter(isTie));
    return ties;
  }

  /** A query whose rows go into a table: what its list gives is taken, by what its filter asks rows are found. */
  #takeQuery(query: Query, common: readonly Node[], own: string, catalog: Catalog | null): void {
    const { body, limit } = query;
    if (body.kind !== "select") {
      this.#take([query, ...common], [], own, null, catalog);
      return;
    }
    const some = limit !== null || body.top !== null || (body.where !== null && conjuncts(body.where).some(picksRows));
    this.#take([...body.items.map(({ expr }) => expr), ...common], body.from, own, null, catalog, some);
    if (body.where) this.#ask([body.where], body.from, own, catalog);
  }

  /** Takes note of the columns that stand in some nodes; `sources` are in sight there without standing in them. */
  #take(
    nodes: readonly Node[],
    sources: readonly Node[],
    own: string,
    into: string | null,
    catalog: Catalog | null,
    some = false,
  ): void {
    const { byName, columns } = this.#columnsIn(nodes, sources, catalog);
    const taken = (set: Set<string>, what: string): void => {
      if (!some) set.add(what);
      else if (this.#some.size < KEPT) this.#some.set(what, (this.#some.get(what) ?? 0) + 1);
    };
    for (const key of new Set(byName.values())) if (key !== own && columns.length > 0) taken(this.#tables, key);
    const names = columns.flatMap(({ keys, name }) =>
      keys.filter((key) => key !== own || name !== into).map((key) => `${key}\u0000${name}`),
    );
    for (const name of new Set(names)) taken(this.#columns, name);
  }

  #ask(nodes: readonly Node[], sources: readonly Node[], own: string, catalog: Catalog | null): void {
    if (this.#asked.size >= KEPT) return;
    for (const { keys, name } of this.#columnsIn(nodes, sources, catalog).columns)
      for (const key of keys) if (key !== own) this.#asked.add(`${key}\u0000${name}`);
  }

  /** The columns that stand in some nodes, with the tables that they may be of. */
  #columnsIn(
    nodes: readonly Node[],
    sources: readonly Node[],
    catalog: Catalog | null,
  ): { byName: ReadonlyMap<string, string>; columns: readonly { keys: readonly string[]; name: string }[] } {
    const dialect = this.#dialect;
    const byName = new Map<string, string>();
    const columns: { qualifier: string | null; name: string }[] = [];
    const visit = (node: Node): undefined => {
      if (node.kind === "table") {
        const key = relationKey(node.name, catalog, dialect);
        const { parts } = node.name;
        byName.set(foldName(node.alias ?? parts[parts.length - 1], dialect), key);
      } else if (node.kind === "column" || node.kind === "star") {
        const { path } = node;
        const name = node.kind === "star" ? "*" : foldName(path[path.length - 1], dialect);
        const at = node.kind === "star" ? path.length - 1 : path.length - 2;
        columns.push({ qualifier: at >= 0 ? foldName(path[at], dialect) : null, name });
      }
      return undefined;
    };
    for (const node of nodes) walk(node, visit);
    const standing = columns.splice(0);
    for (const node of sources) walk(node, visit);
    const all = [...byName.values()];
    return {
      byName,
      columns: standing.map(({ qualifier, name }) => {
        const known = qualifier === null ? undefined : byName.get(qualifier);
        return { keys: known === undefined ? all : [known], name };
      }),
    };
  }
}

/** Whether a value is the key of one of the sources; where none of them is known, its name says so. */
function isKeyColumn(value: Expr, sources: readonly Source[], catalog: Catalog | null): boolean {
  if (value.kind !== "column" || value.path.length < 2) return false;
  const [qualifier, { text }] = value.path.slice(-2);
  const source = flatSources(sources).find(
    (one) =>
      one.kind === "table" &&
      (one.alias ?? one.name.parts[one.name.parts.length - 1]).text.toLowerCase() === qualifier.text.toLowerCase(),
  );
  const table = source?.kind === "table" ? catalog?.resolve(source.name) : null;
  const keys = table?.primaryKey?.columns;
  return keys ? keys.length === 1 && keys[0].toLowerCase() === text.toLowerCase() : namesKey(text);
}

/** Whether a condition takes rows of one kind and leaves others: one that asks for a value to be there takes all that hold one. */
function picksRows(part: Expr): boolean {
  switch (part.kind) {
    case "binary": {
      if (part.op === "<>" || part.op === "!=") return false;
      const [left, right] = [constant(part.left), constant(part.right)];
      return (left === null) !== (right === null);
    }
    case "between":
      return !part.negated;
    case "in":
      return !part.negated && part.items !== null;
    case "like":
      return !part.negated;
    default:
      return false;
  }
}
