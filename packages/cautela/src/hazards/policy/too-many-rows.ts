import { insertReach } from "../../analysis/changes/insert-reach.ts";
import type { Reach } from "../../analysis/changes/reach.ts";
import { expectedRows } from "../../analysis/script/expectations.ts";
import { changedTables } from "../../analysis/statement/named-target.ts";
import { isTableOf } from "../../policy/patterns.ts";
import type { Policy } from "../../policy/policy.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { reachWords, rowCount } from "../wording.ts";

/**
 * A statement that changes more rows than the team's policy allows.
 *
 * @example
 * // one-by-one: [tariff]
 * UPDATE tariff SET rate = 4 WHERE class = 'sail';   -- ask: several tariffs at once
 */
export const tooManyRows: Hazard = {
  id: "too-many-rows",
  family: "policy",
  weight: "ask",
  depends: ["names"],
  statements: ["update", "delete", "insert", "merge", "truncate", "select"],
  title: "More rows than the policy allows",
  explanation:
    "The policy allows one row at a time (one-by-one) or a number of rows (row-bounds) for the table, and this statement may change more: its filter names no " +
    "key, or the statistics count more. A bound is lifted by an expectation before the statement (-- cautela: expect 250 rows); a table of which rows are changed " +
    "one by one has none.",
  remedy: "Filter by the key, or say how many rows are expected.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE tariff (tariff_id integer PRIMARY KEY, class varchar(20) NOT NULL, rate numeric(10,2) NOT NULL);",
    dangerous: "UPDATE tariff SET rate = 4 WHERE class = 'sail';",
    sound: "UPDATE tariff SET rate = 4 WHERE tariff_id = 3;",
    policy: { "one-by-one": ["tariff"] },
  },
  check({ changes, policy, tree, catalog, dialect, statement, slice }) {
    if (!policy["one-by-one"] && !policy["row-bounds"]) return [];
    const drafts: Draft[] = [];
    const reached: { target: string; reach: Reach; held: number | null }[] = changes
      .filter(({ softener }) => softener === null)
      .map(({ target, result, change }) => ({ target, reach: result.reach, held: change.table?.rows ?? null }));
    if (changes.length === 0) {
      const reach = insertReach(tree, catalog, dialect);
      const [target] = changedTables(tree, changes, catalog);
      if (reach && target !== undefined) reached.push({ target, reach, held: null });
    }
    for (const { target, reach, held } of reached) {
      const bound = boundOf(target, policy);
      if (!bound || isWithin(reach, bound.rows) || (held !== null && held <= bound.rows)) continue;
      if (!bound.fixed && expectedRows(statement.comments, slice) !== null) continue;
      const most = bound.rows === 1 ? "one row" : rowCount(bound.rows);
      drafts.push({
        message: `This may change more than ${most} of \`${target}\`: ${reachWords(reach)}.`,
        because: [
          bound.fixed
            ? `by the policy rows of \`${target}\` are changed one by one`
            : `the policy allows ${most} of \`${target}\` without an expectation`,
        ],
        remedy: bound.fixed
          ? "Change one row with each statement, by its key."
          : "Count the rows, and say how many are expected: -- cautela: expect N rows",
      });
    }
    return drafts;
  },
};

/** The most rows of a table that one statement may change; the narrowest of the bounds that mean it. */
function boundOf(target: string, policy: Policy): { rows: number; fixed: boolean } | null {
  if (isTableOf(target, policy["one-by-one"] ?? [])) return { rows: 1, fixed: true };
  const bounds = Object.entries(policy["row-bounds"] ?? {});
  // An exact name goes before a pattern.
  const exact = bounds.filter(([table]) => !table.includes("*") && isTableOf(target, [table]));
  const meant = exact.length > 0 ? exact : bounds.filter(([table]) => isTableOf(target, [table]));
  return meant.length > 0 ? { rows: Math.min(...meant.map(([, rows]) => rows)), fixed: false } : null;
}

function isWithin(reach: Reach, most: number): boolean {
  switch (reach.bound) {
    case "none":
      return true;
    case "one":
      return most >= 1;
    case "multiplied":
    case "unknown":
      return false;
    default:
      return reach.rows !== undefined && reach.rows <= most;
  }
}
