import { insertReach } from "../../analysis/changes/insert-reach.ts";
import type { Reach } from "../../analysis/changes/reach.ts";
import { annotation } from "../../analysis/script/annotations.ts";
import { type Expectation, expectation, pastedCount } from "../../analysis/script/expectations.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { capital, reachWords, rowCount } from "../wording.ts";

/**
 * The number of rows that the author expects cannot be the one that the statement reaches.
 *
 * @example
 * -- cautela: expect 7 rows
 * UPDATE mooring SET fee = 12 WHERE mooring_id = 3;
 */
export const expectMismatch: Hazard = {
  id: "expect-mismatch",
  family: "recovery",
  weight: "ask",
  depends: ["names"],
  needs: Trait.comment | Trait.change,
  statements: ["update", "delete", "insert", "merge", "truncate"],
  title: "Another number of rows than expected",
  explanation:
    "The author has written how many rows the statement should change (-- cautela: expect 7 rows, at most 20 rows, no rows), and its reach says that this cannot be: " +
    "a key pinned to one value never gives seven, a statement without a filter gives the whole table. A number pasted from an earlier run " +
    '("13 rows affected") is compared as well, and noted.',
  remedy: "Count with the same filter, and mend the filter or the number.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL);",
    dangerous: "-- cautela: expect 7 rows\nUPDATE mooring SET fee = 12 WHERE mooring_id = 3;",
    sound: "-- cautela: expect 1 row\nUPDATE mooring SET fee = 12 WHERE mooring_id = 3;",
  },
  check({ statement, slice, changes, tree, catalog, dialect, next, at }) {
    // A count that is pasted below a statement belongs to it, and not to the one that follows.
    const below = next?.comments.filter(({ start }) => start < next.start) ?? [];
    if (statement.comments.length === 0 && below.length === 0) return [];
    const reach: Reach | null = changes.length === 1 ? changes[0].result.reach : insertReach(tree, catalog, dialect);
    // How many rows a list holds is no bound: it is the number.
    const exact = tree.kind === "insert" && tree.source?.body.kind === "values";
    if (!reach) return [];
    const drafts: Draft[] = [];
    for (const comment of statement.comments) {
      const said = annotation(slice(comment.start, comment.end), comment);
      if (said?.what !== "expect") continue;
      const expected = expectation(said.text);
      if (!expected) {
        drafts.push({
          weight: "note",
          message: `\`expect ${said.text}\` is not understood.`,
          because: ["it says a number of rows: 7 rows, 1 row, at most 20 rows, no rows"],
          remedy: "",
        });
        continue;
      }
      const why = impossible(expected, reach, exact);
      if (why) drafts.push(draft(expected, why, "ask"));
    }
    const own = statement.comments.filter(({ start }) => start > statement.start || at.statement === 0);
    const pasted = pastedCount([...own, ...below].map(({ start, end }) => slice(start, end)).join("\n"));
    const why = pasted === null ? null : impossible({ rows: pasted, atMost: false }, reach, exact);
    if (pasted !== null && why) drafts.push(draft({ rows: pasted, atMost: false }, why, "note"));
    return drafts;
  },
};

function draft(expected: Expectation, why: string, weight: "ask" | "note"): Draft {
  const number = `${expected.atMost ? "at most " : ""}${expected.rows === 0 ? "no rows" : rowCount(expected.rows)}`;
  return {
    weight,
    message:
      weight === "note"
        ? `A pasted count says ${number}, and this reaches ${why}.`
        : `${capital(number)} expected, and this reaches ${why}.`,
    because: [`the comment says ${number}`],
    remedy: "Count with the same filter, and mend the filter or the number.",
  };
}

/** Why a reach cannot give the expected number; null where it can. */
function impossible({ rows, atMost }: Expectation, reach: Reach, exact: boolean): string | null {
  switch (reach.bound) {
    case "none":
      return rows > 0 && !atMost ? "no row" : null;
    case "one":
    case "few": {
      const most = reach.rows ?? 1;
      if (exact && !atMost) return rows === most ? null : rowCount(most);
      if (rows === 0 && !atMost) return null;
      return !atMost && rows > most ? reachWords(reach) : null;
    }
    case "some":
      // By statistics of single columns: only what is far off says something.
      if (reach.rows === undefined || atMost || exact) return null;
      return reach.rows > 10 * rows + 50 || rows > 10 * reach.rows + 50 ? reachWords(reach) : null;
    case "every":
      // An estimate of the engine's may be off; twice as many are not.
      if (reach.rows === undefined) return rows === 0 && !atMost ? "every row" : null;
      if (reach.rows > 2 * rows + 10 || (!atMost && rows > 2 * reach.rows + 10)) return reachWords(reach);
      return null;
    default:
      return null;
  }
}
