import { validate as validateBaseline } from "./baseline.ts";
import { validate as validateCatalog } from "./catalog.ts";
import { validate as validateDictionary } from "./dictionary.ts";
import { validate as validatePolicy } from "./policy.ts";

interface Validate {
  (value: unknown): boolean;
  errors?: { instancePath: string; keyword: string; message?: string; params: Record<string, unknown> }[] | null;
}

const VALIDATORS: Record<"baseline" | "catalog" | "policy" | "dictionary", Validate> = {
  baseline: validateBaseline,
  catalog: validateCatalog,
  policy: validatePolicy,
  dictionary: validateDictionary,
};

/**
 * What is wrong with data by its published JSON Schema, with its place; null: nothing.
 *
 * @example
 * schemaProblem("policy", { tables: { a: "big" } }) // "tables.a: must be one of business, log, scratch"
 */
export function schemaProblem(schema: keyof typeof VALIDATORS, value: unknown): string | null {
  return schemaFault(schema, value)?.message ?? null;
}

/** The same, with the names and indexes that lead to the place. */
export function schemaFault(
  schema: keyof typeof VALIDATORS,
  value: unknown,
): { at: (string | number)[]; message: string } | null {
  const validate = VALIDATORS[schema];
  if (validate(value)) return null;
  const error = validate.errors?.[0];
  if (!error) return { at: [], message: "it does not fit its schema" };
  const at = error.instancePath
    .split("/")
    .slice(1)
    .map((part) => part.replaceAll("~1", "/").replaceAll("~0", "~"))
    .map((part) => (/^\d+$/.test(part) ? Number(part) : part));
  const place = at.reduce<string>(
    (path, part) => (typeof part === "number" ? `${path}[${part + 1}]` : path === "" ? part : `${path}.${part}`),
    "",
  );
  return { at, message: `${place === "" ? "" : `${place}: `}${said(error)}` };
}

function said({ keyword, message, params }: NonNullable<Validate["errors"]>[number]): string {
  if (keyword === "enum" && Array.isArray(params.allowedValues))
    return `must be one of ${params.allowedValues.join(", ")}`;
  if (keyword === "additionalProperties") return `${String(params.additionalProperty)} is not known here`;
  return message ?? "it does not fit its schema";
}
