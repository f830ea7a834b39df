import type { Expr } from "./expressions.ts";
import type { Ident, Name, Span } from "./names.ts";
import type { Statement } from "./tree.ts";

// The nodes of queries and of what they read from.

export interface OrderItem extends Span {
  expr: Expr;
  descending: boolean;
}

export interface SelectItem extends Span {
  expr: Expr;
  alias: Ident | null;
}

export interface Limit extends Span {
  count: Expr | null;
  offset: Expr | null;
  percent: boolean;
  withTies: boolean;
}

export interface With extends Span {
  recursive: boolean;
  tables: CommonTable[];
}

export interface CommonTable extends Span {
  name: Ident;
  columns: Ident[] | null;
  body: Statement | Query;
}

export interface Select extends Span {
  kind: "select";
  distinct: boolean;
  distinctOn: Expr[] | null;
  top: Limit | null;
  items: SelectItem[];
  /** SELECT … INTO a table, or into variables. */
  into: IntoTarget | null;
  from: Source[];
  where: Expr | null;
  groupBy: Expr[];
  having: Expr | null;
  connectBy: Expr | null;
  qualify: Expr | null;
  windows: boolean;
}

export interface IntoTarget extends Span {
  /** `table` creates a table (postgresql, tsql); `variables` and `file` do not. */
  what: "table" | "variables" | "file";
  temporary: boolean;
  targets: Expr[];
}

export interface Compounded extends Span {
  kind: "compounded";
  first: QueryBody;
  rest: { op: "union" | "intersect" | "except"; all: boolean; body: QueryBody }[];
}

export interface Values extends Span {
  kind: "values";
  /** The rows that have trees; in a long list of literals only the first ones. */
  rows: Expr[][];
  rowCount: number;
  /** How many expressions the shortest and the longest row hold. */
  narrowest: number;
  widest: number;
}

/** `TABLE vessel`. */
export interface TableQuery extends Span {
  kind: "table-query";
  name: Name;
}

export type QueryBody = Select | Compounded | Values | TableQuery | Query;

export interface Query extends Span {
  kind: "query";
  with: With | null;
  body: QueryBody;
  orderBy: OrderItem[];
  limit: Limit | null;
  locking: boolean;
  /** SELECT … INTO after the FROM clause (mysql). */
  into: IntoTarget | null;
}

export interface TableSource extends Span {
  kind: "table";
  name: Name;
  alias: Ident | null;
  columns: Ident[] | null;
  /** ONLY: without the tables that inherit. */
  only: boolean;
  hints: boolean;
}

export interface DerivedSource extends Span {
  kind: "derived";
  /** A query, or (plsql, tsql) a statement that returns rows. */
  query: Query | Statement;
  alias: Ident | null;
  columns: Ident[] | null;
  lateral: boolean;
}

export interface FunctionSource extends Span {
  kind: "function";
  call: Expr;
  alias: Ident | null;
  columns: Ident[] | null;
  lateral: boolean;
}

export interface JoinedSource extends Span {
  kind: "joined";
  first: Source;
  joins: Join[];
  alias: Ident | null;
  columns: Ident[] | null;
}

export interface Join extends Span {
  type: "inner" | "left" | "right" | "full" | "cross" | "apply" | "outer-apply";
  natural: boolean;
  source: Source;
  on: Expr | null;
  using: Ident[] | null;
}

/** PIVOT, MATCH_RECOGNIZE and their like: the sources inside are kept, the rest is opaque. */
export interface OpaqueSource extends Span {
  kind: "opaque-source";
  inner: Source | null;
  alias: Ident | null;
}

export type Source = TableSource | DerivedSource | FunctionSource | JoinedSource | OpaqueSource;
