import type { Catalog } from "../../catalog/catalog.ts";
import type { Column, Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type {
  Assignment,
  ColumnRef,
  CommonTable,
  DeleteStatement,
  Expr,
  Ident,
  Node,
  OrderItem,
  Query,
  QueryBody,
  Returning,
  Select,
  Source,
  Star,
  Statement,
  UpdateStatement,
  With,
} from "../../sql/nodes/tree.ts";
import { flatSources, walk } from "../../sql/nodes/visitor.ts";
import { Memo } from "../statement/memo.ts";
import { isPseudoColumn, wordArguments } from "./pseudo-columns.ts";
import type {
  Binding,
  BindingStatus,
  BoundRelation,
  MissingRelation,
  OfferedColumn,
  Resolution,
  ResolvedScope,
} from "./resolution.ts";

// What every name of a statement means, under the rules of its dialect: relations by alias, name and
// common table expression, columns from the inside out. Where a part of the catalog is missing nothing
// is guessed: the reference is `undecided`.

/** Resolves every name of a statement. Bodies of definitions are left out: they run elsewhere. */
export function resolveStatement(statement: Statement, catalog: Catalog | null, dialect: Dialect): Resolution {
  const resolver = new Resolver(catalog, dialect);
  resolver.statement(statement, null);
  const { bindings, open, scopes, missing } = resolver;
  return { bindings, open, scopes, missing, memo: new Memo() };
}

type Common = { table: CommonTable; outer: CommonScope | null; recursive: boolean };
interface CommonScope {
  tables: Map<string, Common>;
  outer: CommonScope | null;
}

const NO_ASSIGNMENTS: readonly Assignment[] = [];
const NO_ALIASES: ReadonlySet<string> = new Set();

/** Fewer columns than this are looked through faster than they are indexed. */
const MANY = 40;

const offers = new WeakMap<Table, readonly OfferedColumn[]>();

/** The columns of a table as it offers them, made once. */
function offeredBy(table: Table): readonly OfferedColumn[] {
  const known = offers.get(table);
  if (known) return known;
  const made = table.columns.map((column) => ({ name: column.name, column }));
  offers.set(table, made);
  return made;
}

/** Columns by name, of relations that have many: a table is asked about by one statement after another. */
const indexes = new WeakMap<readonly OfferedColumn[], Map<string, OfferedColumn>>();

class Resolver {
  readonly bindings = new Map<ColumnRef, Binding>();
  readonly open: Binding[] = [];
  readonly scopes = new Map<Node, ResolvedScope>();
  readonly missing: MissingRelation[] = [];
  readonly #catalog: Catalog | null;
  readonly #dialect: Dialect;
  #common: CommonScope | null = null;
  #depth = 0;

  constructor(catalog: Catalog | null, dialect: Dialect) {
    this.#catalog = catalog;
    this.#dialect = dialect;
  }

  #fold(name: Pick<Ident, "text" | "quoted">): string {
    return foldName(name, this.#dialect);
  }

  statement(node: Statement, outer: ResolvedScope | null): void {
    switch (node.kind) {
      case "select":
        this.query(node.query, outer);
        break;
      case "update":
        this.#within(node.with, outer, () => {
          const sources =
            node.from.length === 0
              ? node.target
              : this.#namedAgain(node.target, node.from)
                ? node.from
                : [...node.target, ...node.from];
          this.#changed(node, sources, node.assignments, outer);
        });
        break;
      case "delete":
        this.#within(node.with, outer, () => {
          const sources = node.using.length === 0 ? node.from : [...node.from, ...node.using];
          this.#changed(node, sources, NO_ASSIGNMENTS, outer);
        });
        break;
      case "insert":
        this.#within(node.with, outer, () => {
          const scope = this.#scope(node, [node.target], outer);
          if (node.target.kind === "derived") this.#sources([node.target], scope);
          if (node.source) this.query(node.source, outer);
          if (node.set) this.#assignments(node.set, scope);
          for (const conflict of node.conflicts) {
            // EXCLUDED is the row that could not be inserted.
            const target = scope.relations[0];
            const excluded = target ? { ...target, name: this.#fold({ text: "excluded", quoted: false }) } : null;
            const both: ResolvedScope = {
              ...scope,
              relations: excluded ? [...scope.relations, excluded] : scope.relations,
            };
            // Without a qualifier the row that is there is meant.
            this.#preferFirst(both, () => {
              this.#assignments(conflict.assignments, both);
              this.#expr(conflict.where, both);
              for (const expr of conflict.target) this.#expr(expr, scope);
            });
          }
          this.#returning(node.returning, scope);
        });
        break;
      case "multi-insert":
        this.query(node.source, outer);
        break;
      case "merge":
        this.#within(node.with, outer, () => {
          const scope = this.#scope(node, [node.target, node.source], outer);
          this.#sources([node.target, node.source], scope);
          this.#expr(node.on, scope);
          for (const when of node.whens) {
            this.#expr(when.condition, scope);
            this.#assignments(when.assignments, scope);
            for (const value of when.values ?? []) this.#expr(value, scope);
            this.#expr(when.where, scope);
            this.#expr(when.deleteWhere, scope);
          }
          this.#returning(node.returning, scope);
        });
        break;
      case "create-table":
      case "create-view":
      case "copy":
        if (node.query) this.query(node.query, outer);
        break;
      case "truncate":
        this.#scope(node, node.targets, outer);
        break;
      default:
    }
  }

  #changed(
    node: UpdateStatement | DeleteStatement,
    sources: readonly Source[],
    assignments: readonly Assignment[],
    outer: ResolvedScope | null,
  ): void {
    const scope = this.#scope(node, sources, outer);
    this.#sources(sources, scope);
    this.#assignments(assignments, scope, this.#targetOnly(node, scope));
    this.#expr(node.where, scope);
    for (const item of node.orderBy) this.#expr(item.expr, scope);
    this.#returning(node.returning, scope);
  }

  #ambiguousIsFirst = false;
  /** The left side of an assignment is bound: it can be nothing but a column. */
  #assigned = false;

  #preferFirst(_scope: ResolvedScope, work: () => void): void {
    this.#ambiguousIsFirst = true;
    work();
    this.#ambiguousIsFirst = false;
  }

  /** T-SQL: the target named again in FROM, by its alias or its name, is one relation and not two. */
  #namedAgain(target: readonly Source[], from: readonly Source[]): boolean {
    const first = target[0];
    if (!this.#dialect.engine.targetThroughFrom || first?.kind !== "table") return false;
    const wanted = this.#fold(first.name.parts[first.name.parts.length - 1]);
    for (const source of flatSources(from)) {
      if ("alias" in source && source.alias && this.#fold(source.alias) === wanted) return true;
      if (source.kind === "table" && this.#fold(source.name.parts[source.name.parts.length - 1]) === wanted)
        return true;
    }
    return false;
  }

  #within(clause: With | null, outer: ResolvedScope | null, work: () => void): void {
    const before = this.#common;
    if (clause) this.#commonTables(clause, outer);
    work();
    this.#common = before;
  }

  #commonTables(clause: With, outer: ResolvedScope | null): void {
    const scope: CommonScope = { tables: new Map(), outer: this.#common };
    this.#common = scope;
    for (const table of clause.tables) {
      const entry: Common = { table, outer: scope.outer, recursive: true };
      scope.tables.set(this.#fold(table.name), entry);
      if (table.body.kind === "query") this.query(table.body, outer);
      else this.statement(table.body, outer);
    }
  }

  query(node: Query, outer: ResolvedScope | null): void {
    if (++this.#depth > 200) {
      this.#depth--;
      return;
    }
    const before = this.#common;
    if (node.with) this.#commonTables(node.with, outer);
    const first = this.#body(node.body, outer);
    if (first && node.orderBy.length > 0) {
      const ordering: ResolvedScope = { ...first, aliases: this.#selectAliases(node.body) };
      const set = node.body.kind !== "select";
      for (const item of node.orderBy) this.#orderItem(item, ordering, set);
    }
    this.#common = before;
    this.#depth--;
  }

  #orderItem(item: OrderItem, scope: ResolvedScope, ofSet: boolean): void {
    // After a UNION only the names of its columns can be meant.
    if (!ofSet) this.#expr(item.expr, scope);
  }

  #body(body: QueryBody, outer: ResolvedScope | null): ResolvedScope | null {
    switch (body.kind) {
      case "query":
        this.query(body, outer);
        return null;
      case "compounded":
        this.#body(body.first, outer);
        for (const part of body.rest) this.#body(part.body, outer);
        return null;
      case "values":
        for (const row of body.rows) for (const value of row) this.#expr(value, outer);
        return null;
      case "table-query":
        return null;
      case "select":
        return this.#select(body, outer);
    }
  }

  #select(node: Select, outer: ResolvedScope | null): ResolvedScope {
    const scope = this.#scope(node, node.from, outer);
    this.#sources(node.from, scope);
    const aliases = this.#selectAliases(node);
    const { engine } = this.#dialect;
    const everywhere = engine.aliasesEverywhere;
    // Where the select list names nothing, all clauses see the same.
    const aliased: ResolvedScope = aliases.size > 0 ? { ...scope, aliases } : scope;
    const grouped = everywhere || engine.aliasesInGroup ? aliased : scope;
    const named = everywhere || engine.aliasesInHaving ? aliased : scope;
    for (const item of node.items) this.#expr(item.expr, engine.aliasesInList ? named : scope);
    for (const one of node.distinctOn ?? []) this.#expr(one, grouped);
    this.#expr(node.where, everywhere ? named : scope);
    for (const one of node.groupBy) this.#expr(one, grouped);
    this.#expr(node.having, named);
    this.#expr(node.connectBy, scope);
    this.#expr(node.qualify, aliased);
    return scope;
  }

  #selectAliases(body: QueryBody): ReadonlySet<string> {
    if (body.kind !== "select") return NO_ALIASES;
    let aliases: Set<string> | null = null;
    for (const { alias } of body.items) {
      if (!alias) continue;
      aliases ??= new Set();
      aliases.add(this.#fold(alias));
    }
    return aliases ?? NO_ALIASES;
  }

  #scope(node: Node, sources: readonly Source[], outer: ResolvedScope | null): ResolvedScope {
    const relations: BoundRelation[] = [];
    for (const source of sources) this.#relations(source, relations);
    const scope: ResolvedScope = { relations, outer, aliases: NO_ALIASES, node };
    this.scopes.set(node, scope);
    return scope;
  }

  #relations(source: Source, into: BoundRelation[]): void {
    if (source.kind === "joined") {
      this.#relations(source.first, into);
      for (const join of source.joins) this.#relations(join.source, into);
      return;
    }
    into.push(this.#relation(source));
  }

  #relation(source: Exclude<Source, { kind: "joined" }>): BoundRelation {
    const alias = "alias" in source && source.alias ? this.#fold(source.alias) : null;
    const renamed = "columns" in source ? source.columns : null;
    if (source.kind === "table") {
      const last = source.name.parts[source.name.parts.length - 1];
      const name = alias ?? this.#fold(last);
      const common = source.name.parts.length === 1 ? this.#commonTable(this.#fold(last)) : undefined;
      if (common) {
        const query = common.table.body.kind === "query" ? common.table.body : null;
        const columns =
          common.table.columns?.map((one) => ({ name: this.#fold(one), column: null })) ??
          (query ? this.#queryColumns(query) : null);
        return { name, source, table: null, view: null, query, columns: this.#renamed(columns, renamed) };
      }
      const found = this.#catalog?.resolveRelation(source.name);
      if (!found) {
        this.missing.push({ source });
        return { name, source, table: null, view: null, query: null, columns: null };
      }
      if (found.object === "view") {
        const columns = found.columns?.map((one) => ({ name: one, column: null })) ?? null;
        return { name, source, table: null, view: found, query: null, columns: this.#renamed(columns, renamed) };
      }
      const columns = found.partial ? null : offeredBy(found);
      return { name, source, table: found, view: null, query: null, columns: this.#renamed(columns, renamed) };
    }
    if (source.kind === "derived" && source.query.kind === "query") {
      const columns = this.#queryColumns(source.query);
      return {
        name: alias ?? "",
        source,
        table: null,
        view: null,
        query: source.query,
        columns: this.#renamed(columns, renamed),
      };
    }
    const columns = renamed ? renamed.map((one) => ({ name: this.#fold(one), column: null })) : null;
    return {
      name: alias ?? "",
      source,
      table: null,
      view: null,
      query: null,
      columns: source.kind === "derived" ? columns : null,
    };
  }

  #renamed(columns: readonly OfferedColumn[] | null, names: readonly Ident[] | null): readonly OfferedColumn[] | null {
    if (!columns || !names) return columns;
    return columns.map((column, i) => (names[i] ? { ...column, name: this.#fold(names[i]) } : column));
  }

  #commonTable(name: string): Common | undefined {
    for (let scope = this.#common; scope; scope = scope.outer) {
      const found = scope.tables.get(name);
      if (found) return found;
    }
    return undefined;
  }

  readonly #columnsOf = new Map<Query, readonly OfferedColumn[] | null>();

  /** The columns that a query offers to the one around it. */
  #queryColumns(query: Query): readonly OfferedColumn[] | null {
    const known = this.#columnsOf.get(query);
    if (known !== undefined) return known;
    this.#columnsOf.set(query, null);
    if (++this.#depth > 200) {
      this.#depth--;
      return null;
    }
    const before = this.#common;
    if (query.with) {
      const scope: CommonScope = { tables: new Map(), outer: this.#common };
      for (const table of query.with.tables)
        scope.tables.set(this.#fold(table.name), { table, outer: null, recursive: true });
      this.#common = scope;
    }
    const columns = this.#bodyColumns(query.body);
    this.#common = before;
    this.#depth--;
    this.#columnsOf.set(query, columns);
    return columns;
  }

  #bodyColumns(body: QueryBody): readonly OfferedColumn[] | null {
    if (body.kind === "query") return this.#queryColumns(body);
    if (body.kind === "compounded") return this.#bodyColumns(body.first);
    if (body.kind === "values") return null;
    if (body.kind === "table-query") {
      const table = this.#catalog?.resolve(body.name);
      return table && !table.partial ? offeredBy(table) : null;
    }
    const relations: BoundRelation[] = [];
    const missing = this.missing.length;
    for (const source of body.from) this.#relations(source, relations);
    this.missing.length = missing;
    const columns: OfferedColumn[] = [];
    for (const { expr, alias } of body.items) {
      if (expr.kind === "star") {
        const all = this.#starColumns(expr, relations);
        if (!all) return null;
        columns.push(...all);
      } else if (alias)
        columns.push({
          name: this.#fold(alias),
          column: expr.kind === "column" ? this.#columnIn(expr, relations) : null,
        });
      else if (expr.kind === "column") {
        columns.push({ name: this.#fold(expr.path[expr.path.length - 1]), column: this.#columnIn(expr, relations) });
      } else if (expr.kind === "call")
        columns.push({ name: this.#fold(expr.name.parts[expr.name.parts.length - 1]), column: null });
      // A nameless column: engines make up names, which nobody should refer to.
      else return null;
    }
    return columns;
  }

  #columnIn(ref: ColumnRef, relations: readonly BoundRelation[]): Column | null {
    const name = this.#fold(ref.path[ref.path.length - 1]);
    const qualifier = ref.path.length > 1 ? this.#fold(ref.path[ref.path.length - 2]) : null;
    for (const relation of relations) {
      if (qualifier !== null && relation.name !== qualifier) continue;
      const found = relation.columns?.find((one) => one.name === name);
      if (found) return found.column;
    }
    return null;
  }

  #starColumns(star: Star, relations: readonly BoundRelation[]): readonly OfferedColumn[] | null {
    const wanted = star.path.length > 0 ? this.#fold(star.path[star.path.length - 1]) : null;
    const columns: OfferedColumn[] = [];
    for (const relation of relations) {
      if (wanted !== null && relation.name !== wanted) continue;
      if (!relation.columns) return null;
      columns.push(...relation.columns);
    }
    return columns;
  }

  /** The conditions of joins, and the queries in FROM. */
  #sources(sources: readonly Source[], scope: ResolvedScope): void {
    for (const source of sources) {
      switch (source.kind) {
        case "joined":
          this.#sources([source.first], scope);
          for (const join of source.joins) {
            this.#sources([join.source], scope);
            this.#expr(join.on, scope);
          }
          break;
        case "derived": {
          // Only LATERAL and APPLY see what stands beside them.
          const sees = source.lateral || this.#dialect.engine.lateralFunctions ? scope : scope.outer;
          if (source.query.kind === "query") this.query(source.query, sees);
          else this.statement(source.query, sees);
          break;
        }
        case "function":
          this.#expr(source.call, scope);
          break;
        case "opaque-source":
          if (source.inner) this.#sources([source.inner], scope);
          break;
        default:
      }
    }
  }

  /** Where SET takes its columns from the target alone, whatever FROM offers beside it (postgresql, sqlite). */
  #targetOnly(node: UpdateStatement | DeleteStatement, scope: ResolvedScope): ResolvedScope {
    const { engine } = this.#dialect;
    if (node.kind !== "update" || !engine.targetBesideFrom || scope.relations.length < 2) return scope;
    return { ...scope, relations: scope.relations.slice(0, 1) };
  }

  #assignments(list: readonly Assignment[], scope: ResolvedScope, left: ResolvedScope = scope): void {
    const before = this.#ambiguousIsFirst;
    const { engine } = this.#dialect;
    // The left side means the target, whatever else has such a column; of a join any table may be the target.
    const several = scope.node.kind === "update" && engine.manyUpdateTargets && scope.relations.length > 1;
    for (const { targets, value } of list) {
      this.#ambiguousIsFirst = !several;
      this.#assigned = true;
      for (const target of targets) this.#expr(target, left);
      this.#assigned = false;
      this.#ambiguousIsFirst = before;
      this.#expr(value, scope);
    }
  }

  #returning(clause: Returning | null, scope: ResolvedScope): void {
    if (!clause) return;
    // INSERTED and DELETED (tsql), OLD and NEW (postgresql 18) stand for the target's row.
    const target = scope.relations[0];
    const rows = target
      ? ["inserted", "deleted", "new", "old"].map((text) => ({ ...target, name: this.#fold({ text, quoted: false }) }))
      : [];
    const before = this.#ambiguousIsFirst;
    this.#ambiguousIsFirst = true;
    for (const item of clause.items) this.#expr(item.expr, { ...scope, relations: [...scope.relations, ...rows] });
    this.#ambiguousIsFirst = before;
  }

  #expr(expr: Expr | null | undefined, scope: ResolvedScope | null): void {
    if (!expr) return;
    if (!scope) {
      if (expr.kind === "literal") return;
      scope = { relations: [], outer: null, aliases: NO_ALIASES, node: expr };
    }
    const here = scope;
    // The usual operands need no walk; long chains of operators do, as they nest deep.
    if (expr.kind === "literal") return;
    if (expr.kind === "column") {
      this.#bind(expr, here);
      return;
    }
    if (expr.kind === "binary" && expr.left.kind !== "binary" && expr.right.kind !== "binary") {
      this.#expr(expr.left, here);
      this.#expr(expr.right, here);
      return;
    }
    if (expr.kind === "logic") {
      for (const item of expr.items) this.#expr(item, here);
      return;
    }
    let words: Set<Expr> | null = null;
    walk(expr, (node) => {
      switch (node.kind) {
        case "query":
          this.query(node, here);
          return false;
        case "call":
          for (const word of wordArguments(node, this.#dialect)) {
            words ??= new Set();
            words.add(word);
          }
          return undefined;
        case "column":
          if (words === null || !words.has(node)) this.#bind(node, here);
          return undefined;
        default:
          return undefined;
      }
    });
  }

  #bind(node: ColumnRef, scope: ResolvedScope): void {
    const binding = this.#binding(node, scope);
    this.bindings.set(node, binding);
    if (binding.status === "unknown" || binding.status === "ambiguous") this.open.push(binding);
  }

  #binding(node: ColumnRef, scope: ResolvedScope): Binding {
    const { path } = node;
    const last = path[path.length - 1];
    const name = this.#fold(last);
    const qualifier = path.length > 1 ? this.#fold(path[path.length - 2]) : null;
    for (const part of path) if (part.hole) return bound(node, scope, "undecided");
    if (qualifier === null && isPseudoColumn(name, this.#dialect)) return bound(node, scope, "undecided");
    let undecided = false;
    let level = 0;
    for (let at: ResolvedScope | null = scope; at; at = at.outer, level++) {
      const { relations, aliases } = at;
      if (qualifier !== null) {
        const relation = relations.find((one) => one.name === qualifier);
        if (!relation) continue;
        if (!relation.columns || isPseudoColumn(name, this.#dialect))
          return bound(node, scope, "undecided", relation, null, level);
        const offered = this.#offered(relation, name);
        // Two tables under one name: which one is meant cannot be said with a qualifier either.
        if (offered && path.length === 2 && !this.#ambiguousIsFirst && relations.length > 1) {
          const alike = relations.filter((one) => one.name === qualifier && one.columns && this.#offered(one, name));
          if (alike.length > 1) {
            const ambiguous = bound(node, scope, "ambiguous", null, null, level);
            ambiguous.candidates = alike;
            return ambiguous;
          }
        }
        if (offered) return bound(node, scope, "bound", relation, offered, level);
        return bound(node, scope, "unknown", relation, null, level, "column");
      }
      let relation: BoundRelation | null = null;
      let offered: OfferedColumn | null = null;
      let count = 0;
      let unknownHere = false;
      for (const one of relations) {
        if (!one.columns) {
          unknownHere = true;
          continue;
        }
        const found = this.#offered(one, name);
        if (!found) continue;
        count++;
        if (count > 1) continue;
        relation = one;
        offered = found;
      }
      if (count > 0 && aliases.size > 0 && aliases.has(name) && this.#dialect.engine.aliasHidesColumn)
        return bound(node, scope, "alias", null, null, level);
      if (count === 1 || (count > 1 && (this.#ambiguousIsFirst || this.#merged(name, at))))
        return bound(node, scope, "bound", relation, offered, level);
      if (count > 1) {
        const ambiguous = bound(node, scope, "ambiguous", null, null, level);
        ambiguous.candidates = relations.filter((one) => one.columns && this.#offered(one, name));
        return ambiguous;
      }
      if (aliases.size > 0 && aliases.has(name)) return bound(node, scope, "alias", null, null, level);
      // The whole row of a relation (postgresql), a cursor's or a trigger's row.
      if (relations.some((one) => one.name === name)) return bound(node, scope, "undecided", null, null, level);
      if (unknownHere) undecided = true;
      if (undecided) return bound(node, scope, "undecided", null, null, level);
    }
    // crew_seq.NEXTVAL names a sequence.
    if (qualifier !== null && isPseudoColumn(name, this.#dialect)) return bound(node, scope, "undecided");
    if (qualifier !== null) return bound(node, scope, "unknown", null, null, level, "relation");
    // A name in double quotes that is no column is a string (sqlite.org/quirks.html, 8).
    if (this.#dialect.engine.quotedStrings && last.quoted && !this.#assigned)
      return bound(node, scope, "undecided", null, null, level);
    return bound(node, scope, undecided ? "undecided" : "unknown", null, null, level, "column");
  }

  /** The column that a relation offers under a name. */
  #offered({ columns }: BoundRelation, name: string): OfferedColumn | null {
    if (!columns) return null;
    if (columns.length < MANY) {
      for (const one of columns) if (one.name === name) return one;
      return null;
    }
    let index = indexes.get(columns);
    if (!index) {
      index = new Map();
      for (const one of columns) if (!index.has(one.name)) index.set(one.name, one);
      indexes.set(columns, index);
    }
    return index.get(name) ?? null;
  }

  /** Whether a USING or a NATURAL join makes one column of the two. */
  #merged(name: string, scope: ResolvedScope): boolean {
    const { node } = scope;
    const sources =
      node.kind === "select" && "from" in node
        ? node.from
        : node.kind === "update"
          ? [...node.target, ...node.from]
          : node.kind === "delete"
            ? [...node.from, ...node.using]
            : [];
    const merges = (source: Source): boolean => {
      if (source.kind !== "joined") return false;
      if (merges(source.first)) return true;
      return source.joins.some(
        (join) => join.natural || (join.using?.some((one) => this.#fold(one) === name) ?? false) || merges(join.source),
      );
    };
    return sources.some(merges);
  }
}

const NO_CANDIDATES: readonly BoundRelation[] = [];

function bound(
  node: ColumnRef,
  scope: ResolvedScope,
  status: BindingStatus,
  relation: BoundRelation | null = null,
  offered: OfferedColumn | null = null,
  level = 0,
  reason: Binding["reason"] = null,
): Binding {
  return { node, scope, status, relation, offered, level, candidates: NO_CANDIDATES, reason };
}
