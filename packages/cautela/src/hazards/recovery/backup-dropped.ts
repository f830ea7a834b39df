import { tableClass } from "../../analysis/script/table-class.ts";
import { lostCopy } from "../../analysis/script/way-back.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * The copy is dropped or emptied before the script ends.
 *
 * @example
 * DROP TABLE mooring_before;   -- three lines after the DELETE that it was made for
 */
export const backupDropped: Hazard = {
  id: "backup-dropped",
  family: "recovery",
  lasting: true,
  subsumes: ["no-way-back"],
  weight: "ask",
  title: "The copy does not outlive the script",
  explanation:
    "A copy that covers the change is dropped or emptied in the same script, after the change. Whoever finds out tomorrow that too many rows went finds no " +
    "copy. Tables that only carry rows from one place to another (a rebuild) are not copies of this kind.",
  remedy: "Keep the copy, and drop it in a later script, when the result has been looked at.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL);",
    dangerous: `CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left';
DROP TABLE mooring_before;`,
    sound: `CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left';`,
  },
  finish({ timeline, policy }) {
    const drafts: Draft[] = [];
    const said = new Set<number>();
    for (const lost of timeline.destructions) {
      if (timeline.copies.of(lost.key).length === 0) continue;
      if (lost.softener !== null || lost.declared !== null || tableClass(lost.shown, policy) !== "business") continue;
      if (lost.undone || lost.span?.end === "rollback") continue;
      const copy = lostCopy(lost, timeline);
      if (!copy?.gone || copy.gone.statement < lost.at.statement || said.has(copy.place)) continue;
      // The rows have gone back from the copy: it was a detour and not a copy to keep.
      if (timeline.copies.of(copy.name).some(({ name }) => name === lost.key)) continue;
      said.add(copy.place);
      drafts.push({
        at: copy.gone,
        message: `This removes \`${copy.shown}\`, the only copy of what line ${lost.at.region.line} ${lost.action === "update" ? "overwrites" : "destroys"} in \`${lost.shown}\`.`,
        because: [`\`${copy.shown}\` was made on line ${copy.at.region.line} and holds those rows`],
        remedy: "Keep it, and drop it in a later script.",
      });
    }
    return drafts;
  },
};
