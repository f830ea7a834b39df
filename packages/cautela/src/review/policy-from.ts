import type { Hazard } from "../hazards/hazard.ts";
import { hazards } from "../hazards/register.ts";
import { hoursOf, spanOf } from "../policy/freeze.ts";
import type { Policy } from "../policy/policy.ts";
import { STATEMENT_WORDS } from "../policy/statement-words.ts";
import { schemaFault } from "../schemas/schema-problem.ts";
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

/** A mistake in a policy: where it stands in the data, and what it is. */
export interface PolicyFault {
  /** The names and indexes that lead to it from the whole: `["rules", 0, "weights"]`. */
  readonly at: readonly (string | number)[];
  /** With its place in words. */
  readonly message: string;
}

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
  const fault = policyFault(value, known);
  if (fault) throw new CautelaError(fault.message);
  return isRecord(value) ? (plain(value) as Policy) : {};
}

/**
 * The first mistake in the data of a policy; null: there is none. For programs that can tell the line on which it stands.
 *
 * @example
 * policyFault({ weights: { "evry-row": "note" } })?.at // ["weights", "evry-row"]
 */
export function policyFault(value: unknown, known: readonly Hazard[] = hazards): PolicyFault | null {
  if (isCyclic(value)) return { at: [], message: "it refers to itself" };
  // What can be said in better words than those of the schema is said first.
  return unknownName(value, known) ?? (isRecord(value) ? wrongWord(value) : null) ?? schemaFault("policy", value);
}

/** A key, a hazard or a setting that nobody knows, with the one that may be meant. */
function unknownName(value: unknown, hazards: readonly Hazard[]): PolicyFault | null {
  if (!isRecord(value)) return null;
  const top = firstUnknown(value, [], "", KEYS);
  if (top) return top;
  const parts: [unknown, (string | number)[], string, readonly string[]][] = [];
  const shared = (from: Record<string, unknown>, at: (string | number)[], before: string): void => {
    const ids = hazards.map(({ id }) => id);
    parts.push([from.weights, [...at, "weights"], `${before}weights: the hazard `, ids]);
    parts.push([from.backup, [...at, "backup"], `${before}backup: `, ["name", "elsewhere"]]);
    parts.push([from.settings, [...at, "settings"], `${before}settings: `, SETTINGS]);
  };
  shared(value, [], "");
  parts.push([value.scripts, ["scripts"], "scripts: ", ["files", "undo", "index"]]);
  for (const [list, keys] of Object.entries(ITEMS))
    each(value[list], (item, i) => {
      parts.push([item, [list, i], `${list}[${i + 1}]: `, keys]);
      if (list === "rules") shared(item, [list, i], `rules[${i + 1}]: `);
    });
  for (const [from, at, before, names] of parts) {
    const wrong = isRecord(from) ? firstUnknown(from, at, before, names) : null;
    if (wrong) return wrong;
  }
  return null;
}

const KEYS = [
  "$schema",
  "dialect",
  "catalog",
  "scripts",
  "tables",
  "weights",
  "backup",
  "install",
  "settings",
  "unfiltered-by",
  "one-by-one",
  "row-bounds",
  "forbidden",
  "freeze",
  "rules",
];

/** The keys of the items of lists. */
const ITEMS: Readonly<Record<string, readonly string[]>> = {
  forbidden: ["statement", "tables", "because"],
  freeze: ["from", "to", "days", "hours", "tables", "because"],
  rules: ["scripts", "tables", "weights", "dialect", "catalog", "backup", "settings"],
};

function firstUnknown(
  from: Record<string, unknown>,
  at: readonly (string | number)[],
  before: string,
  known: readonly string[],
): PolicyFault | null {
  for (const name of Object.keys(from)) {
    // A setting may be written with its marks, and in any case.
    const plainName = known === SETTINGS ? name.toLowerCase().replace(/^@@/, "") : name;
    if (known.includes(plainName)) continue;
    const near = nearest(plainName, known);
    const meant = near ? `; did you mean ${near}?` : known.length < 9 ? `; known are ${known.join(", ")}` : "";
    return { at: [...at, name], message: `${before}${plainName} is not known here${meant}` };
  }
  return null;
}

/** What fits the schema and means nothing: a copy's name without its table, a date that is none, a statement nobody knows. */
function wrongWord(value: Record<string, unknown>): PolicyFault | null {
  const { backup, freeze, forbidden, rules } = value;
  const copies: [unknown, (string | number)[]][] = [[backup, ["backup"]]];
  each(rules, (rule, i) => copies.push([rule.backup, ["rules", i, "backup"]]));
  for (const [one, at] of copies)
    if (isRecord(one) && typeof one.name === "string" && !one.name.includes("{table}"))
      return {
        at: [...at, "name"],
        message: `${shown(at)}.name: {table} is missing, so all copies would have one name`,
      };
  let fault: PolicyFault | null = null;
  const wrong = (at: readonly (string | number)[], why: string): void => {
    fault ??= { at, message: `${shown(at)}: ${why}` };
  };
  each(freeze, (one, i) => {
    const at = ["freeze", i];
    for (const key of ["from", "to"])
      if (typeof one[key] === "string" && spanOf(one[key]) === null)
        wrong([...at, key], `${one[key]} is no date: it is written 2026-12-24, or 2026-12-24T17:30`);
    const [from, to] = [one.from, one.to].map((day) => (typeof day === "string" ? spanOf(day) : null));
    if (from && to && to.to <= from.from) wrong([...at, "to"], "the span ends before it begins");
    if (typeof one.hours === "string" && hoursOf(one.hours) === null)
      wrong([...at, "hours"], `${one.hours} is no span of hours: it is written 16:00-24:00`);
    if (["from", "to", "days", "hours"].every((key) => one[key] === undefined))
      wrong(at, "it says no time: from, to, days or hours");
  });
  each(forbidden, (one, i) => {
    const words =
      typeof one.statement === "string" ? [one.statement] : Array.isArray(one.statement) ? one.statement : [];
    for (const word of words.map(String)) {
      if (STATEMENT_WORDS.includes(word.toLowerCase())) continue;
      const near = nearest(word, STATEMENT_WORDS);
      wrong(
        ["forbidden", i, "statement"],
        `${word} is no statement that is known here${near ? `; did you mean ${near}?` : ""}`,
      );
    }
  });
  each(rules, (one, i) => {
    const more = ["dialect", "catalog", "backup", "settings"].find((key) => one[key] !== undefined);
    if (one.tables !== undefined && more !== undefined)
      wrong(["rules", i, more], "a rule for tables gives weights only");
    if (one.scripts === undefined && one.tables === undefined)
      wrong(["rules", i], "it says neither scripts nor tables");
  });
  return fault;
}

function shown(at: readonly (string | number)[]): string {
  return at.reduce<string>(
    (path, part) => (typeof part === "number" ? `${path}[${part + 1}]` : path === "" ? part : `${path}.${part}`),
    "",
  );
}

function each(list: unknown, take: (item: Record<string, unknown>, i: number) => void): void {
  if (!Array.isArray(list)) return;
  for (const [i, item] of list.entries()) if (isRecord(item)) take(item, i);
}

/** The policy as it is written, with the words that YAML has read as something else. */
function plain(value: Record<string, unknown>): Record<string, unknown> {
  const policy: Record<string, unknown> = {};
  for (const [key, one] of Object.entries(value)) {
    // A key without a value says nothing, and where the schema lies is for editors.
    if (one === null || one === undefined || key === "$schema") continue;
    policy[key] = isRecord(one)
      ? named(key, one)
      : Array.isArray(one)
        ? one.map((item) => (isRecord(item) ? plain(item) : item))
        : one;
  }
  return policy;
}

/** Names and values without anything inherited: a table may be called `constructor`. */
function named(key: string, from: Record<string, unknown>): Record<string, unknown> {
  const names: Record<string, unknown> = Object.create(null);
  for (const [name, one] of Object.entries(from)) {
    // YAML reads a bare off as false, and on as true; settings are words.
    if (key === "settings") names[name.toLowerCase()] = one === true ? "on" : one === false ? "off" : String(one);
    else if (one !== null) names[name] = key === "weights" && one === false ? "off" : one;
  }
  return names;
}

/** Whether a value holds itself. */
function isCyclic(value: unknown, above: readonly unknown[] = []): boolean {
  if (typeof value !== "object" || value === null) return false;
  if (above.includes(value) || above.length > 20) return true;
  return Object.values(value).some((one) => isCyclic(one, [...above, value]));
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
