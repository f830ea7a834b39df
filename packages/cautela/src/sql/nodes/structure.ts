import type { Expr, TypeName } from "./expressions.ts";
import type { Ident, Name, Span } from "./names.ts";
import type { Query } from "./queries.ts";
import type { Statement } from "./tree.ts";

// The nodes of statements that change structure.

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
  /** The names that its constraints have been given: by their kind, and for each of `checks`. */
  named: { primary: Ident | null; unique: Ident | null; references: Ident | null; checks: (Ident | null)[] };
  /** Where it is put among the others (mysql): first, or after another one; null: at the end. */
  place: "first" | Ident | null;
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
  /** CREATE FOREIGN TABLE (postgresql): its rows are elsewhere. */
  foreign: boolean;
  /** The composite type whose columns it has (postgresql). */
  ofType: Name | null;
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
    | {
        what: "trigger";
        /** null: all of them. */
        name: Ident | null;
        enabled: "on" | "off" | "replica" | "always";
        /** USER: all but those with which the engine keeps foreign keys (postgresql). */
        userOnly: boolean;
      }
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
    | { what: "drop-constraint"; name: Ident | null; primary: boolean; cascade: boolean }
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
  /** The columns of a composite type. */
  attributes: ColumnDefinition[] | null;
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
  /** null removes the comment. */
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
