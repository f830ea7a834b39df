/**
 * The syntax tree. Every node carries its exact range in the script, so `text.slice(node.start,
 * node.end)` is the node as it was written, comments included.
 */
export interface Span {
  start: number;
  end: number;
}

/** One name or one part of a dotted name. */
export interface Ident extends Span {
  /** The name without its quotes, as written. */
  text: string;
  quoted: boolean;
  /** A placeholder or a template hole stands for the name, or is part of it. */
  hole: boolean;
}

/** A dotted name: `schema.table`. */
export interface Name extends Span {
  kind: "name";
  parts: Ident[];
  /** The database link of `vessel@archive` (plsql). */
  link: Ident | null;
}

// ---------------------------------------------------------------- expressions

export interface ColumnRef extends Span {
  kind: "column";
  path: Ident[];
  /** Oracle's `(+)`. */
  outer: boolean;
}

export interface Star extends Span {
  kind: "star";
  path: Ident[];
}

export interface Literal extends Span {
  kind: "literal";
  type: "string" | "number" | "boolean" | "null" | "date" | "interval" | "bits" | "default";
  /** The value: decoded text of a string, the digits of a number as written, `true`, `false`. */
  value: string;
}

export interface Hole extends Span {
  kind: "hole";
  text: string;
}

export interface Variable extends Span {
  kind: "variable";
  name: string;
}

export interface Call extends Span {
  kind: "call";
  name: Name;
  args: Expr[];
  /** Names of named arguments, by position; null where an argument has none. */
  argNames: (string | null)[] | null;
  distinct: boolean;
  star: boolean;
  orderBy: OrderItem[] | null;
  filter: Expr | null;
  over: boolean;
  /** Part of the arguments was taken over without a tree. */
  opaque: boolean;
}

export interface Binary extends Span {
  kind: "binary";
  op: string;
  left: Expr;
  right: Expr;
}

/** A chain of conditions joined by one connective: `a AND b AND c` is one node. */
export interface Logic extends Span {
  kind: "logic";
  op: "and" | "or" | "xor";
  items: Expr[];
  parenthesised: boolean;
}

export interface Unary extends Span {
  kind: "unary";
  op: string;
  operand: Expr;
}

export interface Is extends Span {
  kind: "is";
  operand: Expr;
  test: "null" | "true" | "false" | "unknown" | "distinct" | "other";
  negated: boolean;
  /** The right side of IS [NOT] DISTINCT FROM, and of sqlite's IS with any operand. */
  right: Expr | null;
}

export interface In extends Span {
  kind: "in";
  operand: Expr;
  negated: boolean;
  items: Expr[] | null;
  query: Query | null;
}

export interface Between extends Span {
  kind: "between";
  operand: Expr;
  low: Expr;
  high: Expr;
  negated: boolean;
}

export interface Like extends Span {
  kind: "like";
  /** LIKE, ILIKE, GLOB, REGEXP, RLIKE, SIMILAR TO, MATCH. */
  op: string;
  operand: Expr;
  pattern: Expr;
  escape: Expr | null;
  negated: boolean;
}

export interface Case extends Span {
  kind: "case";
  operand: Expr | null;
  whens: { when: Expr; result: Expr }[];
  otherwise: Expr | null;
}

export interface Cast extends Span {
  kind: "cast";
  operand: Expr;
  type: TypeName;
}

export interface Row extends Span {
  kind: "row";
  items: Expr[];
}

export interface Subquery extends Span {
  kind: "subquery";
  query: Query;
}

export interface Exists extends Span {
  kind: "exists";
  query: Query;
}

/** `x = ANY (…)`, `x > ALL (…)`. */
export interface Quantified extends Span {
  kind: "quantified";
  op: string;
  quantifier: "any" | "all";
  left: Expr;
  query: Query | null;
  operand: Expr | null;
}

/** Anything else with operands: subscripts, field selection, AT TIME ZONE, COLLATE, array literals. */
export interface Compound extends Span {
  kind: "compound";
  what: "subscript" | "field" | "at" | "collate" | "array" | "interval" | "current" | "prior" | "cursor" | "other";
  operands: Expr[];
  name: string;
}

/** Text that is kept but not understood. */
export interface OpaqueExpr extends Span {
  kind: "opaque";
}

export type Expr =
  | ColumnRef
  | Star
  | Literal
  | Hole
  | Variable
  | Call
  | Binary
  | Logic
  | Unary
  | Is
  | In
  | Between
  | Like
  | Case
  | Cast
  | Row
  | Subquery
  | Exists
  | Quantified
  | Compound
  | OpaqueExpr;

export interface TypeName extends Span {
  kind: "type";
  /** The words of the name, lower-cased and joined by one blank: `double precision`. */
  name: string;
  /** Length, precision, scale, as written; the values of an enumeration. */
  args: string[];
  array: boolean;
  /** `unsigned`, `zerofill`, `character set x`, `with time zone`: what follows the arguments. */
  modifiers: string;
}

// ---------------------------------------------------------------- queries

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

// ---------------------------------------------------------------- statements

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
  /** The tables behind FROM (or the one table, without FROM). */
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

export interface ColumnDefinition extends Span {
  name: Ident;
  type: TypeName | null;
  required: boolean | null;
  default: Expr | null;
  generated: Expr | null;
  /** Stored, virtual; null when the column is not generated. */
  generatedKind: "stored" | "virtual" | null;
  identity: "always" | "by default" | null;
  autoincrement: boolean;
  primary: boolean;
  unique: boolean;
  references: ForeignKeyClause | null;
  checks: Expr[];
  onUpdate: Expr | null;
  collation: string | null;
  comment: string | null;
}

export interface ForeignKeyClause extends Span {
  table: Name;
  columns: Ident[] | null;
  onDelete: string | null;
  onUpdate: string | null;
  match: string | null;
  deferrable: boolean;
  initiallyDeferred: boolean;
}

export interface TableConstraint extends Span {
  kind: "primary" | "unique" | "foreign" | "check" | "exclude" | "index";
  name: Ident | null;
  columns: Ident[];
  /** A key part is an expression, or has a prefix length: the columns do not tell the whole key. */
  inexact: boolean;
  references: ForeignKeyClause | null;
  check: Expr | null;
  where: Expr | null;
}

export interface CreateTableStatement extends Span {
  kind: "create-table";
  name: Name;
  temporary: boolean;
  ifNotExists: boolean;
  orReplace: boolean;
  columns: ColumnDefinition[];
  constraints: TableConstraint[];
  /** CREATE TABLE … AS query. */
  query: Query | null;
  partitioned: boolean;
  columnNames: Ident[] | null;
  withData: boolean;
  like: Name[];
  /** What LIKE takes along besides the columns: `keys`, `defaults`, `checks`, `generated`, `identity`. */
  likeIncludes: string[];
  inherits: Name[];
  partitionOf: Name | null;
  virtual: boolean;
  options: string;
}

export interface CreateIndexStatement extends Span {
  kind: "create-index";
  name: Name | null;
  unique: boolean;
  ifNotExists: boolean;
  table: Name;
  columns: Ident[];
  inexact: boolean;
  where: Expr | null;
}

export type AlterAction = Span &
  (
    | { what: "add-column"; column: ColumnDefinition; ifNotExists: boolean }
    | { what: "drop-column"; name: Ident; cascade: boolean }
    | { what: "change-column"; name: Ident; column: ColumnDefinition }
    | { what: "column-type"; name: Ident; type: TypeName; using: Expr | null }
    | { what: "column-required"; name: Ident; required: boolean }
    | { what: "column-default"; name: Ident; default: Expr | null }
    | { what: "rename-column"; name: Ident; to: Ident }
    | { what: "rename"; to: Name }
    | { what: "set-schema"; schema: Ident }
    | { what: "rename-constraint"; name: Ident; to: Ident }
    | { what: "drop-index"; name: Ident }
    | { what: "trigger"; name: Ident | null; enabled: "on" | "off" | "replica" | "always" }
    | { what: "rule"; name: Ident; enabled: boolean }
    | { what: "constraint-enabled"; name: Ident | null; enabled: boolean; trusted: boolean }
    | { what: "column-identity"; name: Ident; identity: "always" | "by default" | null }
    | { what: "column-generated"; name: Ident }
    | { what: "inherit"; table: Name; inherits: boolean }
    | { what: "attach-partition"; table: Name; attached: boolean }
    | { what: "drop-partition"; names: Ident[] }
    | { what: "truncate-partition"; names: Ident[] }
    | { what: "exchange-partition"; table: Name }
    | { what: "add-constraint"; constraint: TableConstraint }
    | { what: "drop-constraint"; name: Ident | null; primary: boolean }
    | { what: "other" }
  );

export interface AlterTableStatement extends Span {
  kind: "alter-table";
  name: Name;
  actions: AlterAction[];
}

export interface DropStatement extends Span {
  kind: "drop";
  object: string;
  names: Name[];
  /** The table of DROP TRIGGER … ON, DROP INDEX … ON. */
  on: Name | null;
  ifExists: boolean;
  cascade: boolean;
}

export type TransactionAction =
  | "begin"
  | "commit"
  | "rollback"
  | "savepoint"
  | "rollback-to"
  | "release"
  | "prepare"
  | "set";

/** BEGIN, COMMIT, ROLLBACK and their like. */
export interface TransactionStatement extends Span {
  kind: "transaction";
  action: TransactionAction;
  name: Ident | null;
}

// ---------------------------------------------------------------- code

/** BEGIN … END, with what it declares and what it does on errors. */
export interface BlockStatement extends Span {
  kind: "block";
  declarations: Statement[];
  body: Statement[];
  /** EXCEPTION WHEN … THEN, BEGIN CATCH: the names of the conditions, as written, and what is done. */
  handlers: { when: string; body: Statement[] }[];
}

/** IF and CASE as statements; the last branch without a condition is ELSE. */
export interface IfStatement extends Span {
  kind: "if";
  branches: { condition: Expr | null; body: Statement[] }[];
}

/** LOOP, WHILE, FOR, FOREACH, FORALL, REPEAT. */
export interface LoopStatement extends Span {
  kind: "loop";
  condition: Expr | null;
  /** The query whose rows a FOR loop walks through. */
  query: Query | null;
  body: Statement[];
}

/** `x := 1`, `SET NEW.fee = 0`, `SELECT @a = 1` is a select and not this. */
export interface AssignStatement extends Span {
  kind: "assign";
  assignments: Assignment[];
}

/** A variable, a cursor with its query, or a handler with what it does. */
export interface DeclareStatement extends Span {
  kind: "declare";
  name: Ident | null;
  type: TypeName | null;
  value: Expr | null;
  query: Query | null;
  handler: Statement | null;
}

/** CALL, EXEC, PERFORM, or a bare procedure name (plsql). */
export interface CallStatement extends Span {
  kind: "call-statement";
  name: Name | null;
  args: Expr[];
}

/** SQL that is put together while it runs: EXECUTE IMMEDIATE, EXEC('…'), PREPARE … FROM. */
export interface DynamicStatement extends Span {
  kind: "dynamic";
  text: Expr | null;
  /** The statements of the text where it is constant; null where it is not. */
  body: Statement[] | null;
}

export interface TriggerHead {
  timing: "before" | "after" | "instead";
  events: ("insert" | "update" | "delete" | "truncate")[];
  /** The columns of UPDATE OF; null: every column. */
  columns: Ident[] | null;
  table: Name | null;
  row: boolean;
  when: Expr | null;
}

/** CREATE FUNCTION, PROCEDURE, TRIGGER, PACKAGE [BODY], EVENT, TYPE BODY. */
export interface CreateRoutineStatement extends Span {
  kind: "create-routine";
  object: string;
  name: Name | null;
  orReplace: boolean;
  language: string;
  /** Its arguments, each as it is written; null where it lists none, and for the routines of a package. */
  arguments: Span[] | null;
  trigger: TriggerHead | null;
  /** The function that a trigger calls (postgresql). */
  calls: Name | null;
  /** The statements of the body; null where it is not read. */
  body: Statement[] | null;
  /** Why the body was not read, where it was tried. */
  problem: Problem | null;
}

export interface CreateViewStatement extends Span {
  kind: "create-view";
  name: Name;
  columns: Ident[] | null;
  query: Query | null;
  orReplace: boolean;
  temporary: boolean;
  materialized: boolean;
  checkOption: "local" | "cascaded" | null;
  security: "definer" | "invoker" | null;
  /** ALGORITHM = TEMPTABLE keeps the view's rows apart from its tables (mysql, mariadb). */
  algorithm: "merge" | "temptable" | null;
  readOnly: boolean;
}

/** CREATE RULE (postgresql). */
export interface CreateRuleStatement extends Span {
  kind: "create-rule";
  name: Name;
  table: Name;
  event: "select" | "insert" | "update" | "delete";
  orReplace: boolean;
  instead: boolean;
  where: Expr | null;
  /** Empty: NOTHING. */
  body: Statement[];
}

/** CREATE TYPE … AS ENUM, CREATE DOMAIN: what constrains the values of columns. */
export interface CreateTypeStatement extends Span {
  kind: "create-type";
  object: "type" | "domain";
  name: Name;
  enumeration: string[] | null;
  base: TypeName | null;
  required: boolean;
  checks: Expr[];
}

export interface CreateSynonymStatement extends Span {
  kind: "create-synonym";
  name: Name;
  target: Name;
  orReplace: boolean;
}

/** COMMENT ON. */
export interface CommentStatement extends Span {
  kind: "comment";
  object: string;
  name: Name;
  /** null takes the comment away. */
  text: string | null;
}

/** A trigger switched on or off by itself: ALTER TRIGGER … DISABLE, DISABLE TRIGGER … ON. */
export interface AlterTriggerStatement extends Span {
  kind: "alter-trigger";
  /** null: every trigger of the table. */
  names: Name[] | null;
  table: Name | null;
  enabled: boolean;
}

/** RENAME TABLE a TO b, ALTER VIEW v RENAME TO w, ALTER SEQUENCE s SET SCHEMA x. */
export interface RenameStatement extends Span {
  kind: "rename";
  object: string;
  renames: { from: Name; to: Name }[];
  /** `to` is the new schema, and the name stays. */
  schema: boolean;
  /** The table that the object belongs to: ALTER TRIGGER t ON x RENAME TO u. */
  table: Name | null;
}

/** SET, PRAGMA, USE, ALTER SESSION: a setting of the session, the transaction or the server. */
export interface SettingStatement extends Span {
  kind: "setting";
  /** Lower-cased: `search_path`, `foreign_keys`, `identity_insert`, `database` for USE. */
  name: string;
  /** The value as written, without the quotes of a single string. */
  value: string;
  scope: "local" | "session" | "global";
  /** The table of IDENTITY_INSERT, the database of USE. */
  target: Name | null;
}

/** COPY, LOAD DATA, BULK INSERT: rows between a table and a file. */
export interface CopyStatement extends Span {
  kind: "copy";
  table: Name | null;
  direction: "in" | "out";
  query: Query | null;
}

/** What a statement does, for what Cautela does not read to the end. */
export type StatementClass =
  | "reads"
  | "rows"
  | "structure"
  | "rights"
  | "session"
  | "transaction"
  | "client"
  | "code"
  | "unread";

/** A statement that is known by its head; the rest is kept as text. */
export interface OpaqueStatement extends Span {
  kind: "opaque";
  /** `create`, `alter`, `drop`, `grant`, `set`… */
  verb: string;
  /** `view`, `trigger`, `function`, `sequence`…; empty where the verb says all. */
  object: string;
  class: StatementClass;
  name: Name | null;
}

/** A line for the client: `\d`, `.mode`, `PROMPT`. */
export interface DirectiveStatement extends Span {
  kind: "directive";
  text: string;
}

/** A statement that could not be read. */
export interface UnreadStatement extends Span {
  kind: "unread";
  problem: Problem;
}

/** Why, and where, reading stopped. */
export interface Problem extends Span {
  expected: string;
  found: string;
}

export type Statement = {
  /** The parameters that the statement declares and prompts for (jet). */
  parameters?: Ident[];
} & (
  | SelectStatement
  | InsertStatement
  | MultiInsertStatement
  | UpdateStatement
  | DeleteStatement
  | MergeStatement
  | TruncateStatement
  | CreateTableStatement
  | CreateIndexStatement
  | AlterTableStatement
  | DropStatement
  | TransactionStatement
  | BlockStatement
  | IfStatement
  | LoopStatement
  | AssignStatement
  | DeclareStatement
  | CallStatement
  | DynamicStatement
  | CreateRoutineStatement
  | CreateViewStatement
  | CreateRuleStatement
  | CreateTypeStatement
  | CreateSynonymStatement
  | CommentStatement
  | AlterTriggerStatement
  | RenameStatement
  | SettingStatement
  | CopyStatement
  | OpaqueStatement
  | DirectiveStatement
  | UnreadStatement
);

export type Node = Expr | Query | QueryBody | Source | Statement;
