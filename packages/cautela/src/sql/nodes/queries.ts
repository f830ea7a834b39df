import type { Expr } from "./expressions.ts";
import type { Ident, Name, Span } from "./names.ts";
import type { Statement } from "./tree.ts";

// The nodes of queries and of what they read from.

export interface OrderItem extends Span {
  readonly expr: Expr;
  readonly descending: boolean;
}

export interface SelectItem extends Span {
  readonly expr: Expr;
  readonly alias: Ident | null;
}

export interface Limit extends Span {
  readonly count: Expr | null;
  readonly offset: Expr | null;
  readonly percent: boolean;
  readonly withTies: boolean;
}

export interface With extends Span {
  readonly recursive: boolean;
  readonly tables: readonly CommonTable[];
}

export interface CommonTable extends Span {
  readonly name: Ident;
  readonly columns: readonly Ident[] | null;
  readonly body: Statement | Query;
}

export interface Select extends Span {
  readonly kind: "select";
  readonly distinct: boolean;
  readonly distinctOn: readonly Expr[] | null;
  readonly top: Limit | null;
  readonly items: readonly SelectItem[];
  /** SELECT … INTO a table, or into variables. */
  readonly into: IntoTarget | null;
  readonly from: readonly Source[];
  readonly where: Expr | null;
  readonly groupBy: readonly Expr[];
  readonly having: Expr | null;
  readonly connectBy: Expr | null;
  readonly qualify: Expr | null;
  readonly windows: boolean;
}

export interface IntoTarget extends Span {
  /** `table` creates a table (postgresql, tsql); `variables` and `file` do not. */
  readonly what: "table" | "variables" | "file";
  readonly temporary: boolean;
  readonly targets: readonly Expr[];
}

export interface Compounded extends Span {
  readonly kind: "compounded";
  readonly first: QueryBody;
  readonly rest: { op: "union" | "intersect" | "except"; all: boolean; body: QueryBody }[];
}

export interface Values extends Span {
  readonly kind: "values";
  /** The rows that have trees; in a long list of literals only the first ones. */
  readonly rows: readonly (readonly Expr[])[];
  readonly rowCount: number;
  /** How many expressions the shortest and the longest row hold. */
  readonly narrowest: number;
  readonly widest: number;
}

/** `TABLE vessel`. */
export interface TableQuery extends Span {
  readonly kind: "table-query";
  readonly name: Name;
}

export type QueryBody = Select | Compounded | Values | TableQuery | Query;

export interface Query extends Span {
  readonly kind: "query";
  readonly with: With | null;
  readonly body: QueryBody;
  readonly orderBy: readonly OrderItem[];
  readonly limit: Limit | null;
  readonly locking: boolean;
  /** SELECT … INTO after the FROM clause (mysql). */
  readonly into: IntoTarget | null;
}

export interface TableSource extends Span {
  readonly kind: "table";
  readonly name: Name;
  readonly alias: Ident | null;
  readonly columns: readonly Ident[] | null;
  /** ONLY: without the tables that inherit. */
  readonly only: boolean;
  readonly hints: boolean;
}

export interface DerivedSource extends Span {
  readonly kind: "derived";
  /** A query, or (plsql, tsql) a statement that returns rows. */
  readonly query: Query | Statement;
  readonly alias: Ident | null;
  readonly columns: readonly Ident[] | null;
  readonly lateral: boolean;
}

export interface FunctionSource extends Span {
  readonly kind: "function";
  readonly call: Expr;
  readonly alias: Ident | null;
  readonly columns: readonly Ident[] | null;
  readonly lateral: boolean;
}

export interface JoinedSource extends Span {
  readonly kind: "joined";
  readonly first: Source;
  readonly joins: readonly Join[];
  readonly alias: Ident | null;
  readonly columns: readonly Ident[] | null;
}

export interface Join extends Span {
  readonly type: "inner" | "left" | "right" | "full" | "cross" | "apply" | "outer-apply";
  readonly natural: boolean;
  readonly source: Source;
  readonly on: Expr | null;
  readonly using: readonly Ident[] | null;
}

/** PIVOT, MATCH_RECOGNIZE and their like: the sources inside are kept, the rest is opaque. */
export interface OpaqueSource extends Span {
  readonly kind: "opaque-source";
  readonly inner: Source | null;
  readonly alias: Ident | null;
}

export type Source = TableSource | DerivedSource | FunctionSource | JoinedSource | OpaqueSource;
