import type { Catalog } from "../../catalog/catalog.ts";
import { columnNamed } from "../../catalog/columns.ts";
import type { Column, Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { ColumnRef, CommonTable, Expr, Ident, Query, Source, With } from "../../sql/nodes/tree.ts";
import { flatSources, walk } from "../../sql/nodes/visitor.ts";

/** One relation that columns of a query can come from. */
export interface Relation {
  /** The name under which the query refers to it, folded: its alias, else the table's name. */
  name: string;
  /** The table of the catalog behind it, where there is one. */
  table: Table | undefined;
  source: Source;
  /** Its columns are all known, so a name that is not among them is not in it. */
  known: boolean;
}

/** The relations of one query level, and those of the levels around it. */
export interface Scope {
  relations: Relation[];
  outer: Scope | null;
}

/** What names mean in one statement: catalog, dialect and the common table expressions in sight. */
export class Names {
  readonly catalog: Catalog | null;
  readonly dialect: Dialect;
  /** The common table expressions in sight; null: none. */
  readonly #common: Map<string, CommonTable> | null;

  constructor(catalog: Catalog | null, dialect: Dialect, clause: With | null) {
    this.catalog = catalog;
    this.dialect = dialect;
    this.#common = clause ? new Map() : null;
    for (const table of clause?.tables ?? []) this.#common?.set(foldName(table.name, dialect), table);
  }

  fold(name: Pick<Ident, "text" | "quoted">): string {
    return foldName(name, this.dialect);
  }

  /** The common table expression that a source means, if it means one. */
  common(source: Source): CommonTable | undefined {
    if (!this.#common || source.kind !== "table" || source.name.parts.length !== 1) return undefined;
    return this.#common.get(this.fold(source.name.parts[0]));
  }

  relation(source: Source): Relation {
    const alias = source.alias;
    if (source.kind === "table") {
      const last = source.name.parts[source.name.parts.length - 1];
      const table = this.common(source) ? undefined : this.catalog?.resolve(source.name);
      return {
        name: this.fold(alias ?? last),
        table,
        source,
        known: table !== undefined && !table.partial,
      };
    }
    return { name: alias ? this.fold(alias) : "", table: undefined, source, known: false };
  }

  scope(sources: readonly Source[], outer: Scope | null): Scope {
    const relations: Relation[] = [];
    for (const source of flatSources(sources)) relations.push(this.relation(source));
    return { relations, outer };
  }

  /** The column of a relation, by its folded name. */
  column(relation: Relation, name: string): Column | undefined {
    return columnNamed(relation.table, name);
  }

  /**
   * The relation that a column reference means, looked for from the inside out; null when it
   * cannot be told (an unknown table, an ambiguous name).
   */
  resolve(ref: ColumnRef, scope: Scope): { relation: Relation; scope: Scope } | null {
    const { path } = ref;
    const name = this.fold(path[path.length - 1]);
    const qualifier = path.length > 1 ? this.fold(path[path.length - 2]) : null;
    for (let level: Scope | null = scope; level; level = level.outer) {
      if (qualifier !== null) {
        const relation = level.relations.find((one) => one.name === qualifier);
        if (relation) return { relation, scope: level };
        continue;
      }
      let found: Relation | null = null;
      let unknown: Relation | null = null;
      for (const relation of level.relations) {
        if (!relation.known) unknown = relation;
        if (!this.column(relation, name)) continue;
        if (found) return null;
        found = relation;
      }
      if (found) return { relation: found, scope: level };
      if (unknown) {
        // The only place it can come from, if the levels around offer nothing else.
        if (level.relations.length === 1 && level.outer === null) return { relation: unknown, scope: level };
        return null;
      }
    }
    return null;
  }

  /** Whether a query refers to something outside itself; when that cannot be told, yes. */
  correlated(query: Query): boolean {
    const inner = this.#below(query);
    let found = false;
    walk(query, (node) => {
      if (found) return false;
      if (node.kind === "opaque" || (node.kind === "column" && !this.#isOf(node, inner))) found = true;
      return undefined;
    });
    return found;
  }

  /**
   * Whether a query refers to something outside itself, as far as that can be seen: a name without a qualifier is taken for one
   * of its own where a table of it is not known.
   */
  refersOutside(query: Query): boolean {
    const inner = this.#below(query);
    const unknown = inner.some((relation) => !relation.known);
    let found = false;
    walk(query, (node) => {
      if (node.kind === "column" && !this.#isOf(node, inner) && !(unknown && node.path.length === 1)) found = true;
      return !found;
    });
    return found;
  }

  /** Whether a condition of a query refers to the query's own tables. */
  refersWithin(query: Query, condition: Expr): boolean {
    const inner = this.#below(query);
    let found = condition.kind === "column" && this.#isOf(condition, inner);
    walk(condition, (node) => {
      if (node.kind === "column" && this.#isOf(node, inner)) found = true;
      return !found;
    });
    return found;
  }

  /** Every source below, whatever its level: enough to tell an inner name from an outer one. */
  #below(query: Query): readonly Relation[] {
    const inner: Relation[] = [];
    walk(query, (node) => {
      switch (node.kind) {
        case "table":
        case "derived":
        case "function":
        case "opaque-source":
          inner.push(this.relation(node));
          break;
        default:
      }
      return undefined;
    });
    return inner;
  }

  /** Whether a column is one of some relations; where it is none, it binds outside, or what it means is unknown. */
  #isOf({ path }: ColumnRef, relations: readonly Relation[]): boolean {
    if (path.length > 1) {
      const qualifier = this.fold(path[path.length - 2]);
      return relations.some((relation) => relation.name === qualifier);
    }
    const name = this.fold(path[0]);
    return relations.some((relation) => this.column(relation, name) !== undefined);
  }
}
