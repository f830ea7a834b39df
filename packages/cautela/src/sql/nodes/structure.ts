import type { Expr, TypeName } from "./expressions.ts";
import type { Ident, Name, Span } from "./names.ts";
import type { Query } from "./queries.ts";
import type { Statement } from "./tree.ts";

// The nodes of statements that change structure.

export interface ColumnDefinition extends Span {
  readonly name: Ident;
  readonly type: TypeName | null;
  readonly required: boolean | null;
  readonly default: Expr | null;
  readonly generated: Expr | null;
  /** Stored, virtual; null when the column is not generated. */
  readonly generatedKind: "stored" | "virtual" | null;
  readonly identity: "always" | "by default" | null;
  readonly autoincrement: boolean;
  readonly primary: boolean;
  readonly unique: boolean;
  readonly references: ForeignKeyClause | null;
  readonly checks: readonly Expr[];
  /** The names that its constraints have been given: by their kind, and for each of `checks`. */
  readonly named: { primary: Ident | null; unique: Ident | null; references: Ident | null; checks: (Ident | null)[] };
  /** Where it is put among the others (mysql): first, or after another one; null: at the end. */
  readonly place: "first" | Ident | null;
  readonly onUpdate: Expr | null;
  readonly collation: string | null;
  readonly comment: string | null;
}

export interface ForeignKeyClause extends Span {
  readonly table: Name;
  readonly columns: readonly Ident[] | null;
  readonly onDelete: string | null;
  readonly onUpdate: string | null;
  readonly match: string | null;
  readonly deferrable: boolean;
  readonly initiallyDeferred: boolean;
}

export interface TableConstraint extends Span {
  readonly kind: "primary" | "unique" | "foreign" | "check" | "exclude" | "index";
  readonly name: Ident | null;
  readonly columns: readonly Ident[];
  /** A key part is an expression, or has a prefix length: the columns do not tell the whole key. */
  readonly inexact: boolean;
  /** Rows that are there are not looked at: NOT VALID, NOVALIDATE, WITH NOCHECK, NOT ENFORCED. */
  readonly unchecked: boolean;
  readonly references: ForeignKeyClause | null;
  readonly check: Expr | null;
  readonly where: Expr | null;
}

export interface CreateTableStatement extends Span {
  readonly kind: "create-table";
  readonly name: Name;
  readonly temporary: boolean;
  readonly ifNotExists: boolean;
  readonly orReplace: boolean;
  readonly columns: readonly ColumnDefinition[];
  readonly constraints: readonly TableConstraint[];
  /** CREATE TABLE … AS query. */
  readonly query: Query | null;
  readonly partitioned: boolean;
  readonly columnNames: readonly Ident[] | null;
  readonly withData: boolean;
  readonly like: readonly Name[];
  /** What LIKE takes along besides the columns: `keys`, `defaults`, `checks`, `generated`, `identity`. */
  readonly likeIncludes: readonly string[];
  readonly inherits: readonly Name[];
  readonly partitionOf: Name | null;
  readonly virtual: boolean;
  /** CREATE FOREIGN TABLE (postgresql): its rows are elsewhere. */
  readonly foreign: boolean;
  /** The composite type whose columns it has (postgresql). */
  readonly ofType: Name | null;
  readonly options: string;
}

export interface CreateIndexStatement extends Span {
  readonly kind: "create-index";
  readonly name: Name | null;
  readonly unique: boolean;
  readonly ifNotExists: boolean;
  readonly table: Name;
  readonly columns: readonly Ident[];
  readonly inexact: boolean;
  readonly where: Expr | null;
}

export type AlterAction = Span &
  (
    | { readonly what: "add-column"; readonly column: ColumnDefinition; readonly ifNotExists: boolean }
    | { readonly what: "drop-column"; readonly name: Ident; readonly cascade: boolean; readonly ifExists: boolean }
    | {
        readonly what: "change-column";
        readonly name: Ident;
        readonly column: ColumnDefinition;
        readonly ifExists: boolean;
      }
    | { readonly what: "column-type"; readonly name: Ident; readonly type: TypeName; readonly using: Expr | null }
    | { readonly what: "column-required"; readonly name: Ident; readonly required: boolean }
    | { readonly what: "column-default"; readonly name: Ident; readonly default: Expr | null }
    | { readonly what: "rename-column"; readonly name: Ident; readonly to: Ident; readonly ifExists: boolean }
    | { readonly what: "rename"; readonly to: Name }
    | { readonly what: "set-schema"; readonly schema: Ident }
    | { readonly what: "rename-constraint"; readonly name: Ident; readonly to: Ident }
    | { readonly what: "drop-index"; readonly name: Ident }
    | {
        readonly what: "trigger";
        /** null: all of them. */
        readonly name: Ident | null;
        readonly enabled: "on" | "off" | "replica" | "always";
        /** USER: all but those with which the engine keeps foreign keys (postgresql). */
        readonly userOnly: boolean;
      }
    | { readonly what: "rule"; readonly name: Ident; readonly enabled: boolean }
    | {
        readonly what: "constraint-enabled";
        readonly name: Ident | null;
        readonly enabled: boolean;
        readonly trusted: boolean;
      }
    | { readonly what: "column-identity"; readonly name: Ident; readonly identity: "always" | "by default" | null }
    /** The counter of an identity column starts again: at a value, or (null) where it first began. */
    | { readonly what: "restart-identity"; readonly name: Ident; readonly value: Expr | null }
    | { readonly what: "column-generated"; readonly name: Ident }
    | { readonly what: "inherit"; readonly table: Name; readonly inherits: boolean }
    | { readonly what: "attach-partition"; readonly table: Name; readonly attached: boolean }
    | { readonly what: "drop-partition"; readonly names: readonly Ident[] }
    | { readonly what: "truncate-partition"; readonly names: readonly Ident[] }
    | { readonly what: "exchange-partition"; readonly table: Name }
    /** SWITCH TO: the rows go into another table (tsql). */
    | { readonly what: "switch"; readonly table: Name }
    | { readonly what: "add-constraint"; readonly constraint: TableConstraint }
    | {
        readonly what: "drop-constraint";
        readonly name: Ident | null;
        readonly primary: boolean;
        readonly cascade: boolean;
        readonly ifExists: boolean;
      }
    | { readonly what: "other" }
  );

export interface AlterTableStatement extends Span {
  readonly kind: "alter-table";
  readonly name: Name;
  readonly ifExists: boolean;
  /** ALTER IGNORE TABLE: rows that a new key would refuse are deleted (mariadb). */
  readonly ignore: boolean;
  readonly actions: readonly AlterAction[];
}

export interface DropStatement extends Span {
  readonly kind: "drop";
  readonly object: string;
  readonly names: readonly Name[];
  /** The table of DROP TRIGGER … ON, DROP INDEX … ON. */
  readonly on: Name | null;
  readonly ifExists: boolean;
  readonly cascade: boolean;
}

export interface CreateViewStatement extends Span {
  readonly kind: "create-view";
  readonly name: Name;
  readonly columns: readonly Ident[] | null;
  readonly query: Query | null;
  readonly orReplace: boolean;
  readonly ifNotExists: boolean;
  readonly temporary: boolean;
  readonly materialized: boolean;
  readonly checkOption: "local" | "cascaded" | null;
  readonly security: "definer" | "invoker" | null;
  /** ALGORITHM = TEMPTABLE keeps the view's rows apart from its tables (mysql, mariadb). */
  readonly algorithm: "merge" | "temptable" | null;
  readonly readOnly: boolean;
}

/** CREATE RULE (postgresql). */
export interface CreateRuleStatement extends Span {
  readonly kind: "create-rule";
  readonly name: Name;
  readonly table: Name;
  readonly event: "select" | "insert" | "update" | "delete";
  readonly orReplace: boolean;
  readonly instead: boolean;
  readonly where: Expr | null;
  /** Empty: NOTHING. */
  readonly body: readonly Statement[];
}

/** CREATE TYPE … AS ENUM, CREATE DOMAIN: what constrains the values of columns. */
export interface CreateTypeStatement extends Span {
  readonly kind: "create-type";
  readonly object: "type" | "domain";
  readonly name: Name;
  readonly enumeration: readonly string[] | null;
  /** The columns of a composite type. */
  readonly attributes: readonly ColumnDefinition[] | null;
  readonly base: TypeName | null;
  readonly required: boolean;
  readonly checks: readonly Expr[];
}

/** CREATE SCHEMA, CREATE DATABASE, with what is made in it by the same statement (PostgreSQL 15 manual, CREATE SCHEMA). */
export interface CreateSchemaStatement extends Span {
  readonly kind: "create-schema";
  readonly object: "schema" | "database";
  readonly name: Name;
  readonly ifNotExists: boolean;
  /** Their names, and names of each other, are given the schema. */
  readonly elements: readonly Statement[];
}

export interface CreateSynonymStatement extends Span {
  readonly kind: "create-synonym";
  readonly name: Name;
  readonly target: Name;
  readonly orReplace: boolean;
}

/** COMMENT ON. */
export interface CommentStatement extends Span {
  readonly kind: "comment";
  readonly object: string;
  readonly name: Name;
  /** null removes the comment. */
  readonly text: string | null;
}

/** A trigger switched on or off by itself: ALTER TRIGGER … DISABLE, DISABLE TRIGGER … ON. */
export interface AlterTriggerStatement extends Span {
  readonly kind: "alter-trigger";
  /** null: every trigger of the table. */
  readonly names: readonly Name[] | null;
  readonly table: Name | null;
  readonly enabled: boolean;
}

/** RENAME TABLE a TO b, ALTER VIEW v RENAME TO w, ALTER SEQUENCE s SET SCHEMA x. */
/** A counter is set: ALTER SEQUENCE … RESTART, DBCC CHECKIDENT (…, RESEED, n). */
export interface SetCounterStatement extends Span {
  readonly kind: "set-counter";
  /** What `name` names: the sequence itself, or the table whose keys it counts. */
  readonly of: "sequence" | "table";
  readonly name: Name;
  /** The value at which it goes on; null: the one at which it first began. */
  readonly value: Expr | null;
}

export interface RenameStatement extends Span {
  readonly kind: "rename";
  readonly object: string;
  readonly renames: { from: Name; to: Name }[];
  /** `to` is the new schema, and the name stays. */
  readonly schema: boolean;
  /** The table that the object belongs to: ALTER TRIGGER t ON x RENAME TO u. */
  readonly table: Name | null;
}
