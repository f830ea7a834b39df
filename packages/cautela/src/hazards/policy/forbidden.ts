import { changedTables } from "../../analysis/statement/named-target.ts";
import { isTableOf, listOf } from "../../policy/patterns.ts";
import { wordsOfStatement } from "../../policy/statement-words.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A statement that the team's policy does not allow.
 *
 * @example
 * // forbidden: [{ statement: truncate, because: "Rows are deleted, so that the audit sees them." }]
 * TRUNCATE mooring;   -- stop, in these words
 */
export const forbidden: Hazard = {
  id: "forbidden",
  family: "policy",
  weight: "stop",
  title: "A statement that the policy forbids",
  explanation:
    "The policy names statements that the team does not run (forbidden), for all tables or for some, and says why. The statement is one of them by what it " +
    "does, however it is written: DROP COLUMN within an ALTER TABLE is one as well.",
  remedy: "Do it in the way that the policy asks for, or have the policy changed.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2)); CREATE TABLE mooring_old AS SELECT * FROM mooring;",
    dangerous: "ALTER TABLE mooring ALTER COLUMN fee TYPE numeric(12,2);",
    sound: "ALTER TABLE mooring ADD COLUMN paid boolean;",
    policy: {
      forbidden: [
        { statement: "change column", tables: "mooring", because: "The billing export reads this table by its types." },
      ],
    },
  },
  check({ tree, changes, catalog, policy }) {
    if (!policy.forbidden) return [];
    const words = wordsOfStatement(tree);
    const drafts: Draft[] = [];
    for (const { statement, tables, because } of policy.forbidden) {
      const word = listOf(statement).find((one) => words.has(one.toLowerCase()));
      if (word === undefined) continue;
      const meant = tables === undefined ? null : listOf(tables);
      const hit = meant ? changedTables(tree, changes, catalog).filter((table) => isTableOf(table, meant)) : [];
      if (meant && hit.length === 0) continue;
      drafts.push({
        message: because,
        because: [`the policy forbids ${word.toUpperCase()}${hit.length > 0 ? ` of \`${hit.join("`, `")}\`` : ""}`],
        remedy: "",
      });
    }
    return drafts;
  },
};
