import type { Expr } from "./expressions.ts";
import type { Ident, Name, Span } from "./names.ts";
import type {
  DerivedSource,
  FunctionSource,
  Limit,
  OrderItem,
  Query,
  SelectItem,
  Source,
  TableSource,
  With,
} from "./queries.ts";
import type { Statement } from "./tree.ts";

// The nodes of statements that change rows.

export interface Assignment extends Span {
  /** One column, or several for `(a, b) = (…)`. */
  targets: Expr[];
  value: Expr;
  /** `=`, or a compound operator such as `+=`. */
  op: string;
}

export interface Returning extends Span {
  items: SelectItem[];
  /** OUTPUT … INTO table, RETURNING … INTO variables. */
  into: Expr | null;
}

export interface SelectStatement extends Span {
  kind: "select";
  query: Query;
}

export interface OnConflict extends Span {
  action: "nothing" | "update" | "replace" | "ignore";
  target: Expr[];
  targetWhere: Expr | null;
  constraint: Ident | null;
  assignments: Assignment[];
  where: Expr | null;
}

export interface InsertStatement extends Span {
  kind: "insert";
  with: With | null;
  /** REPLACE, INSERT OR REPLACE. */
  replace: boolean;
  /** INSERT IGNORE, INSERT OR IGNORE. */
  ignore: boolean;
  target: TableSource | DerivedSource | FunctionSource;
  columns: Name[] | null;
  /** INSERT … SET a = 1 (mysql). */
  set: Assignment[] | null;
  source: Query | null;
  /** DEFAULT VALUES. */
  defaults: boolean;
  /** OVERRIDING SYSTEM VALUE or USER VALUE (postgresql). */
  overriding: boolean;
  /** The filter of an INSERT into a multi-valued column (jet). */
  where: Expr | null;
  /** INSERT … EXEC procedure (tsql). */
  exec: Statement | null;
  conflicts: OnConflict[];
  returning: Returning | null;
}

/** Oracle's INSERT ALL / INSERT FIRST. */
export interface MultiInsertStatement extends Span {
  kind: "multi-insert";
  branches: { when: Expr | null; target: TableSource; columns: Name[] | null; values: Expr[] | null }[];
  source: Query;
}

export interface UpdateStatement extends Span {
  kind: "update";
  with: With | null;
  /** What stands between UPDATE and SET: one table, or joined tables (mysql, jet). */
  target: Source[];
  assignments: Assignment[];
  from: Source[];
  where: Expr | null;
  /** WHERE CURRENT OF cursor. */
  currentOf: Ident | null;
  orderBy: OrderItem[];
  limit: Limit | null;
  returning: Returning | null;
  ignore: boolean;
}

export interface DeleteStatement extends Span {
  kind: "delete";
  with: With | null;
  /** The names whose rows are deleted, where the statement lists them: `DELETE a, b FROM …`. */
  named: Name[];
  /** The tables after FROM (or the one table, without FROM). */
  from: Source[];
  using: Source[];
  where: Expr | null;
  currentOf: Ident | null;
  orderBy: OrderItem[];
  limit: Limit | null;
  returning: Returning | null;
  ignore: boolean;
  /** DELETE HISTORY … BEFORE SYSTEM_TIME: old versions of rows go, the rows stay (mariadb). */
  history: Expr | null;
}

export interface MergeWhen extends Span {
  matched: "matched" | "not-matched" | "not-matched-by-source";
  condition: Expr | null;
  action: "update" | "delete" | "insert" | "nothing";
  assignments: Assignment[];
  columns: Name[] | null;
  values: Expr[] | null;
  /** OVERRIDING SYSTEM VALUE or USER VALUE (postgresql). */
  overriding: boolean;
  where: Expr | null;
  /** UPDATE … DELETE WHERE … (plsql). */
  deleteWhere: Expr | null;
}

export interface MergeStatement extends Span {
  kind: "merge";
  with: With | null;
  target: Source;
  source: Source;
  on: Expr;
  whens: MergeWhen[];
  returning: Returning | null;
}

export interface TruncateStatement extends Span {
  kind: "truncate";
  targets: TableSource[];
  cascade: boolean;
  restartIdentity: boolean;
}
