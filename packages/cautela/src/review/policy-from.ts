import type { Hazard } from "../hazards/hazard.ts";
import { hazards } from "../hazards/register.ts";
import type { Policy } from "../policy/policy.ts";
import { schemaProblem } from "../schemas/schema-problem.ts";
import { CautelaError } from "../text/cautela-error.ts";
import { nearest } from "../text/nearest.ts";

/** Session settings that decide something in a review; others are taken for misspelt. */
const SETTINGS = [
  "foreign_keys",
  "recursive_triggers",
  "foreign_key_checks",
  "session_replication_role",
  "sql_mode",
  "sql_safe_updates",
  "search_path",
  "xact_abort",
  "ansi_nulls",
  "ansi_warnings",
  "autocommit",
  "implicit_transactions",
  "nocount",
  "quoted_identifier",
];

/**
 * Takes a policy from data, such as a parsed file, when it fits its published schema (`policy.schema.json`). `known` are
 * the hazards that it may name, the register's if left out.
 *
 * @throws CautelaError that says what is wrong with it and where; nothing is passed over
 *
 * @example
 * policyFrom({ tables: { tide_reading: "log" } })   // the policy
 * policyFrom({ tabels: {} })                        // throws: tabels is not known here; did you mean tables?
 */
export function policyFrom(value: unknown, known: readonly Hazard[] = hazards): Policy {
  if (isCyclic(value)) throw new CautelaError("it refers to itself");
  const problem = unknownName(value, known) ?? schemaProblem("policy", value);
  if (problem !== null) throw new CautelaError(problem);
  if (!isRecord(value)) return {};
  const policy: { -readonly [K in keyof Policy]: Policy[K] } = {};
  if (isRecord(value.tables)) policy.tables = table(value.tables) as Policy["tables"];
  // YAML reads a bare off as false, and on as true; settings are words.
  if (isRecord(value.weights))
    policy.weights = table(value.weights, (one) => (one === false ? "off" : one)) as Policy["weights"];
  if (isRecord(value.backup)) policy.backup = { ...value.backup } as Policy["backup"];
  if (Array.isArray(value.install)) policy.install = value.install.map(String);
  if (isRecord(value.settings)) policy.settings = table(value.settings, setting, (name) => name.toLowerCase());
  return policy;
}

/** Names and values without anything inherited: a table may be called `constructor`. */
function table<Value>(
  from: Record<string, unknown>,
  value: (one: unknown) => Value = (one) => one as Value,
  name: (text: string) => string = (text) => text,
): Record<string, Value> {
  const names: Record<string, Value> = Object.create(null);
  for (const [key, one] of Object.entries(from)) names[name(key)] = value(one);
  return names;
}

/** A key, a hazard or a setting that nobody knows, with the one that may be meant. */
function unknownName(value: unknown, hazards: readonly Hazard[]): string | null {
  if (!isRecord(value)) return null;
  const among = (place: string, name: string, known: readonly string[]): string | null => {
    if (known.includes(name)) return null;
    const near = nearest(name, known);
    const meant = near ? `; did you mean ${near}?` : known.length < 9 ? `; known are ${known.join(", ")}` : "";
    return `${place}${name} is not known here${meant}`;
  };
  for (const name of Object.keys(value)) {
    const wrong = among("", name, ["tables", "weights", "backup", "install", "settings"]);
    if (wrong) return wrong;
  }
  const { weights, backup, settings } = value;
  const ids = hazards.map(({ id }) => id);
  for (const name of isRecord(weights) ? Object.keys(weights) : []) {
    const wrong = among("weights: the hazard ", name, ids);
    if (wrong) return wrong;
  }
  for (const name of isRecord(backup) ? Object.keys(backup) : []) {
    const wrong = among("backup: ", name, ["name", "elsewhere"]);
    if (wrong) return wrong;
  }
  for (const name of isRecord(settings) ? Object.keys(settings) : []) {
    const wrong = among("settings: ", name.toLowerCase().replace(/^@@/, ""), SETTINGS);
    if (wrong) return wrong;
  }
  if (isRecord(backup) && typeof backup.name === "string" && !backup.name.includes("{table}"))
    return "backup.name: {table} is missing, so all copies would have one name";
  return null;
}

/** Whether a value holds itself. */
function isCyclic(value: unknown, above: readonly unknown[] = []): boolean {
  if (typeof value !== "object" || value === null) return false;
  if (above.includes(value) || above.length > 20) return true;
  return Object.values(value).some((one) => isCyclic(one, [...above, value]));
}

function setting(value: unknown): string {
  return value === true ? "on" : value === false ? "off" : String(value);
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
