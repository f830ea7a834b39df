import type { Hazard } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * Changes that hang together, and no transaction around them.
 *
 * @example
 * INSERT INTO mooring_archive SELECT * FROM mooring WHERE …; DELETE FROM mooring WHERE …;
 */
export const unwrapped: Hazard = {
  id: "unwrapped",
  family: "recovery",
  weight: "note",
  title: "Dependent changes without a transaction",
  explanation:
    "One statement takes rows from a table, and a later one deletes or changes them there: a move, a transfer. If the second fails, or the line is cut between " +
    "them, the first stays. Without a transaction each commits by itself. Said once for a script; Oracle is always in a transaction.",
  remedy: "Put BEGIN before the first and COMMIT after the last of them.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE mooring (mooring_id integer PRIMARY KEY, to_day date);
CREATE TABLE mooring_past (mooring_id integer PRIMARY KEY, to_day date);`,
    dangerous: `INSERT INTO mooring_past (mooring_id, to_day) SELECT mooring_id, to_day FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE to_day < '2025-01-01';`,
    sound: `BEGIN;
INSERT INTO mooring_past (mooring_id, to_day) SELECT mooring_id, to_day FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE to_day < '2025-01-01';
COMMIT;`,
  },
  finish({ timeline, dialect }) {
    if (dialect.run.alwaysInTransaction) return [];
    for (const [i, first] of timeline.changes.entries()) {
      if (first.span || first.reads.length === 0) continue;
      const second = timeline.changes
        .slice(i + 1, i + 12)
        .find((one) => !one.span && first.reads.includes(one.key) && one.key !== first.key);
      // A copy for the way back is no half of a move.
      if (!second || !timeline.copies.list.some((copy) => copy.at === first.at && copy.into && !copy.temporary))
        continue;
      return [
        {
          at: first.at,
          message: `This and line ${second.at.region.line} belong together (${listed([first.shown, second.shown])}), and each commits by itself.`,
          because: [
            `rows go from \`${second.shown}\` into \`${first.shown}\`, and then change there`,
            "no transaction is open",
          ],
          remedy: "Put BEGIN before the first and COMMIT after the last of them.",
        },
      ];
    }
    return [];
  },
};
