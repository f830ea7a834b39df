import { refusal } from "../../analysis/conditions/allowed.ts";
import { assignedIn, pinsOf, shownValue } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnLike } from "../../catalog/columns.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A value that an enumeration or a CHECK does not allow.
 *
 * @example
 * UPDATE mooring SET status = 'gone' WHERE mooring_id = 3;   -- CHECK (status IN ('planned', 'lying', 'left'))
 */
export const outsideList: Hazard = {
  id: "outside-list",
  family: "values",
  statements: ["update", "delete", "insert", "merge"],
  weight: "stop",
  depends: ["names"],
  needs: Trait.listed,
  title: "A value that is not allowed",
  explanation:
    "The column's enumeration or a CHECK of the table lists what is allowed, and the constant is not among it. The engine refuses the statement; " +
    "MySQL without strict mode writes an empty value instead. In a filter such a value meets no row.",
  remedy: "Write one of the allowed values, or change the list first.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL CHECK (status IN ('planned', 'lying', 'left')));",
    dangerous: "UPDATE mooring SET status = 'gone' WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET status = 'left' WHERE mooring_id = 3;",
  },
  check({ tree, names, changes, catalog, inserted }) {
    if (!catalog) return [];
    const drafts: Draft[] = [];
    const say = (column: string, value: NonNullable<ReturnType<typeof constant>>, why: string): void => {
      if (drafts.length < 5) {
        drafts.push({
          message: `${shownValue(value)} is not allowed in \`${column}\`, so the engine refuses this.`,
          refused: true,
          because: [why],
          remedy: "Write one of the allowed values.",
        });
      }
    };
    for (const { column, value } of assignedIn(tree, names)) {
      const table = column.relation?.table ?? changes[0]?.change.table;
      const known = columnLike(table, column.name);
      const given = constant(value);
      const why = table && known && given ? refusal(given, known, table, catalog) : null;
      if (why && given) say(column.name, given, why);
    }
    // A filter that asks for a word that no row can have.
    for (const { change, result } of changes)
      if (change.table && result.filter !== "dead")
        for (const { column, values } of pinsOf(change.conditions, names)) {
          const known =
            column.relation && column.relation.table !== change.table ? null : columnLike(change.table, column.name);
          const [value] = values;
          const why = known && values.length === 1 ? refusal(value, known, change.table, catalog) : null;
          if (why && drafts.length < 5)
            drafts.push({
              weight: "ask",
              message: `No row can have ${shownValue(value)} in \`${column.name}\`, so this filter meets none.`,
              because: [why],
              remedy: "Ask for one of the allowed values.",
            });
        }
    if (inserted?.table) {
      const { table, columns } = inserted;
      for (const row of inserted.rows) {
        columns.forEach((column, i) => {
          const given = column && row[i] ? constant(row[i]) : null;
          const why = column && given ? refusal(given, column, table, catalog) : null;
          if (column && given && why) say(column.name, given, why);
        });
      }
    }
    return drafts;
  },
};
