import type { Copy, Destruction } from "../../analysis/script/copies.ts";
import { tableClass } from "../../analysis/script/table-class.ts";
import { missingColumns, shortfall, wayBack } from "../../analysis/script/way-back.ts";
import type { Catalog } from "../../catalog/catalog.ts";
import { spelledColumn } from "../../catalog/columns.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A copy that does not hold what is destroyed.
 *
 * @example
 * CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
 * DELETE FROM mooring WHERE status IN ('left', 'cancelled');
 */
export const thinBackup: Hazard = {
  id: "thin-backup",
  family: "recovery",
  lasting: true,
  weight: "ask",
  title: "A copy that is too thin",
  explanation:
    "The script makes a copy, so its author wanted a way back; but the copy has another filter than the change, lacks columns or the key, holds the structure " +
    "and no rows, comes after the change, joins other tables, or is temporary and gone with the session. A copy of every row, and one whose conditions are all " +
    "among those of the change, are enough.",
  remedy: "Give the copy the filter of the change, or none, and all columns; put it before the change.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, fee numeric(10,2) NOT NULL);",
    dangerous: `CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status IN ('left', 'cancelled');`,
    sound: `CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left' AND fee = 0;`,
  },
  finish({ timeline, policy, catalog, history }) {
    const drafts: Draft[] = [];
    const said = new Set<number>();
    for (const lost of timeline.destructions) {
      if (lost.softener !== null || tableClass(lost.shown, policy) !== "business") continue;
      const way = wayBack(lost, timeline);
      if (way.kind === "thin" && !said.has(way.copy.place)) {
        // An archive that goes its own way is a matter of `unproven-move`.
        if (way.copy.into && lost.action === "delete" && (!way.copy.handedOn || way.copy.uncertain)) continue;
        // A table that takes the name of the one that is dropped is a rebuild: `lossy-structure` tells which rows it lacks.
        const swapped = history.gaveAway(way.copy.name);
        const rebuilt = lost.action === "drop" && (way.copy.became !== null || swapped);
        const told = swapped || way.copy.became?.statement === lost.at.statement + 1;
        if (rebuilt && told && (way.copy.filter !== null || way.copy.uncertain !== null)) continue;
        // A copy of a part of the table for one row more or less is no way back that was meant for it.
        if (lost.reach.bound === "one" && way.copy.filter !== null) continue;
        said.add(way.copy.place);
        const emptied = rebuilt ? leftEmpty(way.copy, lost, catalog) : [];
        drafts.push({
          at: way.copy.at,
          weight: lost.reach.bound === "every" && way.copy.structureOnly ? "stop" : "ask",
          message: `\`${way.copy.shown}\` does not bring back what line ${lost.at.region.line} ${lost.action === "update" ? "overwrites" : "destroys"} in \`${lost.shown}\`: ${way.why}.`,
          because: [
            lost.filterText === ""
              ? `line ${lost.at.region.line} ${lost.action === "drop" ? "drops the whole table" : "meets every row"}`
              : `line ${lost.at.region.line} meets rows where ${lost.filterText}`,
          ],
          remedy: "Give the copy the filter of the change, or none, and put it before the change.",
          ...(rebuilt
            ? {
                message: `\`${lost.shown}\` is rebuilt, and the new table does not hold all of the old one, which line ${lost.at.region.line} drops: ${way.why}.`,
                remedy: "Fill what is missing, or keep the old table under another name.",
              }
            : {}),
          ...(emptied.length > 0
            ? {
                weight: "stop" as const,
                message: `\`${lost.shown}\` is rebuilt, and every row loses its ${listed(emptied)}: the new table has ${emptied.length === 1 ? "the column" : "the columns"}, and nothing takes the values over.`,
                because: [`line ${lost.at.region.line} drops the old table`],
                remedy: `Take ${listed(emptied)} over as well.`,
              }
            : {}),
        });
      } else if (way.kind === "kept") {
        const copies = timeline.copies
          .of(lost.key)
          .filter((copy) => copy.place < lost.copies && shortfall(copy, lost) === null);
        const [only] = copies;
        if (copies.length === 0 || copies.some(({ temporary }) => !temporary) || said.has(only.place)) continue;
        if (lost.span?.end === "rollback" || lost.span?.end === "open") continue;
        said.add(only.place);
        drafts.push({
          at: only.at,
          weight: "note",
          message: `\`${only.shown}\` is temporary: the copy is gone when the session ends.`,
          because: [`line ${lost.at.region.line} destroys rows of \`${lost.shown}\` that only this copy keeps`],
          remedy: "Make it an ordinary table if it is to be there tomorrow.",
        });
      }
    }
    return drafts;
  },
};

/** The columns that a rebuilt table has as it had before, and that nothing has filled. */
function leftEmpty(copy: Copy, lost: Destruction, catalog: Catalog | null): string[] {
  const now = copy.columns && catalog?.byKey(copy.became ? lost.key : copy.name);
  if (!copy.columns || !now || now.object !== "table") return [];
  return missingColumns(copy, lost, copy.columns)
    .filter((column) => now.columns.some((one) => one.name.toLowerCase() === column && !one.generated))
    .map((column) => spelledColumn(lost.table, column));
}
