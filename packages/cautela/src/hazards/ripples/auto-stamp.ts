import { Trait } from "../../analysis/statement/traits.ts";
import type { Hazard } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A column that the engine or a trigger fills with the time or the user at every change.
 *
 * @example
 * UPDATE vessel SET name = 'Alma' WHERE vessel_id = 3;   -- changed_at ON UPDATE CURRENT_TIMESTAMP
 */
export const autoStamp: Hazard = {
  id: "auto-stamp",
  family: "ripples",
  weight: "note",
  depends: ["names"],
  needs: Trait.ripple,
  title: "A stamp is renewed",
  explanation:
    "A column takes the time, the user or a version number at every change of its row, whoever makes it. After the script all rows that it " +
    "touched look as if they had been edited today, and copies compared by that column differ. Said once for each table.",
  remedy: "Nothing, if that is meant. To keep the old stamp in MySQL and MariaDB, assign the column to itself.",
  example: {
    dialect: "mariadb",
    ddl: "CREATE TABLE vessel (vessel_id int PRIMARY KEY, name varchar(60) NOT NULL, changed_at timestamp NULL ON UPDATE CURRENT_TIMESTAMP);",
    dangerous: "UPDATE vessel SET name = 'Alma' WHERE vessel_id = 3;",
    sound: "UPDATE vessel SET name = 'Alma', changed_at = changed_at WHERE vessel_id = 3;",
  },
  check({ ripples }) {
    return ripples.flatMap(({ ripple }) => {
      const notes = ripple.notes.filter(
        ({ kind, node }) => kind === "stamps" && node === 0 && ripple.nodes[0].action === "update",
      );
      const [root] = ripple.nodes;
      if (notes.length === 0) return [];
      const columns = [...new Set(notes.flatMap((note) => note.columns))];
      return [
        {
          cause: `stamp ${root.name}`,
          message: `${listed(columns)} of \`${root.name}\` ${columns.length === 1 ? "is" : "are"} stamped again in every row that this touches.`,
          because: notes.map(({ text }) => text),
          remedy: "",
        },
      ];
    });
  },
};
