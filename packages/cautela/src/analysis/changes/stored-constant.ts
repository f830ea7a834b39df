import type { Catalog } from "../../catalog/catalog.ts";
import { enumeration } from "../../catalog/enumeration.ts";
import type { Column } from "../../catalog/model.ts";
import { valueKind } from "../../catalog/types.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { ConstantValue } from "../conditions/conditions.ts";

/** What becomes of a constant that is written into a column. */
export type StoredConstant =
  /** The value as the column holds it. */
  | { kind: "kept"; value: ConstantValue }
  /** The engine refuses it, and why. */
  | { kind: "refused"; why: string }
  /** It is changed in a way that is not followed. */
  | { kind: "unknown" };

const UNKNOWN: StoredConstant = { kind: "unknown" };

/** A number as PostgreSQL reads it from a text ("Numeric Constants"; NaN and Infinity left aside). */
const NUMBER = /^\s*[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?\s*$/i;
const WHOLE = /^\s*[-+]?\d+\s*$/;
/** Texts without a digit that are dates or numbers all the same (postgresql). */
const WORDS = /^\s*(?:[-+]?infinity|[-+]?inf|nan|epoch|now|today|tomorrow|yesterday|allballs)\s*$/i;
/** Prefixes of true, false, yes, no; on, off, 1, 0 (postgresql, "Boolean Type"). */
const BOOLEAN = /^\s*(?:t|tr|tru|true|f|fa|fal|fals|false|y|ye|yes|n|no|on|of|off|1|0)\s*$/i;

/**
 * A constant as the column keeps it: a number in a text column is a text, `'5'` in a number column is 5,
 * and what cannot be turned into the column's type is refused.
 *
 * @example
 * storedConstant({ type: "string", value: "N01" }, berthId, catalog, "postgresql")
 * // { kind: "refused", why: "`berth_id` is integer, and 'N01' is no number" }
 */
export function storedConstant(
  value: ConstantValue,
  column: Column,
  catalog: Catalog | null,
  dialect: Dialect,
): StoredConstant {
  if (value.type === "null") return { kind: "kept", value };
  if (dialect.engine.emptyIsNull && value.type === "string" && value.value === "")
    return { kind: "kept", value: { type: "null" } };
  // Amounts have signs and separators of the session's, strings of bits are no truth (postgresql).
  if (column.array || /^(?:money|smallmoney|bit varying|varbit)$/.test(column.type)) return UNKNOWN;
  if (dialect.engine.bitStrings && column.type === "bit") return UNKNOWN;
  const kind = valueKind(column, dialect);
  const list = catalog && enumeration(column, catalog);
  if (list) {
    if (value.type === "string") return { kind: "kept", value };
    // MySQL takes a number for the place in the list ("The ENUM Type").
    const place = value.type === "number" && column.type === "enum" && list[value.value - 1] !== undefined;
    return place ? UNKNOWN : unlike(value, column);
  }
  switch (kind) {
    case "integer":
    case "decimal":
    case "float":
      return asNumber(value, column, kind === "integer", dialect);
    case "text":
      return asText(value, column);
    case "boolean":
      if (!dialect.engine.strictBooleans || value.type === "boolean") return { kind: "kept", value };
      if (value.type === "number") return unlike(value, column);
      return BOOLEAN.test(value.value) ? UNKNOWN : refused(column, `'${value.value}' is neither true nor false`);
    case "date":
    case "time":
    case "timestamp":
      if (value.type === "string") return asMoment(value.value, column, dialect);
      return dialect.engine.strictDates ? unlike(value, column) : UNKNOWN;
    default:
      return UNKNOWN;
  }
}

function refused(column: Column, why: string): StoredConstant {
  return { kind: "refused", why: `\`${column.name}\` is ${column.type}, and ${why}` };
}

function unlike(value: ConstantValue, column: Column): StoredConstant {
  return refused(
    column,
    `${value.type === "null" ? "NULL" : value.value} is ${value.type === "number" ? "a number" : "true or false"}`,
  );
}

function asNumber(value: ConstantValue, column: Column, whole: boolean, dialect: Dialect): StoredConstant {
  if (value.type === "number") {
    if (!whole || Number.isInteger(value.value) || dialect.engine.affinities) return { kind: "kept", value };
    // Engines round to the nearest whole number, the middle away from zero; T-SQL cuts off.
    const size = Math.abs(value.value);
    const rounded = dialect.engine.truncatesNumbers ? Math.trunc(size) : Math.round(size);
    return { kind: "kept", value: { type: "number", value: Math.sign(value.value) * rounded } };
  }
  // There is no assignment cast from boolean (postgresql.org, "Value Storage").
  if (value.type === "boolean" && dialect.engine.strictBooleans) return unlike(value, column);
  if (value.type !== "string") return UNKNOWN;
  const text = value.value;
  const plain = whole ? WHOLE : NUMBER;
  if (plain.test(text)) return { kind: "kept", value: { type: "number", value: Number(text) } };
  // The column takes what it is given, as a text (sqlite.org/datatype3.html, 3).
  if (dialect.engine.affinities) return NUMBER.test(text) ? UNKNOWN : { kind: "kept", value };
  if (text.trim() === "") {
    if (dialect.engine.emptyTextReads) return UNKNOWN;
    return refused(column, "an empty text is no number");
  }
  if (/^\s*[-+]?(?:nan|inf|infinity)\s*$/i.test(text) || (dialect.engine.numberForms?.test(text) ?? /\d/.test(text)))
    return UNKNOWN;
  return refused(column, `'${text}' is no ${whole && NUMBER.test(text) ? "whole number" : "number"}`);
}

function asText(value: ConstantValue, column: Column): StoredConstant {
  if (value.type === "string") return { kind: "kept", value };
  // What has rules of its own for texts.
  if (value.type !== "number" || /^(?:json|jsonb|xml|uuid|uniqueidentifier|inet|cidr|enum|set)$/.test(column.type))
    return UNKNOWN;
  return { kind: "kept", value: { type: "string", value: String(value.value) } };
}

function asMoment(text: string, column: Column, dialect: Dialect): StoredConstant {
  if (dialect.engine.affinities || /\d/.test(text)) return UNKNOWN;
  if (text.trim() === "" && dialect.engine.emptyTextReads) return UNKNOWN;
  if (dialect.engine.dateWords && WORDS.test(text)) return UNKNOWN;
  // Names of months stand in dates of some settings, but never without a number.
  return refused(column, text.trim() === "" ? "an empty text is no date" : `'${text}' is no date`);
}
