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
  CreateSchemaStatement,
  CreateSynonymStatement,
  CreateTableStatement,
  CreateTypeStatement,
  CreateViewStatement,
  DropStatement,
  RenameStatement,
  SetCounterStatement,
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
  readonly kind: "transaction";
  readonly action: TransactionAction;
  readonly name: Ident | null;
}

/** SET, PRAGMA, USE, ALTER SESSION: a setting of the session, the transaction or the server. */
export interface SettingStatement extends Span {
  readonly kind: "setting";
  /** Lower-cased: `search_path`, `foreign_keys`, `identity_insert`, `database` for USE. */
  readonly name: string;
  /** The value as written, without the quotes of a single string. */
  readonly value: string;
  readonly scope: "local" | "session" | "global";
  /** The table of IDENTITY_INSERT, the database of USE. */
  readonly target: Name | null;
}

/** COPY, LOAD DATA, BULK INSERT: rows between a table and a file. */
export interface CopyStatement extends Span {
  readonly kind: "copy";
  readonly table: Name | null;
  readonly direction: "in" | "out";
  readonly columns: readonly Ident[] | null;
  readonly query: Query | null;
  /** Rows with the same key go (LOAD DATA … REPLACE). */
  readonly replace: boolean;
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
  readonly kind: "opaque";
  /** `create`, `alter`, `drop`, `grant`, `set`… */
  readonly verb: string;
  /** `view`, `trigger`, `function`, `sequence`…; empty where the verb says all. */
  readonly object: string;
  readonly class: StatementClass;
  readonly name: Name | null;
}

/** A line for the client: `\d`, `.mode`, `PROMPT`. */
export interface DirectiveStatement extends Span {
  readonly kind: "directive";
  readonly text: string;
}

/** A statement that could not be read. */
export interface UnreadStatement extends Span {
  readonly kind: "unread";
  readonly problem: Problem;
}

/** Why, and where, reading stopped. */
export interface Problem extends Span {
  readonly expected: string;
  readonly found: string;
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
  | CreateSchemaStatement
  | CreateTypeStatement
  | CreateSynonymStatement
  | CommentStatement
  | AlterTriggerStatement
  | RenameStatement
  | SetCounterStatement
  | SettingStatement
  | CopyStatement
  | OpaqueStatement
  | DirectiveStatement
  | UnreadStatement
);

export type Node = Expr | Query | QueryBody | Source | Statement;
