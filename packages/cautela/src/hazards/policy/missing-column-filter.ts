import { filterParts, usedColumn } from "../../analysis/conditions/conditions.ts";
import type { Resolution } from "../../analysis/names/resolution.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { isTableOf, listOf } from "../../policy/patterns.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { verb } from "../wording.ts";

/**
 * A change of a table without the column on which the team's policy has every change filter.
 *
 * @example
 * // unfiltered-by: { mooring: port_id }
 * UPDATE mooring SET fee = 12 WHERE mooring_id = 3;   -- stop: in whichever port that mooring lies
 */
export const missingColumnFilter: Hazard = {
  id: "missing-column-filter",
  family: "policy",
  weight: "stop",
  needs: Trait.change,
  title: "A change without the column that the policy has it filter on",
  explanation:
    "The policy says (unfiltered-by) that every change of the table names a column in its filter: the tenant, the port, the client whose rows they are. This " +
    "statement does not limit that column of the rows it changes: it is not in the filter, or only in one branch of an OR, or only compared with itself or with a " +
    "column that nothing limits. An INSERT has no filter and is quiet.",
  remedy: "Add the column to the filter.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, port_id integer NOT NULL, fee numeric(10,2) NOT NULL);",
    dangerous: "UPDATE mooring SET fee = 12 WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET fee = 12 WHERE mooring_id = 3 AND port_id = 7;",
    policy: { "unfiltered-by": { mooring: "port_id" } },
  },
  check({ changes, policy, names }) {
    const rules = policy["unfiltered-by"];
    if (!rules) return [];
    const drafts: Draft[] = [];
    for (const judged of changes) {
      const { change, target, softener } = judged;
      if (softener || judged.result.reach.bound === "none") continue;
      const wanted = Object.entries(rules).flatMap(([table, columns]) =>
        isTableOf(target, [table]) ? listOf(columns) : [],
      );
      const parts = filterParts(change.conditions);
      for (const column of new Set(wanted.map((one) => one.toLowerCase()))) {
        const filter: ColumnFilter = { column, alias: change.relation?.name ?? null, names };
        if (parts.some((part) => limits(part, filter, parts))) continue;
        drafts.push({
          message: `This ${verb(judged)} rows of \`${target}\` without a filter on \`${column}\`.`,
          because: [`the policy has every change of \`${target}\` filter on \`${column}\``],
          remedy: remedyOf(parts, column),
          cause: `${target} ${column}`,
        });
      }
    }
    return drafts;
  },
};

/** AND binds closer than OR: what is there is put into parentheses first. */
function remedyOf(conditions: readonly Expr[], column: string): string {
  if (conditions.length === 0) return `Add it: WHERE ${column} = …`;
  const isOpen = conditions.some((one) => one.kind === "logic" && one.op === "or");
  return `${isOpen ? "Put the filter into parentheses, and add after it" : "Add it to the filter"}: AND ${column} = …`;
}

interface ColumnFilter {
  column: string;
  /** The relation that is changed, by its name in the statement; null where that is not known. */
  alias: string | null;
  names: Resolution | null;
}

/** Whether a condition limits the column: compares it with something that is not itself a column left open. */
function limits(part: Expr, filter: ColumnFilter, all: readonly Expr[]): boolean {
  switch (part.kind) {
    case "logic":
      return part.op === "or"
        ? part.items.every((item) => limits(item, filter, all))
        : part.items.some((item) => limits(item, filter, all));
    case "in":
    case "between":
    case "like":
      return !part.negated && isMeant(part.operand, filter);
    case "is":
      return !part.negated && isMeant(part.operand, filter);
    case "binary": {
      if (!COMPARES.has(part.op)) return false;
      for (const [own, other] of [
        [part.left, part.right],
        [part.right, part.left],
      ]) {
        if (!isMeant(own, filter)) continue;
        const joined = usedColumn(other, filter.names);
        if (!joined) return true;
        // A column of another table limits it as far as something limits that.
        const { name, relation } = joined;
        if (isMeant(other, filter)) return false;
        const its = { column: name, alias: relation?.name ?? null, names: filter.names };
        return all.some((one) => one !== part && limits(one, its, []));
      }
      return false;
    }
    default:
      return false;
  }
}

const COMPARES = new Set(["=", "<", ">", "<=", ">=", "<=>"]);

function isMeant(expr: Expr, { column, alias, names }: ColumnFilter): boolean {
  const used = usedColumn(expr, names);
  if (used?.name !== column) return false;
  return alias === null || used.relation === null || used.relation.name.toLowerCase() === alias.toLowerCase();
}
