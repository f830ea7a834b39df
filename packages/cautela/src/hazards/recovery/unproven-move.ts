import { implied } from "../../analysis/conditions/filter-facts.ts";
import { isMove } from "../../analysis/script/copies.ts";
import { shortfall } from "../../analysis/script/way-back.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * Rows are moved into an archive, and the DELETE meets others than the INSERT.
 *
 * @example
 * INSERT INTO mooring_archive SELECT * FROM mooring WHERE to_day < '2025-01-01';
 * DELETE FROM mooring WHERE to_day < '2026-01-01';
 */
export const unprovenMove: Hazard = {
  id: "unproven-move",
  family: "recovery",
  lasting: true,
  weight: "stop",
  title: "A move that loses rows on the way",
  explanation:
    "Rows go into an archive by INSERT … SELECT and are deleted afterwards, but the filter of the DELETE is not the one of the INSERT: what only the DELETE " +
    "meets is gone. So are rows that a DELETE returns and the INSERT around it filters, joins or cuts off. A DELETE that asks for more conditions than the INSERT loses nothing and is quiet.",
  remedy: "Use the same filter in both, or delete by the keys that the archive holds.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE mooring (mooring_id integer PRIMARY KEY, to_day date NOT NULL);
CREATE TABLE mooring_archive (mooring_id integer PRIMARY KEY, to_day date NOT NULL);`,
    dangerous: `INSERT INTO mooring_archive (mooring_id, to_day) SELECT mooring_id, to_day FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE to_day < '2026-01-01';`,
    sound: `INSERT INTO mooring_archive (mooring_id, to_day) SELECT mooring_id, to_day FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE to_day < '2025-01-01';`,
  },
  finish({ timeline }) {
    const drafts: Draft[] = [];
    for (const lost of timeline.destructions) {
      if (lost.action !== "delete" && lost.action !== "truncate") continue;
      if (lost.softener !== null || lost.reach.bound === "one") continue;
      const moves = timeline.copies.of(lost.key).filter((copy) => copy.into && copy.place < lost.copies);
      const last = moves[moves.length - 1];
      if (!last || !isMove(last, lost.table)) continue;
      const leaks = last.handedOn && last.at.statement === lost.at.statement ? last.uncertain : null;
      if (last.uncertain && leaks === null) continue;
      // Far apart they may have nothing to do with each other.
      if (lost.at.statement - last.at.statement > 6 || moves.some((copy) => shortfall(copy, lost, null) === null))
        continue;
      const covered = timeline.copies
        .of(lost.key)
        .some((copy) => !copy.into && copy.place < lost.copies && shortfall(copy, lost) === null);
      // Only the data can tell whether a join leaves rows out.
      const short = last.filter?.filter((one) => !implied(one, lost.filter ?? [])) ?? [];
      const joined = leaks === null && short.length > 0 && short.every(({ key }) => TIE.test(key));
      drafts.push({
        at: lost.at,
        weight: covered || joined || lost.declared !== null ? "ask" : "stop",
        message: `Not all rows that this deletes from \`${lost.shown}\` have gone into \`${last.shown}\`.`,
        because: [
          leaks ??
            (joined
              ? `line ${last.at.region.line} copies only rows that its join finds`
              : `line ${last.at.region.line} copies rows where ${last.filterText}`),
          lost.filterText === "" ? "this meets every row" : `this deletes rows where ${lost.filterText}`,
        ],
        remedy: leaks
          ? "Put the condition into the DELETE, so that it removes only what arrives."
          : joined
            ? `Copy without the join, or delete what the archive holds: … WHERE EXISTS (SELECT 1 FROM ${last.shown} …)`
            : `Use one filter for both, or delete what the archive holds: … WHERE EXISTS (SELECT 1 FROM ${last.shown} …)`,
      });
    }
    return drafts;
  },
};

/** A row of another table, of which nothing is asked but that it is there, as the facts of a filter write it. */
const TIE = /^in [^ ]{1,200} by [^ ]{0,400} where $/;
