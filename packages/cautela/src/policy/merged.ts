import { isScriptOf, listOf } from "./patterns.ts";
import type { Policy, PolicyRule } from "./policy.ts";

/**
 * A policy refined by a nearer one: what names tables, hazards or settings is put together, the nearer one's entries over the
 * farther one's; lists are put together; anything else is the nearer one's where it has it.
 *
 * @example
 * refined({ weights: { cascade: "note" } }, { weights: { cascade: "stop" } }).weights // { cascade: "stop" }
 */
export function refined(farther: Policy, nearer: Policy): Policy {
  return {
    ...farther,
    ...nearer,
    ...over("tables", farther, nearer),
    ...over("weights", farther, nearer),
    ...over("backup", farther, nearer),
    ...over("settings", farther, nearer),
    ...over("scripts", farther, nearer),
    ...over("unfiltered-by", farther, nearer),
    ...over("row-bounds", farther, nearer),
    ...after("install", farther, nearer),
    ...after("one-by-one", farther, nearer),
    ...after("forbidden", farther, nearer),
    ...after("freeze", farther, nearer),
    // A nearer policy goes over the rules of a farther one too: what it says itself becomes the first of its own rules.
    ...(farther.rules || nearer.rules
      ? { rules: [...(farther.rules ?? []), ...(farther.rules ? ownRule(nearer) : []), ...(nearer.rules ?? [])] }
      : {}),
  };
}

/**
 * The policy of one script: the rules that mean it by its path are put into what holds for all, and only those for tables are
 * left.
 *
 * @example
 * ofScript({ rules: [{ scripts: "billing/*", dialect: "mysql" }] }, "billing/1_rates.sql").dialect // "mysql"
 */
export function ofScript(policy: Policy, path: string): Policy {
  const { rules } = policy;
  if (!rules) return policy;
  const forTables: PolicyRule[] = [];
  let own: Policy = { ...policy, rules: undefined };
  for (const { scripts, tables, ...said } of rules) {
    if (scripts !== undefined && !isScriptOf(path, listOf(scripts))) continue;
    if (tables !== undefined) {
      forTables.push({ tables, weights: said.weights });
      continue;
    }
    own = refined(own, said);
    // What is said of all tables later goes over what was said of some before.
    if (said.weights && forTables.length > 0) forTables.push({ tables: "*", weights: said.weights });
  }
  return { ...own, ...(forTables.length > 0 ? { rules: forTables } : {}) };
}

/** What a policy says itself of all scripts, as a rule that follows those of a farther one. */
function ownRule({ weights, dialect, catalog, backup, settings }: Policy): PolicyRule[] {
  const said = { weights, dialect, catalog, backup, settings };
  const rule = Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined));
  return Object.keys(rule).length > 0 ? [rule] : [];
}

type Named = "tables" | "weights" | "backup" | "settings" | "scripts" | "unfiltered-by" | "row-bounds";
type Listed = "install" | "one-by-one" | "forbidden" | "freeze";

/** Entries by name; without anything inherited, since a table may be called `constructor`. */
function over(key: Named, farther: Policy, nearer: Policy): Policy {
  if (!farther[key] || !nearer[key]) return {};
  return { [key]: Object.assign(Object.create(null), farther[key], nearer[key]) };
}

function after(key: Listed, farther: Policy, nearer: Policy): Policy {
  const [before, own] = [farther[key], nearer[key]];
  return before && own ? { [key]: [...before, ...own] } : {};
}
