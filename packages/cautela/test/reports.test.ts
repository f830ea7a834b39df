import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { catalogFromDdl, rehearsalText, rehearse, report, review, reviewChangeSet, trace, traceText } from "cautela";
import { textReport } from "cautela/tools";
import { expect, test } from "vitest";

// The reports as people read them: a change of a word is seen here first.

const demo = (path: string): string =>
  readFileSync(fileURLToPath(new URL(`../../../demo/${path}`, import.meta.url)), "utf8");
const schema = catalogFromDdl(demo("schema/postgresql.sql"), { dialect: "postgresql" });
const catalog = catalogFromDdl(demo("data/postgresql.sql"), { dialect: "postgresql", onto: schema });
const reviewed = (name: string) =>
  review(demo(`scripts/postgresql/${name}.sql`), { dialect: "postgresql", catalog, path: `${name}.sql` });
const kept = (name: string) => fileURLToPath(new URL(`report-texts/${name}.txt`, import.meta.url));

test.each(["02-raise-all-fees", "05-renumber-berth", "08-friday-evening"])(
  "%s, short, full and narrow",
  async (name) => {
    const one = reviewed(name);
    await expect(report(one, "text")).toMatchFileSnapshot(kept(`${name}-short`));
    await expect(report(one, "text", { full: true })).toMatchFileSnapshot(kept(`${name}-full`));
    const narrow = textReport([one], { width: 40 });
    expect(narrow.split("\n").filter((line) => line.length > 40)).toEqual([]);
  },
);

test("what a statement writes besides, and the rehearsal", async () => {
  const one = reviewed("05-renumber-berth");
  await expect(traceText(trace(one))).toMatchFileSnapshot(kept("05-renumber-berth-trace"));
  await expect(rehearsalText(rehearse(one, { date: "20260301" }))).toMatchFileSnapshot(
    kept("05-renumber-berth-rehearsal"),
  );
});

test("a script of ten lines with one question fits on a screen of 24 lines", () => {
  const script = `-- last year's pilotages are charged anew
UPDATE pilotage
SET charge = charge * 1.05
WHERE done_at >= DATE '2025-07-01'
  AND done_at < DATE '2026-01-01'
  AND pilot_id = 3;

UPDATE pilot
SET active = 0
WHERE pilot_id = 3 AND active = 1;`;
  const one = review(script, { dialect: "postgresql", catalog, path: "charge.sql" });
  expect(one.findings.filter(({ weight }) => weight === "ask")).toHaveLength(1);
  expect(report(one, "text").split("\n").length).toBeLessThanOrEqual(24);
});

test("the heaviest comes first, and what was not judged is said", () => {
  const script =
    "DELETE FROM tariff_notice WHERE class = 'barge';\nGRANT SELECT ON berth TO office;\nSET work_mem = '1MB';\nUPDATE mooring SET fee = 1;";
  const one = review(script, { dialect: "postgresql", catalog, path: "mixed.sql" });
  const text = report(one, "text");
  expect(text.split("\n\n")[0].replace("\n ", "")).toBe(
    "mixed.sql  PostgreSQL, 4 statements: stop, ■ 1 stop, □ 2 note; not judged: 1 statement about rights, 1 setting",
  );
  expect(text.indexOf("line 4, column 1")).toBeLessThan(text.indexOf("── notes"));
  expect(one.unjudged).toEqual([
    { what: "rights", statements: [1] },
    { what: "settings", statements: [2] },
  ]);
  const clear = review("GRANT SELECT ON berth TO office;", { dialect: "postgresql", catalog });
  expect(report(clear, "text").replace("\n ", "")).toContain("nothing found; not judged: 1 statement about rights");
  const several = reviewChangeSet(
    [
      { text: "SELECT 1;", path: "a.sql" },
      { text: "DELETE FROM mooring;", path: "b.sql" },
    ],
    { catalog },
  );
  expect(report(several, "text").trimEnd().split("\n").at(-1)).toMatch(/^2 scripts, 2 statements: stop, ■ 1 stop/);
});
