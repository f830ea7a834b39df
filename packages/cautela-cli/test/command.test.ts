import { spawnSync } from "node:child_process";
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { describe, expect, test } from "vitest";
import { mariadbUrl, ownName, postgresUrl } from "../../cautela/test/engines.ts";

const database = ownName("measure");

const root = fileURLToPath(new URL("../../..", import.meta.url));
const mariadb = await mariadbUrl();
const postgres = await postgresUrl();
const folder = mkdtempSync(join(tmpdir(), "cautela-test-"));

function cautela(args: string[], input = "", env: Record<string, string> = {}) {
  const run = spawnSync(process.execPath, [join(root, "packages/cautela-cli/bin/cautela.cjs"), ...args], {
    input,
    encoding: "utf8",
    cwd: root,
    env: { ...process.env, ...env },
  });
  return { status: run.status, out: run.stdout, err: run.stderr };
}

function file(name: string, content: string | Uint8Array): string {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
}

test("an unfiltered delete from standard input stops", () => {
  const { status, out } = cautela(["review", "-", "--dialect", "postgresql", "--format", "json"], "DELETE FROM berth;");
  expect(status).toBe(1);
  expect(JSON.parse(out)).toMatchObject({ format: "cautela.review", version: 1, verdict: "stop" });
});

test("the same with a filter does not", () => {
  const { status, out } = cautela(["review", "-", "--format", "json"], "DELETE FROM berth WHERE berth_id = 3;");
  expect(status).toBe(0);
  expect(JSON.parse(out).scripts[0].findings.map((one: { weight: string }) => one.weight)).toEqual(["note"]);
});

test("a catalog of several files, an output file and a threshold", () => {
  const first = file("a.sql", "CREATE TABLE berth (berth_id int PRIMARY KEY);");
  const second = file("b.sql", "ALTER TABLE berth ADD COLUMN code int NOT NULL;");
  const script = file("change.sql", "DELETE FROM berth WHERE code IS NULL;");
  const output = join(folder, "result.json");
  const args = ["review", script, "--catalog", first, "--catalog", second, "--format", "json", "--output", output];
  const { out, ...rest } = cautela(args);
  expect(rest).toEqual({ status: 0, err: "" });
  expect(readFileSync(output, "utf8")).toBe(out);
  expect(JSON.parse(out).scripts[0].findings[0].hazard).toBe("dead-filter");
  expect(cautela([...args, "--fail-on", "ask"]).status).toBe(1);
});

test("a folder: its scripts in the order of their numbers, without what is ignored or linked", () => {
  const changes = join(folder, "changes");
  for (const name of ["later", "build", ".git"]) mkdirSync(join(changes, name), { recursive: true });
  const put = (name: string, sql: string): void => writeFileSync(join(changes, name), sql);
  put("10_reach.sql", "ALTER TABLE crane ADD COLUMN reach int;");
  put("2_crane.sql", "CREATE TABLE crane (crane_id int PRIMARY KEY);");
  put("2_crane.undo.sql", "DROP TABLE crane;");
  put("build/made.sql", "DROP TABLE crane;");
  put("later/1_fill.sql", "UPDATE crane SET rech = 3 WHERE crane_id = 1;");
  put(".gitignore", "build/\n");
  symlinkSync(changes, join(changes, "later", "round"));
  const { status, out } = cautela(["review", changes, "--dialect", "postgresql", "--format", "json"]);
  const { scripts } = JSON.parse(out);
  const own = scripts.map(({ path }: { path: string }) => path.slice(changes.length + 1));
  expect(own).toEqual(["2_crane.sql", "2_crane.undo.sql", "10_reach.sql", join("later", "1_fill.sql")]);
  expect(scripts[3].findings.map(({ hazard }: { hazard: string }) => hazard)).toEqual(["unknown-name"]);
  expect(status).toBe(1);
});

test.each([
  ["no such file", ["review", "nowhere.sql"], "cannot read nowhere.sql: there is no such file"],
  ["a folder without scripts", ["review", "scripts"], "scripts holds no SQL script"],
  ["an unknown dialect", ["review", "-", "--dialect", "klingon"], "it is one of postgresql, mysql"],
  [
    "an unknown format",
    ["review", "-", "--format", "xml"],
    "Allowed choices are text, json, sarif, junit, markdown, html.",
  ],
  ["an unknown hazard", ["hazards", "no-such"], "there is no hazard no-such"],
  ["an unknown command", ["revue"], "unknown command"],
  ["a catalog without tables", ["review", "-", "--catalog", "README.md"], "no table was found in README.md"],
  ["an output that cannot be written", ["review", "-", "--output", "/nowhere/x"], "cannot write /nowhere/x"],
])("%s: one clear line and status 2", (_, args, message) => {
  const { status, out, err } = cautela(args);
  expect(status).toBe(2);
  expect(out).toBe("");
  expect(err).toContain(message);
  expect(err).not.toMatch(/\n\s+at /);
});

test("invalid UTF-8 is read as Latin-1, with a word about it", () => {
  const script = file("latin.sql", Buffer.from("SELECT 1;\nDELETE FROM k\xe4se;", "latin1"));
  const { status, out, err } = cautela(["review", script]);
  expect(status).toBe(1);
  expect(err).toContain("line 2 is not UTF-8");
  expect(out).toContain("`käse`");
});

test("UTF-16 with a byte-order mark, CRLF, and an empty file", () => {
  const utf16 = file("utf16.sql", Buffer.from("\uFEFFSELECT 1;\r\nDELETE FROM a;\r\n", "utf16le"));
  expect(cautela(["review", utf16]).out).toContain("line 2, column 1");
  expect(cautela(["review", file("empty.sql", "")])).toMatchObject({ status: 0, err: "" });
});

test("colour only on a terminal, and not with NO_COLOR", () => {
  const plain = cautela(["demo"]).out;
  expect(plain).not.toContain("\u001b[");
  const script = (env: string) =>
    spawnSync("script", ["-qec", `${env} ${process.execPath} packages/cautela-cli/bin/cautela.cjs demo`, "/dev/null"], {
      cwd: root,
      encoding: "utf8",
      env: { ...process.env, TERM: "xterm", NO_COLOR: "" },
    });
  const coloured = script("");
  if (coloured.error) return;
  expect(coloured.stdout).toContain("\u001b[");
  expect(script("NO_COLOR=1").stdout).not.toContain("\u001b[");
});

test("trace shows what a statement writes besides what it names", () => {
  const catalog = ["--catalog", "demo/schema/postgresql.sql", "--catalog", "demo/data/postgresql.sql"];
  const script = "demo/scripts/postgresql/09-through-the-view.sql";
  const { status, out, err } = cautela(["trace", script, ...catalog]);
  expect([status, err]).toEqual([0, ""]);
  expect(out).toMatch(/public\.open_berth {2}view\n/);
  expect(out).toMatch(/public\.mooring_log {2}adds rows[^\n]*\n *by trigger mooring_audit/);
  const second = JSON.parse(cautela(["trace", script, "--statement", "2", "--format", "json", ...catalog]).out);
  expect(second.statements.map((one: { line: number }) => one.line)).toEqual([7]);
  expect(cautela(["trace", script, "--format", "mermaid", ...catalog]).out).toContain(
    'n3 -->|"trigger mooring_audit"| n4',
  );
  expect(cautela(["trace", script, "--statement", "9", ...catalog])).toMatchObject({ status: 2, out: "" });
  expect(cautela(["trace", script, "--statement", "0", ...catalog]).status).toBe(2);
  expect(cautela(["trace", script]).err).toContain("no catalog was given");
});

const harbour = ["--catalog", "demo/schema/postgresql.sql", "--catalog", "demo/data/postgresql.sql"];

test("rehearse writes the queries of each phase, as text, into files, as Markdown and JSON", () => {
  const script = "demo/scripts/postgresql/02-raise-all-fees.sql";
  const { status, out, err } = cautela(["rehearse", script, "--date", "20261125", ...harbour]);
  expect([status, err]).toEqual([0, ""]);
  expect(out).toContain("CREATE TABLE mooring_before_20261125 AS");
  expect(out).toContain("mooring.fee AS old_fee");
  const folder = join(mkdtempSync(join(tmpdir(), "cautela-")), "sheet");
  expect(cautela(["rehearse", script, "--output", folder, ...harbour]).status).toBe(0);
  expect(readdirSync(folder)).toEqual([
    "02-raise-all-fees.1-before.sql",
    "02-raise-all-fees.2-change.sql",
    "02-raise-all-fees.3-after.sql",
    "02-raise-all-fees.4-restore.sql",
  ]);
  const second = JSON.parse(cautela(["rehearse", script, "--statement", "2", "--format", "json", ...harbour]).out);
  expect(second.sheets.map((one: { target: string }) => one.target)).toEqual(["public.pilotage"]);
  expect(cautela(["rehearse", script, "--format", "markdown", ...harbour]).out).toContain("### RESTORE");
});

test("a policy file softens, weighs, and names copies; a wrong one is told by its place", () => {
  const policy = file(
    "policy.yaml",
    "tables:\n  berth: scratch\nweights:\n  no-way-back: off\nbackup:\n  name: 'keep_{table}_{date}'\n",
  );
  const script = file("clear.sql", "DELETE FROM berth;\nDELETE FROM mooring WHERE mooring_id = 3;");
  const { status, out } = cautela(["review", script, "--policy", policy, "--format", "json", ...harbour]);
  expect(status).toBe(0);
  expect(JSON.parse(out).scripts[0].findings.map((one: { hazard: string }) => one.hazard)).not.toContain("no-way-back");
  expect(cautela(["rehearse", script, "--policy", policy, "--date", "1", ...harbour]).out).toContain("keep_mooring_1");
  for (const [text, message] of [
    ["tabels: {}", "tabels is not known here; did you mean tables?"],
    ["weights: { every-row: heavy }", "weights.every-row: must be one of"],
    ["backup: { name: copy }", "{table} is missing"],
    ["tables: [", "Flow sequence"],
  ]) {
    const { status: bad, err } = cautela(["review", script, "--policy", file("bad.yaml", text)]);
    expect([bad, err]).toEqual([2, expect.stringContaining(message)]);
  }
});

test("measure counts on a database, compares with what is expected, and runs nothing that could write", async () => {
  const { default: init } = await import("sql.js");
  const { Database } = await init();
  const database = new Database();
  database.exec(
    "CREATE TABLE berth (berth_id INTEGER PRIMARY KEY, code text); INSERT INTO berth (code) VALUES ('a'), ('b'), ('c')",
  );
  const path = file("harbour.db", Buffer.from(database.export()));
  const script = file(
    "count.sql",
    "-- cautela: expect 2 rows\nUPDATE berth SET code = 'b' WHERE code IN ('a', 'b');\n-- cautela: expect at most 1 row\nDELETE FROM berth;\nDELETE FROM berth WHERE load_extension(code) = 1;",
  );
  const { status, out } = cautela(["measure", script, "--catalog", path]);
  expect(status).toBe(1);
  expect(out).toMatch(/line +2 {2}update of berth: 2 rows, 1 row really change, expected 2 rows {2}as expected/);
  expect(out).toMatch(/line +4 {2}delete of berth: 3 rows, expected at most 1 row {2}■ another number/);
  expect(out).toContain("not run: what load_extension does is not known");
  const one = cautela(["measure", script, "--statement", "1", "--catalog", path, "--format", "json"]);
  expect(one.status).toBe(0);
  expect(JSON.parse(one.out).measured).toMatchObject([{ line: 2, touched: 2, changed: 1, met: true }]);
  const capped = cautela(["measure", script, "--statement", "2", "--catalog", path, "--rows", "2"]).out;
  expect(capped).toContain("more than 2 rows: not counted to the end");
  expect(cautela(["measure", script, "--catalog", "demo/schema/sqlite.sql"])).toMatchObject({ status: 2 });
});

test.runIf(postgres)("measure on a PostgreSQL server reads in a transaction that cannot write", async () => {
  const { default: pg } = await import("pg");
  const client = new pg.Client(postgres ?? "");
  await client.connect();
  try {
    await client.query(`DROP SCHEMA IF EXISTS ${database} CASCADE; CREATE SCHEMA ${database}`);
    await client.query(
      `SET search_path = ${database}; CREATE TABLE berth (berth_id integer PRIMARY KEY, code text); INSERT INTO berth SELECT n, 'c' || n FROM generate_series(1, 12) n; CREATE FUNCTION bump(p text) RETURNS boolean LANGUAGE plpgsql AS $$ BEGIN DELETE FROM berth; RETURN true; END $$`,
    );
    const url = new URL(postgres ?? "");
    url.searchParams.set("options", `-c search_path=${database}`);
    const script = file(
      "server.sql",
      "-- cautela: expect 12 rows\nUPDATE berth SET code = 'x' WHERE code LIKE 'c%';\nDELETE FROM berth WHERE bump(code);",
    );
    const { status, out } = cautela(["measure", script, "--catalog", url.href]);
    expect([status, out]).toEqual([0, expect.stringContaining("12 rows, expected 12 rows  as expected")]);
    expect(out).toContain("may write");
    expect((await client.query("SELECT count(*)::int AS n FROM berth")).rows).toEqual([{ n: 12 }]);
  } finally {
    await client.query(`DROP SCHEMA IF EXISTS ${database} CASCADE`);
    await client.end();
  }
});

test.runIf(mariadb)("measure on a MariaDB server", async () => {
  const { default: mysql } = await import("mysql2/promise");
  const connection = await mysql.createConnection({ uri: mariadb ?? "", multipleStatements: true });
  try {
    await connection.query(
      `DROP DATABASE IF EXISTS ${database}; CREATE DATABASE ${database}; USE ${database}; CREATE TABLE berth (berth_id int PRIMARY KEY, code varchar(9)); INSERT INTO berth VALUES (1, 'a'), (2, 'b')`,
    );
    const url = new URL(mariadb ?? "");
    url.pathname = `/${database}`;
    const script = file("maria.sql", "-- cautela: expect 1 row\nUPDATE berth SET code = 'a' WHERE berth_id > 0;");
    const { status, out } = cautela(["measure", script, "--catalog", url.href]);
    expect([status, out]).toEqual([1, expect.stringContaining("2 rows, 1 row really change, expected 1 row")]);
  } finally {
    await connection.query(`DROP DATABASE IF EXISTS ${database}`);
    await connection.end();
  }
});

test("the demo and the hazards speak", () => {
  expect(cautela(["demo"])).toMatchObject({ status: 0, err: "" });
  expect(cautela(["hazards"]).out).toMatch(/■ stop {2}every-row/);
  expect(cautela(["hazards", "every-row"]).out).toContain("UPDATE berth SET depth_m = 4.5;");
  expect(cautela(["--help"]).status).toBe(0);
});

describe("what was compiled is kept in the user's cache folder", () => {
  const home = mkdtempSync(join(tmpdir(), "cautela-cache-"));
  const kept = join(home, "cautela/code");
  const run = (more = {}) =>
    cautela(["review", "-"], "DELETE FROM berth;", {
      XDG_CACHE_HOME: home,
      CI: "",
      NODE_DISABLE_COMPILE_CACHE: "",
      ...more,
    });
  const plain = run({ NODE_DISABLE_COMPILE_CACHE: "1" });
  // Node does it by itself from 22.1 on.
  const ours = test.skipIf(Number.parseInt(process.versions.node, 10) >= 22);

  ours("for this user alone, and starts give the same with it", () => {
    expect(existsSync(kept)).toBe(false);
    expect(run()).toEqual(plain);
    const [file] = readdirSync(kept);
    expect(statSync(join(kept, file)).mode & 0o777).toBe(0o600);
    expect(run()).toEqual(plain);
  });

  ours.each([
    ["it is spoilt", (path: string) => writeFileSync(path, "not code")],
    ["it is cut", (path: string) => writeFileSync(path, readFileSync(path).subarray(0, 5000))],
    ["others can write it", (path: string) => chmodSync(path, 0o666)],
  ])("and made again when %s", (_, spoil) => {
    const path = join(kept, readdirSync(kept)[0]);
    spoil(path);
    expect(run()).toEqual(plain);
    expect(readdirSync(kept)).toHaveLength(1);
    expect([statSync(path).mode & 0o777, statSync(path).size > 100_000]).toEqual([0o600, true]);
  });

  ours("not where the folder cannot be made, nor on a machine of a pipeline", () => {
    expect(run({ XDG_CACHE_HOME: file("no-folder", "") })).toEqual(plain);
    const elsewhere = mkdtempSync(join(tmpdir(), "cautela-cache-"));
    expect(run({ XDG_CACHE_HOME: elsewhere, CI: "true" })).toEqual(plain);
    expect(readdirSync(elsewhere)).toEqual([]);
  });
});

test("a long script from a pipe is read piece by piece, its bytes as its beginning has them", () => {
  const many = "INSERT INTO berth VALUES (1, 'käse');\n".repeat(450_000);
  const { status, out, err } = cautela(["review", "-"], `${many}DELETE FROM berth;\n`);
  expect([status, err]).toEqual([1, ""]);
  expect(out).toMatch(/line 450001, column 1/);
  const latin = Buffer.from(`${many}DELETE FROM käse;\n`, "latin1");
  const read = spawnSync(process.execPath, [join(root, "packages/cautela-cli/bin/cautela.cjs"), "review", "-"], {
    input: latin,
    encoding: "utf8",
  });
  expect(read.stderr).toBe("cautela: standard input: not all of it is UTF-8; it is read as Latin-1\n");
  expect(read.stdout).toContain("käse");
});
