import type { Hazard } from "../hazard.ts";

/**
 * A script that takes another back and does not bring back all that it took.
 *
 * @example
 * -- 4_phones.sql:      ALTER TABLE owner DROP COLUMN phone;
 * -- 4_phones.undo.sql: ALTER TABLE owner ADD COLUMN phone varchar(20);   -- ask: the column comes back empty
 */
export const undoGap: Hazard = {
  id: "undo-gap",
  family: "recovery",
  weight: "ask",
  title: "An undo that does not bring everything back",
  explanation:
    "The script is the way back of another. Both are replayed, and the database after them is compared with the one before: a column has another type, a trigger " +
    "or a key is missing, a table stays; a column that was dropped comes back empty; rows that were deleted or overwritten stay so. An undo that gives all structure " +
    "back counts as the way back of structure changes, and never of lost rows.",
  remedy:
    "Bring back what is named, or say in the script that it is gone for good; keep a copy of rows before they go.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20));",
    dangerous: "ALTER TABLE owner ADD COLUMN phone varchar(20);\nDROP TABLE owner_phone;",
    sound:
      "ALTER TABLE owner ADD COLUMN phone varchar(20);\n" +
      "UPDATE owner SET phone = p.phone FROM owner_phone AS p WHERE p.owner_id = owner.owner_id;\n" +
      "DROP TABLE owner_phone;",
    beside: {
      undoes: "CREATE TABLE owner_phone AS SELECT owner_id, phone FROM owner;\nALTER TABLE owner DROP COLUMN phone;",
    },
  },
  finish({ origin: { undoes }, start }) {
    if (!undoes) return [];
    const all = [...undoes.structure, ...undoes.rows];
    if (all.length === 0) return [];
    const more = all.length > 1 ? `, and ${all.length - 1} more` : "";
    return [
      {
        at: start,
        message: `This does not bring back all that \`${undoes.path}\` took: ${all[0]}${more}.`,
        because:
          all.length > 1 ? all.slice(0, SHOWN) : ["both were replayed, and the database was compared with what it was"],
        remedy:
          undoes.rows.length > 0
            ? "Keep a copy before the change, and bring the rows back from there."
            : "Bring it back in this script.",
      },
    ];
  },
};

/** This many gaps are listed. */
const SHOWN = 20;
