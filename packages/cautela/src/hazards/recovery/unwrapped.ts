import type { Copy, Destruction } from "../../analysis/script/copies.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { At, Hazard } from "../hazard.ts";
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
  remedy: "Run both in one transaction.",
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
    const begin = sqlWriter(dialect).transaction?.begin;
    // A copy for the way back is no half of a move.
    const copies = new Map<At, Copy>();
    for (const copy of timeline.copies.list)
      if (copy.into && !copy.temporary && !copies.has(copy.at)) copies.set(copy.at, copy);
    if (copies.size === 0) return [];
    const lost = new Map<At, Destruction[]>();
    for (const one of timeline.destructions) {
      const others = lost.get(one.at);
      if (others) others.push(one);
      else lost.set(one.at, [one]);
    }
    for (const [i, first] of timeline.changes.entries()) {
      if (first.span || first.reads.length === 0) continue;
      const copy = copies.get(first.at);
      if (!copy) continue;
      const second = timeline.changes
        .slice(i + 1, i + 12)
        .find(
          ({ span, key, at }) =>
            !span && first.reads.includes(key) && key !== first.key && leaves(lost.get(at) ?? [], key, copy),
        );
      if (!second) continue;
      return [
        {
          at: first.at,
          message: `This and line ${second.at.region.line} belong together (${listed([first.shown, second.shown])}), and each commits by itself.`,
          because: [
            `rows go from \`${second.shown}\` into \`${first.shown}\`, and then change there`,
            "no transaction is open",
          ],
          remedy: begin
            ? `Put ${begin} before the first and COMMIT after the last of them.`
            : "Run both in one transaction of the program that runs them.",
        },
      ];
    }
    return [];
  },
};

/** Whether what a change of a table loses is the other half of a move: rows of the kind that was copied, or marks on just those. */
function leaves(losses: readonly Destruction[], key: string, copy: Copy): boolean {
  return losses.some((lost) => {
    if (lost.key !== key) return false;
    if (lost.filterText === copy.filterText) return true;
    if (lost.action === "update") return false;
    const asked = new Set(copy.filter?.map(({ column }) => column));
    return (
      lost.among.includes(copy.name) || (lost.filter ?? []).some(({ column }) => column !== null && asked.has(column))
    );
  });
}
