import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import {
  type Catalog,
  catalogFromDdl,
  type DialectId,
  dialectIds,
  type FiredRipple,
  type RehearsalSheet,
  readScript,
  rehearsalText,
  rehearse,
  review,
} from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { type Engine, openEngines, type Row, undone } from "./databases.ts";
import { changes } from "./generated-changes.ts";

// A rehearsal is true when the engine agrees: the count is the number of rows that change, the preview's new values
// are the values afterwards, nothing but the copy writes beforehand, and the restore leaves every table as it was.

const demo = (name: string) => readFileSync(fileURLToPath(new URL(`../../../demo/${name}`, import.meta.url)), "utf8");

function schemaOf(dialect: DialectId): [string, string[]] {
  const text = readFileSync(new URL(`ripples/${dialect}.sql`, import.meta.url), "utf8");
  const [ddl, statements] = text.split("-- statements\n");
  return [ddl, statements.split("\n").filter((line) => line !== "")];
}

/** Changes beyond those of the ripple schema: joins, CTEs, limits, keys, upserts. */
const MORE: Partial<Record<DialectId, string[]>> = {
  postgresql: [
    "UPDATE keeper SET name = UPPER(name);",
    "UPDATE boat SET sign = 'a' WHERE boat_id < 12;",
    "UPDATE stay AS s SET fee = s.fee * 3 + b.boat_id FROM boat AS b WHERE b.boat_id = s.boat_id AND b.status = 'in';",
    "DELETE FROM stay USING boat b WHERE b.boat_id = stay.boat_id AND b.keeper_id = 1;",
    "WITH k AS (SELECT keeper_id FROM keeper WHERE name < 'B') UPDATE boat SET sign = 'w' WHERE keeper_id IN (SELECT keeper_id FROM k);",
    "UPDATE stay SET fee = 2.6 * fee, boat_id = NULL WHERE fee > 5;",
    "INSERT INTO tally (name, n) VALUES ('boat', 9) ON CONFLICT (name) DO UPDATE SET n = tally.n + 5;",
    "INSERT INTO journal (what, ref) SELECT sign, boat_id FROM boat;",
    "TRUNCATE journal;",
  ],
  sqlite: [
    "UPDATE keeper SET name = UPPER(name);",
    "UPDATE boat SET sign = 'a' WHERE boat_id < 12;",
    "UPDATE stay SET fee = fee * 3 + b.boat_id FROM boat AS b WHERE b.boat_id = stay.boat_id AND b.status = 'in';",
    "UPDATE stay SET fee = fee + 1 WHERE boat_id IN (SELECT boat_id FROM boat WHERE keeper_id = 1);",
    "INSERT INTO tally (name, n) VALUES ('boat', 9) ON CONFLICT (name) DO UPDATE SET n = n + 5;",
    "INSERT INTO journal (what, ref) SELECT sign, boat_id FROM boat;",
  ],
  mariadb: [
    "UPDATE keeper SET name = UPPER(name);",
    "UPDATE boat SET sign = 'a' WHERE boat_id < 12;",
    "UPDATE stay s JOIN boat b ON b.boat_id = s.boat_id SET s.fee = s.fee * 3 + b.boat_id WHERE b.status = 'in';",
    "DELETE s FROM stay s JOIN boat b ON b.boat_id = s.boat_id WHERE b.keeper_id = 1;",
    "UPDATE stay SET fee = fee + 1 ORDER BY stay_id LIMIT 2;",
    "INSERT INTO tally (name, n) VALUES ('boat', 9) ON DUPLICATE KEY UPDATE n = n + 5;",
    "INSERT INTO journal (what, ref) SELECT sign, boat_id FROM boat;",
  ],
};

/** What tells what happened stays, whatever is put back. */
const AUDIT = /(?:^|_)(?:journal|log)$/;

async function contents(engine: Engine): Promise<Record<string, string[]>> {
  const all: Record<string, string[]> = {};
  for (const table of engine.tables) {
    if (AUDIT.test(table)) continue;
    const rows = await engine.rows(`SELECT * FROM ${engine.only}${table}`);
    all[table] = rows.map((row) => JSON.stringify(row)).sort();
  }
  return all;
}

const of = (sheet: RehearsalSheet, purpose: string) => sheet.queries.filter((query) => query.purpose === purpose);

/** Runs a whole rehearsal on the engine, and returns what it found on the way. */
async function walk(
  engine: Engine,
  sheet: RehearsalSheet,
  sql: string,
  through: boolean,
): Promise<{ touched: number | null }> {
  const before = await contents(engine);
  let touched: number | null = null;
  let changing: number | null = null;
  let promised: Row = {};
  for (const { title, sql: query } of [
    ...of(sheet, "count"),
    ...of(sheet, "figure").filter((one) => one.phase === "before"),
  ]) {
    const [row] = await engine.look(query);
    if (title === "How many rows it touches") touched = Number(row.rows_touched);
    if (title === "How many of them really change") changing = Number(row.rows_changed);
    if (title.startsWith("What the figures should be")) promised = row;
  }
  const previews: Row[][] = [];
  for (const { sql: query } of of(sheet, "preview")) previews.push(await engine.look(query));
  if (changing !== null && previews.length === 1) sameTexts(sql, previews[0], changing);
  for (const { sql: query, phase } of of(sheet, "copy")) if (phase === "before") await engine.run(query);
  expect(await contents(engine), sql).toEqual(before);
  // The engines of this test have a transaction of their own.
  for (const { sql: query, purpose, phase } of sheet.queries)
    if (phase === "change" && (purpose === "copy" || purpose === "change" || purpose === "guarded"))
      await engine.run(query);
  if (touched !== null && touched > 0 && sheet.kind === "update" && !through) await sameValues(engine, sheet, previews);
  const now: Row = {};
  for (const { title, sql: query } of sheet.queries.filter(({ phase }) => phase === "after")) {
    const [row] = await engine.look(query);
    if (title === `Control figures of ${sheet.target}`) Object.assign(now, row);
  }
  for (const [name, value] of Object.entries(promised)) {
    const is = name === "expected_rows" ? now.all_rows : now[name.slice("expected_".length)];
    // Of no rows there is no sum to take away.
    if (value !== null) expect([sql, name, Number(is)]).toEqual([sql, name, Number(value)]);
  }
  for (const { sql: step } of of(sheet, "restore")) await engine.run(step);
  const after = await contents(engine);
  if (of(sheet, "restore").length > 0) {
    // Of some tables the sheet says that their rows cannot be told apart.
    for (const reason of sheet.reasons) {
      const [, shown] = /rows of (\S+) have no key/.exec(reason) ?? [];
      const table = shown?.replace(/^.*\./, "") ?? "";
      if (table !== "") after[table] = before[table];
    }
    expect(after, sql).toEqual(before);
  }
  return { touched };
}

/** The rows that are said to change are those whose texts differ in anything, be it case or trailing blanks. */
function sameTexts(sql: string, preview: readonly Row[], changing: number): void {
  const columns = Object.keys(preview[0] ?? {}).flatMap((name) => (name.startsWith("new_") ? name.slice(4) : []));
  const text = (value: unknown): boolean => value === null || typeof value === "string";
  // A preview ends after a hundred rows.
  if (
    preview.length >= 100 ||
    !preview.every((row) => columns.every((one) => text(row[`old_${one}`]) && text(row[`new_${one}`])))
  )
    return;
  const differing = preview.filter((row) => columns.some((one) => row[`old_${one}`] !== row[`new_${one}`]));
  expect([sql, changing]).toEqual([sql, differing.length]);
}

/** The new values of the preview are those that the rows hold now. */
async function sameValues(engine: Engine, sheet: RehearsalSheet, previews: Row[][]): Promise<void> {
  const check = of(sheet, "check").find(({ title }) => title.startsWith("Before and now"));
  const [preview] = previews;
  if (!check || !preview || preview.length === 0) return;
  if (sheet.reasons.some((reason) => /preview|met several|meets several|without a word|inherit/.test(reason))) return;
  const now = await engine.rows(check.sql);
  for (const name of Object.keys(preview[0]).filter((one) => one.startsWith("new_"))) {
    const was = preview.map((row) => JSON.stringify(row[name])).sort();
    const is = now.map((row) => JSON.stringify(row[`is_${name.slice(4)}`])).sort();
    expect(is).toEqual(was);
  }
}

/** Whether a change goes through a view. */
function throughView({ ripple }: FiredRipple): boolean {
  return ripple.nodes[0].object === "view";
}

const engines = await openEngines();

describe.each(engines)("on %s", async (dialect, open) => {
  const [ddl, written] = schemaOf(dialect);
  const engine = await open(ddl);
  const catalog: Catalog = catalogFromDdl(ddl, { dialect });
  afterAll(() => engine.close());
  const settings = dialect === "sqlite" ? { foreign_keys: "on" } : undefined;
  const statements = [...written, ...(MORE[dialect] ?? [])].filter((sql) =>
    /^(?:UPDATE|DELETE|INSERT|REPLACE|TRUNCATE|WITH)/.test(sql),
  );

  test("generated changes", async () => {
    await fc.assert(
      fc.asyncProperty(changes, async (sql) => {
        const result = review(sql, { dialect, catalog, policy: { settings } });
        const [sheet] = rehearse(result, { date: "20261125" }).sheets;
        await engine.fresh();
        // Some of them are refused: by a key, by a trigger.
        const refused = await undone(engine, sql).then(
          () => false,
          () => true,
        );
        if (refused) return;
        const silent = sheet.reasons.some((reason) => reason.includes("without a word"));
        const changed = result.statements[0].kind === "insert" || silent ? null : await undone(engine, sql);
        const { touched } = await walk(engine, sheet, sql, false);
        if (touched !== null && changed !== null) expect([sql, changed]).toEqual([sql, touched]);
      }),
      { numRuns: 40 },
    );
  }, 120_000);

  test.each(statements)("%s", async (sql) => {
    const result = review(sql, { dialect, catalog, policy: { settings } });
    const { sheets } = rehearse(result, { date: "20261125" });
    expect(sheets.length).toBeGreaterThan(0);
    // A statement that changes several tables has a sheet for each: their restores belong together.
    if (sheets.length > 1) return;
    const [sheet] = sheets;
    await engine.fresh();
    const [{ kind }] = result.statements;
    const through = result.ripples.get(0)?.some(throughView) ?? false;
    const counted =
      (kind === "update" || kind === "delete") && !sheet.reasons.some((reason) => reason.includes("without a word"));
    // What a rule adds is counted by the engine too.
    const changed =
      counted &&
      !result.ripples
        .get(0)
        ?.some(({ ripple }) => ripple.edges.some(({ how }) => how === "rule" || (through && how === "trigger")))
        ? await undone(engine, sql)
        : null;
    const { touched } = await walk(engine, sheet, sql, through);
    if (touched !== null && changed !== null) expect([sql, changed]).toEqual([sql, touched]);
  });
});

describe.each(dialectIds)("the demo scripts of %s", (dialect) => {
  const catalog = catalogFromDdl(demo(`data/${dialect}.sql`), {
    dialect,
    onto: catalogFromDdl(demo(`schema/${dialect}.sql`), { dialect }),
  });
  const own = readdirSync(fileURLToPath(new URL(`../../../demo/scripts/${dialect}`, import.meta.url))).map(
    (name): [string, string] => [name, demo(`scripts/${dialect}/${name}`)],
  );

  test.each(own)("%s: its rehearsal reads back as SQL", (_, text) => {
    const rehearsal = rehearse(review(text, { dialect, catalog }), { date: "20261125" });
    const written = rehearsalText(rehearsal);
    const unread = readScript(written, { dialect }).statements.filter(({ kind }) => kind === "unread");
    // What the script itself has and nobody can read stays as it is.
    expect(unread.map(({ start, end }) => written.slice(start, end)).filter((one) => !text.includes(one))).toEqual([]);
    for (const sheet of rehearsal.sheets) {
      const purposes = sheet.queries.map(({ purpose }) => purpose);
      expect(purposes.some((one) => one === "guarded" || one === "change" || one === "script")).toBe(true);
      if (purposes.length < 3 && /^(?:update|delete|insert|merge|truncate)$/.test(sheet.kind))
        expect(sheet.reasons.length).toBeGreaterThan(0);
    }
  });
});

describe.each(engines)("the demo scripts on the demo database of %s", async (dialect, open) => {
  const ddl = `${demo(`schema/${dialect}.sql`)}\n${demo(`data/${dialect}.sql`)}`;
  const engine = await open(ddl);
  const catalog = catalogFromDdl(ddl, { dialect });
  afterAll(() => engine.close());
  const scripts = readdirSync(fileURLToPath(new URL(`../../../demo/scripts/${dialect}`, import.meta.url)));

  test.each(scripts)("%s: from the count to the restore, statement by statement", async (name) => {
    const text = demo(`scripts/${dialect}/${name}`);
    const result = review(text, { dialect, catalog });
    const { sheets } = rehearse(result, { date: "20261125" });
    // What the engine refuses has no part in what comes after it, and the review has said so.
    const refused = new Set<number>();
    const until = async (index: number): Promise<void> => {
      await engine.fresh();
      for (const [i, { start, end, kind }] of result.read.slice(0, index).entries())
        if (kind !== "transaction" && kind !== "directive" && kind !== "unread" && !refused.has(i))
          await engine.run(text.slice(start, end));
    };
    for (const sheet of sheets) {
      if (!sheet.queries.some(({ purpose }) => purpose === "count" || purpose === "copy")) continue;
      const { start, end } = result.read[sheet.statement];
      const sql = text.slice(start, end);
      await until(sheet.statement);
      const taken = await undone(engine, sql).then(
        () => true,
        () => false,
      );
      if (!taken) {
        refused.add(sheet.statement);
        const foreseen = result.findings.filter(({ statement }) => statement === sheet.statement);
        expect(foreseen.map(({ hazard }) => hazard)).toContain("reference-blocks");
        continue;
      }
      await until(sheet.statement);
      await walk(engine, sheet, sql, result.ripples.get(sheet.statement)?.some(throughView) ?? false);
    }
  });
});

/** Engines that do not run here: what is written is read back, and compared with the text that people have looked at. */
const ELSEWHERE: [DialectId, string][] = [
  [
    "tsql",
    "UPDATE m SET m.fee = m.fee * 1.1 FROM mooring m INNER JOIN vessel v ON v.vessel_id = m.vessel_id WHERE v.class = 'sail'",
  ],
  ["plsql", "DELETE FROM mooring WHERE status = 'cancelled'"],
  ["jet", "UPDATE mooring SET fee = fee * 1.1 WHERE status = 'planned'"],
];

test.each(ELSEWHERE)("the rehearsal in %s", async (dialect, sql) => {
  const catalog = catalogFromDdl(demo(`data/${dialect}.sql`), {
    dialect,
    onto: catalogFromDdl(demo(`schema/${dialect}.sql`), { dialect }),
  });
  const text = rehearsalText(rehearse(review(sql, { dialect, catalog }), { date: "20261125" }));
  expect(readScript(text, { dialect }).problems).toEqual([]);
  await expect(text).toMatchFileSnapshot(`rehearsal/${dialect}.sql`);
});
