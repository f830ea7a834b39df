import type { Catalog } from "../../catalog/catalog.ts";
import { type Column, shownName, type View } from "../../catalog/model.ts";
import { viewQuery } from "../../catalog/parsed-code.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { conjuncts } from "../changes/reach.ts";
import { type ConstantValue, sameValue, shownValue } from "../conditions/conditions.ts";
import { constant, plainColumn } from "../conditions/constants.ts";
import { shapeOf } from "./shape.ts";

/** A condition of a view that values contradict. */
export interface Contradiction {
  /** The view whose filter it is: the one that is written, or one below it. */
  view: string;
  condition: string;
  /** What is set: `status` to 'left'. */
  set: string;
  /** The view whose check option refuses it; null where none looks. */
  checked: string | null;
}

/** What a row that is written through a view gets. */
export interface Written {
  /** Values that are known. */
  values: ReadonlyMap<string, ConstantValue>;
  /** The columns of a new row that get a value, known or not: the others take their defaults. null: no new row. */
  given: readonly string[] | null;
}

/** The condition of a view, or of one below it, that new values contradict; null where they may meet all of them. */
export function meets(
  view: View,
  { values, given }: Written,
  catalog: Catalog,
  dialect: Dialect,
  checked: string | null = null,
  depth = 0,
): Contradiction | null {
  const shape = depth < 16 ? shapeOf(view, catalog, dialect) : null;
  const text = viewQuery(view, dialect.id)?.text ?? "";
  if (!shape) return null;
  const own = view.checkOption ? shownName(view) : checked;
  const below = new Map<string, ConstantValue>();
  for (const column of shape.columns) {
    const value = column.from ? values.get(column.name) : undefined;
    if (value && column.from) below.set(column.from.column, value);
  }
  const base = shape.sources.length === 1 ? shape.sources[0].relation : null;
  const passed =
    given && shape.columns.flatMap(({ name, from }) => (from && given.includes(name) ? [from.column] : []));
  if (passed && base?.object === "table")
    for (const column of base.columns) {
      const value = passed.includes(column.name) ? null : defaultOf(column);
      if (value) below.set(column.name, value);
    }
  for (const part of shape.where ? conjuncts(shape.where) : []) {
    const column = contradicted(part, below);
    if (column === null) continue;
    const value = below.get(column);
    return {
      view: shownName(view),
      condition: text.slice(part.start, part.end),
      set:
        passed && !passed.includes(column)
          ? `no \`${column}\`, which becomes ${value ? shownValue(value) : "something else"}`
          : `\`${column}\` to ${value ? shownValue(value) : "another value"}`,
      checked: own,
    };
  }
  const [source] = shape.sources;
  if (shape.sources.length !== 1 || source.relation?.object !== "view") return null;
  // LOCAL looks at the view's own filter only; what lies below is checked by views with an option of their own.
  const carried = view.checkOption === "cascaded" ? shownName(view) : view.checkOption === "local" ? null : checked;
  return meets(source.relation, { values: below, given: passed }, catalog, dialect, carried, depth + 1);
}

/** What a column holds in a new row that does not name it; null where that cannot be told. */
function defaultOf({ default: text, identity, generated }: Column): ConstantValue | null {
  if (identity !== null || generated) return null;
  if (text === null) return { type: "null" };
  const value = text.trim().replace(/::[a-z ]+(?:\(\d+\))?$/i, "");
  if (/^-?\d+(?:\.\d+)?$/.test(value)) return { type: "number", value: Number(value) };
  if (/^'[^']*'$/.test(value)) return { type: "string", value: value.slice(1, -1) };
  return /^(?:true|false)$/i.test(value) ? { type: "boolean", value: /^true$/i.test(value) } : null;
}

/**
 * The constants that the filter of a view pins columns to, by the names of the view: with them a computed value may be known.
 *
 * @example
 * // CREATE VIEW rye AS SELECT … WHERE kind = 2;   UPDATE rye SET kind = kind + 1: 3
 */
export function pinnedBy(view: View, catalog: Catalog, dialect: Dialect): ReadonlyMap<string, ConstantValue> {
  const shape = shapeOf(view, catalog, dialect);
  const pinned = new Map<string, ConstantValue>();
  for (const part of shape?.where ? conjuncts(shape.where) : []) {
    if (part.kind !== "binary" || part.op !== "=") continue;
    const [side, other] = plainColumn(part.left) ? [part.left, part.right] : [part.right, part.left];
    const ref = plainColumn(side);
    const value = constant(other);
    if (!ref || !value) continue;
    const name = ref.path[ref.path.length - 1].text.toLowerCase();
    for (const column of shape?.columns ?? [])
      if (column.from?.column.toLowerCase() === name) pinned.set(column.name, value);
  }
  return pinned;
}

/** A number worked out of numbers that are known; null where it depends on anything else. */
export function computed(expr: Expr, known: ReadonlyMap<string, ConstantValue>): ConstantValue | null {
  const ref = plainColumn(expr);
  if (ref) {
    const name = ref.path[ref.path.length - 1].text.toLowerCase();
    for (const [column, value] of known) if (column.toLowerCase() === name) return value;
    return null;
  }
  if (expr.kind !== "binary") return constant(expr);
  const [a, b] = [computed(expr.left, known), computed(expr.right, known)];
  if (a?.type !== "number" || b?.type !== "number") return null;
  const results: Record<string, number> = { "+": a.value + b.value, "-": a.value - b.value, "*": a.value * b.value };
  const value = results[expr.op];
  return value === undefined ? null : { type: "number", value };
}

/** The column whose new value makes a condition false or NULL; null where that cannot be told. */
function contradicted(part: Expr, values: ReadonlyMap<string, ConstantValue>): string | null {
  const columnIn = (expr: Expr): string | null => {
    const ref = plainColumn(expr);
    const name = ref ? ref.path[ref.path.length - 1].text.toLowerCase() : null;
    for (const column of values.keys()) if (column.toLowerCase() === name) return column;
    return null;
  };
  if (part.kind === "is" && part.test === "null") {
    const column = columnIn(part.operand);
    const value = column === null ? undefined : values.get(column);
    return value && (value.type === "null") === part.negated ? column : null;
  }
  if (part.kind === "in" && part.items) {
    const column = columnIn(part.operand);
    const value = column === null ? undefined : values.get(column);
    const items = part.items.map(constant);
    if (!value || items.some((item) => item === null)) return null;
    const among = items.some((item) => item !== null && sameValue(item, value));
    return value.type === "null" || among === part.negated ? column : null;
  }
  if (part.kind !== "binary") return null;
  const flipped = columnIn(part.left) === null;
  const column = flipped ? columnIn(part.right) : columnIn(part.left);
  const value = column === null ? undefined : values.get(column);
  const other = constant(flipped ? part.left : part.right);
  if (!value || !other) return null;
  if (value.type === "null" || other.type === "null") return column;
  if (value.type !== other.type) return null;
  const [a, b] = flipped ? [other.value, value.value] : [value.value, other.value];
  if (part.op === "=")
    return a === b || (typeof a === "string" && typeof b === "string" && alike(a, b)) ? null : column;
  if (part.op === "<>" || part.op === "!=") return a === b ? column : null;
  if (typeof a !== "number" || typeof b !== "number") return null;
  const holds: Record<string, boolean> = { "<": a < b, "<=": a <= b, ">": a > b, ">=": a >= b };
  return holds[part.op] === false ? column : null;
}

/** Two spellings that a collation may take for one. */
function alike(a: string, b: string): boolean {
  return a.trim().toLowerCase() === b.trim().toLowerCase();
}
