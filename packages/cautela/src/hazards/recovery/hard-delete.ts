import type { Destruction } from "../../analysis/script/copies.ts";
import { tableClass } from "../../analysis/script/table-class.ts";
import { shortfall } from "../../analysis/script/way-back.ts";
import type { Catalog } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/keys.ts";
import { shownName, type Table } from "../../catalog/model.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * Rows with business meaning are deleted where the table has another way to end them.
 *
 * @example
 * DELETE FROM owner WHERE owner_id = 3;   -- owner has `left_on`, and vessels refer to it
 */
export const hardDelete: Hazard = {
  id: "hard-delete",
  family: "recovery",
  lasting: true,
  weight: "ask",
  depends: ["names"],
  title: "Deleted for good",
  explanation:
    "The table holds things that are spoken of later (other tables refer to it, or an archive stands beside it), and it has a column for their end: a status, " +
    "an end date, a flag. Elsewhere such rows are closed, not deleted. The policy can class a table; log and scratch data, and rows that the script archives first, " +
    "are quiet. One row is only noted.",
  remedy: "Close the row instead (set its status or end date), or move it into the archive.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(60) NOT NULL, left_on date);
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner);`,
    dangerous: "DELETE FROM owner WHERE owner_id = 3;",
    sound: "UPDATE owner SET left_on = '2026-01-31' WHERE owner_id = 3 AND left_on IS NULL;",
  },
  finish({ timeline, policy, catalog }) {
    const drafts: Draft[] = [];
    const said = new Set<string>();
    for (const lost of timeline.destructions) {
      if (
        lost.action !== "delete" ||
        lost.softener !== null ||
        !lost.table ||
        lost.undone ||
        lost.span?.end === "rollback"
      )
        continue;
      if (tableClass(lost.shown, policy) !== "business") continue;
      const reason = meaning(lost.table, catalog, policy.tables?.[lost.shown] === "business");
      if (!reason) continue;
      const kept = timeline
        .copiesOf(lost.key)
        .some((copy) => copy.place < lost.copies && shortfall(copy, lost) === null);
      if (kept || lost.declared !== null) continue;
      const weight = lost.reach.bound === "one" ? "note" : "ask";
      if (said.has(`${lost.key} ${weight}`)) continue;
      said.add(`${lost.key} ${weight}`);
      drafts.push({
        at: lost.at,
        weight,
        message: `Rows of \`${lost.shown}\` are deleted for good, although ${reason.way}.`,
        because: reason.because,
        remedy: reason.remedy(lost),
      });
    }
    return drafts;
  },
};

interface Meaning {
  way: string;
  because: string[];
  remedy(lost: Destruction): string;
}

const ENDS =
  /^(?:status|state|active|is_active|enabled|deleted|is_deleted|deleted_at|deleted_on|archived|archived_at|closed_at|closed_on|ended_on|end_date|left_on|valid_to|valid_until)$/i;

/** Why the rows of a table are not simply deleted, and what is done instead; null where nothing says so. */
function meaning(table: Table, catalog: Catalog | null, classed: boolean): Meaning | null {
  const ending = table.columns.find(({ name }) => ENDS.test(name));
  const key = tableKey(table.schema, table.name);
  const referring = catalog?.referencing(key).filter((one) => one !== table) ?? [];
  const archive = archiveOf(table, catalog);
  if (archive) {
    return {
      way: `\`${archive}\` stands beside it`,
      because: [`the catalog holds \`${archive}\`, with the same columns`],
      remedy: (lost) => `Move them: INSERT INTO ${archive} SELECT * FROM ${lost.shown}${where(lost)}, and then delete.`,
    };
  }
  if (!ending || (referring.length === 0 && !classed)) return null;
  const date = /date|time/.test(ending.type);
  const flag = /^(?:active|is_active|enabled)$/i.test(ending.name);
  const value = date ? "CURRENT_DATE" : flag ? "0" : "'…'";
  return {
    way: `it has \`${ending.name}\` to end them`,
    because: [
      `\`${ending.name}\` tells rows that are over from those that are not`,
      ...(referring.length > 0
        ? [
            `${referring.map((one) => `\`${shownName(one)}\``).join(", ")} ${referring.length === 1 ? "refers" : "refer"} to it`,
          ]
        : []),
    ],
    remedy: (lost) => `Close them: UPDATE ${lost.shown} SET ${ending.name} = ${value}${where(lost)}`,
  };
}

function where({ filterText }: Destruction): string {
  return filterText === "" ? "" : ` WHERE ${filterText}`;
}

/** A table beside it that is named as its archive and has its columns. */
function archiveOf(table: Table, catalog: Catalog | null): string | null {
  for (const suffix of ["_archive", "_history", "_old", "_hist"]) {
    const name = table.name === table.name.toUpperCase() ? suffix.toUpperCase() : suffix;
    const found = catalog?.get(table.schema, `${table.name}${name}`);
    if (found && table.columns.every((column) => found.columns.some((one) => one.name === column.name)))
      return shownName(found);
  }
  return null;
}
