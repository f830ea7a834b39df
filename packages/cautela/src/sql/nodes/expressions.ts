import type { Ident, Name, Span } from "./names.ts";
import type { OrderItem, Query } from "./queries.ts";

// The nodes of expressions.

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

export interface Placeholder extends Span {
  kind: "placeholder";
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
  kind: "type";
  /** The words of the name, lower-cased and joined by one blank: `double precision`. */
  name: string;
  /** Length, precision, scale, as written; the values of an enumeration. */
  args: string[];
  array: boolean;
  /** `unsigned`, `zerofill`, `character set x`, `with time zone`: what follows the arguments. */
  modifiers: string;
}
