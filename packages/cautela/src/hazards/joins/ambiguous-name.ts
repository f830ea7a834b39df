import { Trait } from "../../analysis/statement/traits.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A column that two of the tables have.
 *
 * @example
 * UPDATE mooring AS m SET fee = fee * 2 FROM tariff t WHERE t.class = 'sail';   -- both have `fee`
 */
export const ambiguousName: Hazard = {
  id: "ambiguous-name",
  family: "joins",
  weight: "stop",
  depends: ["names"],
  needs: Trait.openName,
  title: "A column that two of the tables have",
  explanation:
    "A column stands without its table, and more than one table of the statement has a column of that name. Engines refuse " +
    "the statement; a reader has to guess which one was meant.",
  remedy: "Put the alias of the table that is meant in front of the column.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, class text, fee numeric(10,2));\nCREATE TABLE tariff (class text PRIMARY KEY, fee numeric(10,2));",
    dangerous: "UPDATE mooring AS m SET fee = t.fee FROM tariff AS t WHERE t.class = m.class AND fee < 10;",
    sound: "UPDATE mooring AS m SET fee = t.fee FROM tariff AS t WHERE t.class = m.class AND m.fee < 10;",
  },
  check({ names, show }) {
    if (!names) return [];
    const drafts: Draft[] = [];
    const said = new Set<string>();
    for (const { status, node, candidates } of names.open) {
      if (status !== "ambiguous") continue;
      const column = show(node);
      if (said.has(column)) continue;
      said.add(column);
      const aliases = candidates.map((one) => one.name);
      drafts.push({
        message: `\`${column}\` may mean the column of ${listed(aliases)}, so the engine refuses this.`,
        refused: true,
        because: [`${listed(aliases)} each have a column of that name`],
        remedy: `Write ${aliases.map((alias) => `\`${alias}.${column}\``).join(" or ")}.`,
      });
    }
    return drafts;
  },
};
