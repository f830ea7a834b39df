import type {
  DeleteStatement,
  InsertStatement,
  MergeStatement,
  MultiInsertStatement,
  SelectStatement,
  TruncateStatement,
  UpdateStatement,
} from "./changes.ts";
import type {
  AssignStatement,
  BlockStatement,
  CallStatement,
  CreateRoutineStatement,
  DeclareStatement,
  DynamicStatement,
  IfStatement,
  LoopStatement,
} from "./code.ts";
import type { Expr } from "./expressions.ts";
import type { Ident, Name, Span } from "./names.ts";
import type { Query, QueryBody, Source } from "./queries.ts";
import type {
  AlterTableStatement,
  AlterTriggerStatement,
  CommentStatement,
  CreateIndexStatement,
  CreateRuleStatement,
  CreateSynonymStatement,
  CreateTableStatement,
  CreateTypeStatement,
  CreateViewStatement,
  DropStatement,
  RenameStatement,
} from "./structure.ts";

export type * from "./changes.ts";
export type * from "./code.ts";
export type * from "./expressions.ts";
export type * from "./names.ts";
export type * from "./queries.ts";
export type * from "./structure.ts";

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
