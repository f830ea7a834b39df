import type { Ident, Name, Span } from "./names.ts";
import type { OrderItem, Query } from "./queries.ts";

// The nodes of expressions.

export interface ColumnRef extends Span {
  readonly kind: "column";
  readonly path: readonly Ident[];
  /** Oracle's `(+)`. */
  readonly outer: boolean;
}

export interface Star extends Span {
  readonly kind: "star";
  readonly path: readonly Ident[];
}

export interface Literal extends Span {
  readonly kind: "literal";
  readonly type: "string" | "number" | "boolean" | "null" | "date" | "interval" | "bits" | "default";
  /** The value: decoded text of a string, the digits of a number as written, `true`, `false`. */
  readonly value: string;
}

export interface Placeholder extends Span {
  readonly kind: "placeholder";
  readonly text: string;
}

export interface Variable extends Span {
  readonly kind: "variable";
  readonly name: string;
}

export interface Call extends Span {
  readonly kind: "call";
  readonly name: Name;
  readonly args: readonly Expr[];
  /** Names of named arguments, by position; null where an argument has none. */
  readonly argNames: (string | null)[] | null;
  readonly distinct: boolean;
  readonly star: boolean;
  readonly orderBy: readonly OrderItem[] | null;
  readonly filter: Expr | null;
  readonly over: boolean;
  /** Part of the arguments was taken over without a tree. */
  readonly opaque: boolean;
}

export interface Binary extends Span {
  readonly kind: "binary";
  readonly op: string;
  readonly left: Expr;
  readonly right: Expr;
}

/** A chain of conditions joined by one connective: `a AND b AND c` is one node. */
export interface Logic extends Span {
  readonly kind: "logic";
  readonly op: "and" | "or" | "xor";
  readonly items: readonly Expr[];
  readonly parenthesised: boolean;
}

export interface Unary extends Span {
  readonly kind: "unary";
  readonly op: string;
  readonly operand: Expr;
}

export interface Is extends Span {
  readonly kind: "is";
  readonly operand: Expr;
  readonly test: "null" | "true" | "false" | "unknown" | "distinct" | "other";
  readonly negated: boolean;
  /** The right side of IS [NOT] DISTINCT FROM, and of sqlite's IS with any operand. */
  readonly right: Expr | null;
}

export interface In extends Span {
  readonly kind: "in";
  readonly operand: Expr;
  readonly negated: boolean;
  readonly items: readonly Expr[] | null;
  readonly query: Query | null;
}

export interface Between extends Span {
  readonly kind: "between";
  readonly operand: Expr;
  readonly low: Expr;
  readonly high: Expr;
  readonly negated: boolean;
}

export interface Like extends Span {
  readonly kind: "like";
  /** LIKE, ILIKE, GLOB, REGEXP, RLIKE, SIMILAR TO, MATCH. */
  readonly op: string;
  readonly operand: Expr;
  readonly pattern: Expr;
  readonly escape: Expr | null;
  readonly negated: boolean;
}

export interface Case extends Span {
  readonly kind: "case";
  readonly operand: Expr | null;
  readonly whens: readonly { readonly when: Expr; readonly result: Expr }[];
  readonly otherwise: Expr | null;
}

export interface Cast extends Span {
  readonly kind: "cast";
  readonly operand: Expr;
  readonly type: TypeName;
}

export interface Row extends Span {
  readonly kind: "row";
  readonly items: readonly Expr[];
}

export interface Subquery extends Span {
  readonly kind: "subquery";
  readonly query: Query;
}

export interface Exists extends Span {
  readonly kind: "exists";
  readonly query: Query;
}

/** `x = ANY (…)`, `x > ALL (…)`. */
export interface Quantified extends Span {
  readonly kind: "quantified";
  readonly op: string;
  readonly quantifier: "any" | "all";
  readonly left: Expr;
  readonly query: Query | null;
  readonly operand: Expr | null;
}

/** Anything else with operands: subscripts, field selection, AT TIME ZONE, COLLATE, array literals. */
export interface Compound extends Span {
  readonly kind: "compound";
  readonly what:
    | "subscript"
    | "field"
    | "at"
    | "collate"
    | "array"
    | "interval"
    | "current"
    | "prior"
    | "cursor"
    | "other";
  readonly operands: readonly Expr[];
  readonly name: string;
}

/** Text that is kept but not understood. */
export interface OpaqueExpr extends Span {
  readonly kind: "opaque";
}

export type Expr =
  | ColumnRef
  | Star
  | Literal
  | Placeholder
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
  readonly kind: "type";
  /** The words of the name, lower-cased and joined by one blank: `double precision`. */
  readonly name: string;
  /** Length, precision, scale, as written; the values of an enumeration. */
  readonly args: readonly string[];
  readonly array: boolean;
  /** `unsigned`, `zerofill`, `character set x`, `with time zone`: what follows the arguments. */
  readonly modifiers: string;
}
