import type { Assignment } from "./changes.ts";
import type { Expr, TypeName } from "./expressions.ts";
import type { Ident, Name, Span } from "./names.ts";
import type { Query } from "./queries.ts";
import type { Problem, Statement } from "./tree.ts";

// The nodes of code: blocks, loops, routines.

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
