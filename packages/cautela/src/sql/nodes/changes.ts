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
  readonly targets: readonly Expr[];
  readonly value: Expr;
  /** `=`, or a compound operator such as `+=`. */
  readonly op: string;
}

export interface Returning extends Span {
  readonly items: readonly SelectItem[];
  /** It is an OUTPUT, which goes into a table (tsql). */
  readonly output: boolean;
  /** OUTPUT … INTO table, RETURNING … INTO variables. */
  readonly into: Expr | null;
}

export interface SelectStatement extends Span {
  readonly kind: "select";
  readonly query: Query;
}

export interface OnConflict extends Span {
  readonly action: "nothing" | "update" | "replace" | "ignore";
  readonly target: readonly Expr[];
  readonly targetWhere: Expr | null;
  readonly constraint: Ident | null;
  readonly assignments: readonly Assignment[];
  readonly where: Expr | null;
}

export interface InsertStatement extends Span {
  readonly kind: "insert";
  readonly with: With | null;
  /** REPLACE, INSERT OR REPLACE. */
  readonly replace: boolean;
  /** INSERT IGNORE, INSERT OR IGNORE. */
  readonly ignore: boolean;
  readonly target: TableSource | DerivedSource | FunctionSource;
  readonly columns: readonly Name[] | null;
  /** INSERT … SET a = 1 (mysql). */
  readonly set: readonly Assignment[] | null;
  readonly source: Query | null;
  /** DEFAULT VALUES. */
  readonly defaults: boolean;
  /** OVERRIDING SYSTEM VALUE or USER VALUE (postgresql). */
  readonly overriding: boolean;
  /** The filter of an INSERT into a multi-valued column (jet). */
  readonly where: Expr | null;
  /** INSERT … EXEC procedure (tsql). */
  readonly exec: Statement | null;
  readonly conflicts: readonly OnConflict[];
  readonly returning: Returning | null;
}

/** One table of INSERT ALL, with the condition on the rows that go into it. */
export interface InsertBranch {
  readonly when: Expr | null;
  readonly target: TableSource;
  readonly columns: readonly Name[] | null;
  readonly values: readonly Expr[] | null;
}

/** Oracle's INSERT ALL / INSERT FIRST. */
export interface MultiInsertStatement extends Span {
  readonly kind: "multi-insert";
  readonly branches: readonly InsertBranch[];
  readonly source: Query;
}

/** What UPDATE and DELETE share: which rows they change, and what they give back. */
interface RowsStatement extends Span {
  readonly with: With | null;
  readonly from: readonly Source[];
  readonly where: Expr | null;
  /** WHERE CURRENT OF cursor. */
  readonly currentOf: Ident | null;
  readonly orderBy: readonly OrderItem[];
  readonly limit: Limit | null;
  readonly returning: Returning | null;
  readonly ignore: boolean;
}

export interface UpdateStatement extends RowsStatement {
  readonly kind: "update";
  /** What stands between UPDATE and SET: one table, or joined tables (mysql, jet). */
  readonly target: readonly Source[];
  readonly assignments: readonly Assignment[];
  /** UPDATE OR REPLACE (sqlite): rows that stand in the way of a key are deleted. */
  readonly replaces: boolean;
}

export interface DeleteStatement extends RowsStatement {
  readonly kind: "delete";
  /** The names whose rows are deleted, where the statement lists them: `DELETE a, b FROM …`. */
  readonly named: readonly Name[];
  /** The tables after FROM (or the one table, without FROM). */
  readonly from: readonly Source[];
  readonly using: readonly Source[];
  /** DELETE DISTINCTROW (jet). */
  readonly distinctRows: boolean;
  /** DELETE HISTORY … BEFORE SYSTEM_TIME: old versions of rows go, the rows stay (mariadb). */
  readonly history: Expr | null;
}

export interface MergeWhen extends Span {
  readonly matched: "matched" | "not-matched" | "not-matched-by-source";
  readonly condition: Expr | null;
  readonly action: "update" | "delete" | "insert" | "nothing";
  readonly assignments: readonly Assignment[];
  readonly columns: readonly Name[] | null;
  readonly values: readonly Expr[] | null;
  /** OVERRIDING SYSTEM VALUE or USER VALUE (postgresql). */
  readonly overriding: boolean;
  readonly where: Expr | null;
  /** UPDATE … DELETE WHERE … (plsql). */
  readonly deleteWhere: Expr | null;
}

export interface MergeStatement extends Span {
  readonly kind: "merge";
  readonly with: With | null;
  readonly target: Source;
  readonly source: Source;
  readonly on: Expr;
  readonly whens: readonly MergeWhen[];
  readonly returning: Returning | null;
}

export interface TruncateStatement extends Span {
  readonly kind: "truncate";
  readonly targets: readonly TableSource[];
  readonly cascade: boolean;
  /** WITH (PARTITIONS (…)): some of its partitions (tsql). */
  readonly partitions: boolean;
  readonly restartIdentity: boolean;
}
