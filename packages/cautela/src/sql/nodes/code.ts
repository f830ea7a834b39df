import type { Assignment } from "./changes.ts";
import type { Expr, TypeName } from "./expressions.ts";
import type { Ident, Name, Span } from "./names.ts";
import type { Query } from "./queries.ts";
import type { Problem, Statement } from "./tree.ts";

// The nodes of code: blocks, loops, routines.

/** BEGIN … END, with what it declares and what it does on errors. */
export interface BlockStatement extends Span {
  readonly kind: "block";
  readonly declarations: readonly Statement[];
  readonly body: readonly Statement[];
  /** EXCEPTION WHEN … THEN, BEGIN CATCH: the names of the conditions, as written, and what is done. */
  readonly handlers: readonly { readonly when: string; readonly body: readonly Statement[] }[];
}

/** IF and CASE as statements; the last branch without a condition is ELSE. */
export interface IfStatement extends Span {
  readonly kind: "if";
  readonly branches: readonly { readonly condition: Expr | null; readonly body: readonly Statement[] }[];
}

/** LOOP, WHILE, FOR, FOREACH, FORALL, REPEAT. */
export interface LoopStatement extends Span {
  readonly kind: "loop";
  readonly condition: Expr | null;
  /** The query whose rows a FOR loop walks through. */
  readonly query: Query | null;
  readonly body: readonly Statement[];
}

/** `x := 1`, `SET NEW.fee = 0`, `SELECT @a = 1` is a select and not this. */
export interface AssignStatement extends Span {
  readonly kind: "assign";
  readonly assignments: readonly Assignment[];
}

/** A variable, a cursor with its query, or a handler with what it does. */
export interface DeclareStatement extends Span {
  readonly kind: "declare";
  readonly name: Ident | null;
  /** The names before it in the same DECLARE (tsql). */
  readonly before: readonly Ident[];
  readonly type: TypeName | null;
  readonly value: Expr | null;
  readonly query: Query | null;
  readonly handler: Statement | null;
}

/** CALL, EXEC, PERFORM, or a bare procedure name (plsql). */
export interface CallStatement extends Span {
  readonly kind: "call-statement";
  readonly name: Name | null;
  readonly args: readonly Expr[];
}

/** SQL that is put together while it runs: EXECUTE IMMEDIATE, EXEC('…'), PREPARE … FROM. */
export interface DynamicStatement extends Span {
  readonly kind: "dynamic";
  readonly text: Expr | null;
  /** The statements of the text where it is constant; null where it is not. */
  readonly body: readonly Statement[] | null;
  /** The statements of a text that is not constant, as far as they can be read with a gap for what is not known. */
  readonly pattern: readonly Statement[];
}

export interface TriggerHead {
  readonly timing: "before" | "after" | "instead";
  readonly events: ("insert" | "update" | "delete" | "truncate")[];
  /** The columns of UPDATE OF; null: every column. */
  readonly columns: readonly Ident[] | null;
  readonly table: Name | null;
  readonly row: boolean;
  readonly when: Expr | null;
}

/** CREATE FUNCTION, PROCEDURE, TRIGGER, PACKAGE [BODY], EVENT, TYPE BODY. */
export interface CreateRoutineStatement extends Span {
  readonly kind: "create-routine";
  readonly object: string;
  readonly name: Name | null;
  readonly orReplace: boolean;
  readonly ifNotExists: boolean;
  readonly language: string;
  /** Its arguments, each as it is written; null where it lists none, and for the routines of a package. */
  readonly arguments: readonly Span[] | null;
  readonly trigger: TriggerHead | null;
  /** The function that a trigger calls (postgresql). */
  readonly calls: Name | null;
  /** The statements of the body; null where it is not read. */
  readonly body: readonly Statement[] | null;
  /** Why the body was not read, where it was tried. */
  readonly problem: Problem | null;
}
