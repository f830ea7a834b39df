import type { Table } from "../../catalog/model.ts";
import { bareName } from "../../catalog/names.ts";
import { isTableOf } from "../../policy/patterns.ts";
import type { Policy, TableClass } from "../../policy/policy.ts";

export type { TableClass };

/** The class of a table, and who says so: the policy, or only its name. */
export interface Classed {
  is: TableClass;
  said: boolean;
}

const BUSINESS: Classed = { is: "business", said: false };

/** The class that the policy gives a table; undefined where it says nothing. */
export function policyClass(shown: string, policy: Policy): TableClass | undefined {
  const bare = bareName(shown);
  const { tables } = policy;
  // A table may have the name of something that every object has.
  if (!tables) return undefined;
  for (const name of [shown, bare, shown.toLowerCase(), bare.toLowerCase()])
    if (Object.hasOwn(tables, name)) return tables[name];
  // An exact name goes before a pattern, and a later pattern over an earlier one.
  const patterns = Object.keys(tables).filter((name) => name.includes("*") && isTableOf(shown, [name]));
  return patterns.length > 0 ? tables[patterns[patterns.length - 1]] : undefined;
}

/** The class of a table: as the policy says, else as its name says, else business. */
export function tableClass(shown: string, policy: Policy): TableClass {
  return classed(shown, policy).is;
}

/** The class of a table, and whether the policy says so or only its name: a name lowers a weight and silences nothing. */
export function classed(shown: string, policy: Policy): Classed {
  const said = policyClass(shown, policy);
  if (said) return { is: said, said: true };
  const bare = bareName(shown);
  const first = bare.charCodeAt(0);
  // #name and @name are temporary by the rules of the language.
  if (first === 35 || first === 64) return { is: "scratch", said: true };
  const words = wordsOf(bare);
  const last = words[words.length - 1] ?? "";
  // kx_tmp_import: the first word may be the prefix of the whole.
  const temporary = SCRATCH_FIRST.has(words[0]) || SCRATCH.has(last) || isTemporary(words[1]);
  if (SCRATCH_FIRST.has(schemaOf(shown)) || (words.length > 1 ? temporary : isTemporary(last)))
    return { is: "scratch", said: false };
  if (isLog(words)) return { is: "log", said: false };
  // cache_page, app_cache_form: the first word may be the prefix of the whole.
  const cache = words[0] === "cache" || (words[1] === "cache" && !namesSettings(bare));
  const search = last === "searchindex" || (last === "index" && words.includes("search"));
  const made = REGENERABLE.has(last) || cache || search || (SESSIONS.has(words[0]) && /^tokens?$/.test(last));
  return made ? { is: "regenerable", said: false } : BUSINESS;
}

/** The schema of a table, in small letters: what stands in one for staging is there for a while. */
function schemaOf(shown: string): string {
  const end = shown.lastIndexOf(".");
  return end < 0 ? "" : shown.slice(shown.lastIndexOf(".", end - 1) + 1, end).toLowerCase();
}

/** Whether rows of a table are what the business lives on: neither logs, caches, scratch data, nor the version. */
export function isBusiness(shown: string, policy: Policy): boolean {
  return tableClass(shown, policy) === "business" && !namesVersion(shown);
}

function isTemporary(word: string): boolean {
  return word === "tmp" || word === "temp";
}

function isLog(words: readonly string[]): boolean {
  if (words.some((word) => LOG.has(word))) return true;
  const last = words[words.length - 1] ?? "";
  return /(?:log|audit|journal|history)$/.test(last);
}

const LOG = new Set([
  "log",
  "logs",
  "audit",
  "journal",
  "trail",
  "history",
  "hist",
  "event",
  "events",
  "trace",
  "changes",
  "errors",
  "attempts",
  "failures",
]);
const SCRATCH_FIRST = new Set(["tmp", "temp", "scratch", "stage", "staging", "stg", "work"]);
const SCRATCH = new Set(["tmp", "temp", "scratch", "stage", "staging", "stg", "import", "imports"]);
/** What can be made again. */
const REGENERABLE = new Set([
  "cache",
  "caches",
  "cached",
  "session",
  "sessions",
  "sess",
  "queue",
  "queues",
  "lock",
  "locks",
  "captcha",
  "captchas",
]);

const SESSIONS = new Set(["session", "sessions", "sess"]);

/** The words of a name, in lower case: `mooringLog_2` is mooring, log. */
export function wordsOf(name: string): string[] {
  return name
    .replace(/([a-z0-9])([A-Z])/g, "$1_$2")
    .toLowerCase()
    .split(/[^a-z]+/)
    .filter((word) => word !== "");
}

/**
 * Whether a table holds one row by design, as far as what the catalog knows of it says so: it counts one row, or its key is
 * pinned to one value.
 */
export function holdsOneRow(table: Table | null): boolean {
  if (!table) return false;
  if (table.rows === 1) return true;
  const key = table.primaryKey?.columns;
  if (key?.length !== 1) return false;
  // "CHECK (id = 1)", or the bare CHECK of a boolean key.
  return table.checks.some(({ condition }) => {
    const text = condition.replace(/[()\s"`[\]]/g, "").toLowerCase();
    const column = key[0].toLowerCase();
    return text === column || (text.startsWith(`${column}=`) && /^[\w']+$/.test(text.slice(column.length + 1)));
  });
}

/** Whether a name says that the table holds the version of something: `schema_version`, `db_info`, `Version`. */
export function namesVersion(shown: string): boolean {
  const words = wordsOf(bareName(shown));
  const last = words[words.length - 1] ?? "";
  if (/^(?:(?:db|schema|database|data)?version|(?:db|schema)info|revision)$/.test(last)) return true;
  return (
    words.length > 1 && last === "info" && ["db", "schema", "database", "system"].includes(words[words.length - 2])
  );
}

/** Whether a name says that the table holds the last number given to rows of another: `berth_seq`. */
export function namesSequence(shown: string): boolean {
  const words = wordsOf(bareName(shown));
  return words.length > 1 && /^seq(?:uence)?$/.test(words[words.length - 1]);
}

/** Whether a column is the like of which a version is kept in: `version`, `VersionId`, `patch_level`, `applied_on`. */
export function isVersionColumn(column: string): boolean {
  return wordsOf(column).some((word) => VERSION_WORDS.has(word) || /version|revision/.test(word));
}

const VERSION_WORDS = new Set([
  "release",
  "build",
  "patch",
  "level",
  "major",
  "minor",
  "schema",
  "applied",
  "upgraded",
]);

/** Whether a name says that the table describes the whole installation: `app_system`. */
export function namesSystem(shown: string): boolean {
  const words = wordsOf(bareName(shown));
  return words[words.length - 1] === "system";
}

/** Whether a name says that the table holds settings: one row, or one for each setting. */
export function namesSettings(shown: string): boolean {
  const words = wordsOf(bareName(shown));
  return SETTINGS.has(words[words.length - 1] ?? "");
}

const SETTINGS = new Set([
  "settings",
  "setting",
  "config",
  "configuration",
  "globals",
  "parameters",
  "sysinfo",
  "control",
]);
