import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { expect, test } from "vitest";

const root = fileURLToPath(new URL("../../..", import.meta.url));
const folder = mkdtempSync(join(tmpdir(), "cautela-test-"));

function cautela(args: string[], input = "", env: Record<string, string> = {}) {
  const run = spawnSync(process.execPath, [join(root, "packages/cautela-cli/bin/cautela.js"), ...args], {
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
  expect(cautela(args)).toEqual({ status: 0, out: "", err: "" });
  expect(JSON.parse(readFileSync(output, "utf8")).scripts[0].findings[0].hazard).toBe("dead-filter");
  expect(cautela([...args, "--fail-on", "ask"]).status).toBe(1);
});

test.each([
  ["no such file", ["review", "nowhere.sql"], "cannot read nowhere.sql: there is no such file"],
  ["a directory", ["review", "demo"], "demo is a directory"],
  ["an unknown dialect", ["review", "-", "--dialect", "klingon"], "it is one of postgresql, mysql"],
  ["an unknown format", ["review", "-", "--format", "xml"], "it is one of text, json"],
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
    spawnSync("script", ["-qec", `${env} ${process.execPath} packages/cautela-cli/bin/cautela.js demo`, "/dev/null"], {
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

test("the demo and the hazards speak", () => {
  expect(cautela(["demo"])).toMatchObject({ status: 0, err: "" });
  expect(cautela(["hazards"]).out).toMatch(/■ stop {2}every-row/);
  expect(cautela(["hazards", "every-row"]).out).toContain("UPDATE berth SET depth_m = 4.5;");
  expect(cautela(["--help"]).status).toBe(0);
});
