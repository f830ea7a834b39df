/** What a team has agreed on. All of it may be left out. */
export interface Policy {
  /** The class of a table by its name: `business`, `log`, `scratch`. */
  tables?: Readonly<Record<string, "business" | "log" | "scratch">>;
  /** Another weight for a hazard, or `off`. */
  weights?: Readonly<Record<string, "stop" | "ask" | "note" | "off">>;
  /** How the team keeps copies. */
  backup?: {
    /** The name of a copy: `{table}` and `{date}` are filled in. `{table}_before_{date}` if left out. */
    name?: string;
    /** Where all tables are kept anyway, in a few words: nothing needs a copy of its own then. */
    elsewhere?: string;
  };
  /** Session settings that hold when the script begins: `foreign_keys: on`. */
  settings?: Readonly<Record<string, string>>;
}

const CLASSES = ["business", "log", "scratch"];
const WEIGHTS = ["stop", "ask", "note", "off"];

/**
 * Takes a policy from data, such as a parsed file. A string says what is wrong with it and where; nothing is
 * passed over in silence.
 *
 * @example
 * policyFrom({ tables: { tide_reading: "log" } })   // the policy
 * policyFrom({ tabels: {} })                        // "tabels: a policy has tables, weights, backup, settings"
 */
export function policyFrom(value: unknown): Policy | string {
  if (value === null || value === undefined) return {};
  if (!isRecord(value)) return "a policy is a list of names and values";
  const policy: { -readonly [K in keyof Policy]: Policy[K] } = {};
  for (const [name, part] of Object.entries(value)) {
    if (part === null || part === undefined) continue;
    if (name !== "tables" && name !== "weights" && name !== "backup" && name !== "settings")
      return `${name}: a policy has tables, weights, backup, settings`;
    if (!isRecord(part)) return `${name}: names and values are expected`;
    for (const [key, one] of Object.entries(part)) {
      const wrong = entryProblem(name, key, one);
      if (wrong) return wrong;
    }
    if (name === "settings")
      policy.settings = Object.fromEntries(Object.entries(part).map(([key, one]) => [key.toLowerCase(), setting(one)]));
    else if (name === "weights")
      policy.weights = Object.fromEntries(
        Object.entries(part).map(([key, one]) => [key, one === false ? "off" : one]),
      ) as Policy["weights"];
    else Object.assign(policy, { [name]: part });
  }
  return policy;
}

function entryProblem(part: string, key: string, value: unknown): string | null {
  const oneOf = (list: readonly string[]): string | null =>
    list.includes(String(value)) ? null : `${part}.${key}: ${String(value)} is not one of ${list.join(", ")}`;
  switch (part) {
    case "tables":
      return oneOf(CLASSES);
    case "weights":
      // YAML reads a bare off as false.
      return value === false ? null : oneOf(WEIGHTS);
    case "backup":
      if (key !== "name" && key !== "elsewhere") return `backup.${key}: backup has name and elsewhere`;
      if (typeof value !== "string" || value.trim() === "") return `backup.${key}: a text is expected`;
      return key === "name" && !value.includes("{table}")
        ? "backup.name: {table} is missing, so all copies would have one name"
        : null;
    default:
      return ["string", "number", "boolean"].includes(typeof value) ? null : `${part}.${key}: a value is expected`;
  }
}

/** YAML reads on and off as true and false; settings are words. */
function setting(value: unknown): string {
  return value === true ? "on" : value === false ? "off" : String(value);
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
