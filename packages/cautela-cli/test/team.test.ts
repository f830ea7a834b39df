import { execFileSync, spawn, spawnSync } from "node:child_process";
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { fileURLToPath } from "node:url";
import { afterAll, beforeEach, describe, expect, test } from "vitest";

// The command in a team's pipeline: folders, policies, what has changed, baselines, long runs.

const command = fileURLToPath(new URL("../bin/cautela.cjs", import.meta.url));
const all = mkdtempSync(join(tmpdir(), "cautela-team-"));
let folder: string;
let count = 0;

beforeEach(() => {
  folder = join(all, String(++count));
  mkdirSync(folder);
});
afterAll(() => rmSync(all, { recursive: true, force: true }));

function put(files: Record<string, string>): void {
  for (const [name, text] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), text);
  }
}

function cautela(...args: string[]) {
  const run = spawnSync(process.execPath, [command, ...args], {
    cwd: folder,
    encoding: "utf8",
    input: "",
    maxBuffer: 1 << 28,
  });
  return { status: run.status, out: run.stdout, err: run.stderr };
}

interface Found {
  path: string;
  verdict: string;
  findings: { hazard: string; weight: string; message: string; because: string[] }[];
}

/** What is found in scripts, in the JSON form. */
function found(...args: string[]): Found[] {
  const { out, err } = cautela("review", ...args, "--format", "json");
  if (out === "") throw new Error(err);
  return JSON.parse(out).scripts;
}

const hazardsOf = (script: Found | undefined): string[] => script?.findings.map(({ hazard }) => hazard) ?? [];

const git = (...args: string[]): string =>
  execFileSync("git", ["-c", "user.name=Harbour", "-c", "user.email=office@harbour.example", ...args], {
    cwd: folder,
    encoding: "utf8",
    stdio: "pipe",
  });

const CRANES = {
  "db/1_crane.sql": "CREATE TABLE crane (crane_id int PRIMARY KEY, name text);\n",
  "db/2_reach.sql": "ALTER TABLE crane ADD COLUMN reach int;\n",
  "db/2_reach.undo.sql": "ALTER TABLE crane DROP COLUMN reach;\n",
  "db/10_fill.sql": "UPDATE crane SET reach = 3 WHERE crane_id = 1;\n",
};

describe("folders", () => {
  test("each is a change set of its own, what undoes others follows its partner, and nothing is reviewed twice", () => {
    put({ ...CRANES, "other/1_crane.sql": "UPDATE crane SET reach = 1 WHERE crane_id = 2;" });
    const scripts = found("db", "other", "./db/../db/1_crane.sql", "--dialect", "postgresql");
    expect(scripts.map(({ path }) => path)).toEqual([
      "db/1_crane.sql",
      "db/2_reach.sql",
      "db/2_reach.undo.sql",
      "db/10_fill.sql",
      "other/1_crane.sql",
    ]);
    expect(scripts.map(({ verdict }) => verdict)).not.toContain("stop");
  });

  test("in a folder, those that differ in numbers alone follow each other; others know nothing of each other", () => {
    const table = "CREATE TABLE crane (crane_id int PRIMARY KEY);";
    put({
      "db/0_port.sql": "CREATE TABLE port (port_id int PRIMARY KEY);",
      "db/north/v1.9/1.sql": table,
      "db/north/v1.10/1.sql": "UPDATE crane SET nme = 1 WHERE crane_id = 1;",
      "db/south/1.sql": `${table}\nUPDATE port SET nme = 1 WHERE port_id = 1;`,
    });
    const scripts = found("db", "--dialect", "postgresql");
    expect(scripts.map(({ path }) => path)).toEqual([
      "db/0_port.sql",
      "db/north/v1.9/1.sql",
      "db/north/v1.10/1.sql",
      "db/south/1.sql",
    ]);
    expect(scripts.map(hazardsOf)).toEqual([[], [], ["unknown-name"], ["unknown-name"]]);
  });

  test.each([
    ["by its ending", "2_reach.undo.sql", "2_reach.sql"],
    ["by its folder", "undo/2_reach.down.sql", "do/2_reach.up.sql"],
    ["by the policy", "back/U2_reach.sql", "2_reach.sql"],
  ])("a script that undoes another is found %s, and what it does not bring back is said", (_, undo, script) => {
    put({
      [`db/${script}`]:
        "CREATE TABLE crane (crane_id int);\nALTER TABLE pilot ADD COLUMN mail text;\nDROP TABLE tariff_notice;",
      [`db/${undo}`]: "DROP TABLE crane;",
      ...(undo.startsWith("back") ? { "cautela.policy.yaml": "scripts:\n  undo: ['back/*']\n" } : {}),
      "schema.sql": "CREATE TABLE pilot (pilot_id int PRIMARY KEY);\nCREATE TABLE tariff_notice (notice_id int);",
    });
    if (undo.startsWith("back")) renameSync(join(folder, "db", undo), join(folder, "db/back/2_reach.sql"));
    const scripts = found("db", "--dialect", "postgresql", "--catalog", "schema.sql");
    const [gap] = scripts[1].findings.filter(({ hazard }) => hazard === "undo-gap");
    expect(gap.message).toMatch(/column `mail` .* `public\.pilot`|`public\.tariff_notice`/);
  });

  test("what undoes a script that is not there is named, and not run", () => {
    put({ "db/1_a.sql": "SELECT 1;", "db/7_gone.down.sql": "DROP TABLE crane;" });
    const { err, status } = cautela("review", "db");
    expect(err).toContain("not there: db/7_gone.down.sql");
    expect(status).toBe(0);
  });

  test("of a script that holds both directions only the first half is rehearsed", () => {
    const script =
      "-- up\nUPDATE crane SET reach = 3 WHERE crane_id = 1;\n-- down\nUPDATE crane SET reach = 2 WHERE crane_id = 1;\n";
    put({ "1.sql": script });
    expect(cautela("rehearse", "1.sql").out).not.toMatch(/line 4|reach = 2/);
    const { stdout } = spawnSync(process.execPath, [command, "review", "-", "--format", "json"], {
      input: script,
      encoding: "utf8",
    });
    expect(JSON.parse(stdout).scripts).toHaveLength(2);
  });

  test("versions have their undo beside them, and what is made again runs last", () => {
    put({
      "db/V1__crane.sql": "CREATE TABLE crane (crane_id int PRIMARY KEY);",
      "db/V2__reach.sql": "ALTER TABLE crane ADD COLUMN reach int;",
      "db/U2__reach.sql": "SELECT 1;",
      "db/V10__fill.sql": "UPDATE crane SET reach = 3 WHERE crane_id = 1;",
      "db/R__long_cranes.sql": "CREATE OR REPLACE VIEW long_crane AS SELECT crane_id FROM crane WHERE reach > 30;",
    });
    const scripts = found("db", "--dialect", "postgresql");
    expect(scripts.map(({ path }) => path.slice(3))).toEqual([
      "V1__crane.sql",
      "V2__reach.sql",
      "U2__reach.sql",
      "V10__fill.sql",
      "R__long_cranes.sql",
    ]);
    expect(scripts.map(hazardsOf)).toEqual([[], [], ["undo-gap"], [], []]);
  });

  test("an index gives the order, whichever way it names scripts", () => {
    put({
      "cautela.policy.yaml": "scripts: { index: db/order.txt }",
      "db/order.txt": "# first the table\n\\i b.sql\n- 'c.sql'\na.sql\n",
      "db/a.sql": "SELECT 1;",
      "db/b.sql": "SELECT 1;",
      "db/c.sql": "SELECT 1;",
      "db/d.sql": "SELECT 1;",
    });
    expect(found("db").map(({ path }) => path)).toEqual(["db/b.sql", "db/c.sql", "db/a.sql", "db/d.sql"]);
    expect(cautela("review", "db").err).toContain("reviewed last: db/d.sql");
    put({ "db/order.txt": "\n@gone.sql\n" });
    expect(cautela("review", "db")).toMatchObject({
      status: 2,
      err: "cautela: db/order.txt:2: there is no script gone.sql\n",
    });
  });

  test("scripts of another dialect or catalog are a change set of their own", () => {
    put({
      "cautela.policy.yaml":
        "rules:\n  - scripts: mine/*\n    dialect: mysql\n    catalog: mine.sql\n  - scripts: theirs/*\n    dialect: tsql\n",
      "mine.sql": "CREATE TABLE berth (berth_id int PRIMARY KEY, code varchar(9));",
      "db/mine/1_a.sql": "UPDATE berth SET code = 'a' || 'b' WHERE berth_id = 3;",
      "db/theirs/1_a.sql": "DELETE berth WHERE berth_id = 3\nGO\n",
    });
    const scripts = JSON.parse(cautela("review", "db", "--format", "json").out).scripts;
    expect(scripts.map(({ dialect }: { dialect: string }) => dialect)).toEqual(["mysql", "tsql"]);
    expect(JSON.stringify(scripts[0].unchecked)).not.toContain("no catalog");
    // Seen from another folder it is the same.
    const inside = spawnSync(process.execPath, [command, "review", "mine", "--format", "json"], {
      cwd: join(folder, "db"),
      encoding: "utf8",
    });
    expect(JSON.parse(inside.stdout).scripts[0].findings).toEqual(scripts[0].findings);
  });
});

describe("policy", () => {
  test("nearer ones refine farther ones, and each entry has its file and line", () => {
    put({
      "cautela.policy.yaml":
        "weights:\n  every-row: ask\n  hard-delete: note\nrules:\n  - scripts: db/*\n    weights:\n      weak-filter: stop\n  - tables: import_*\n    weights: { every-row: note }\n",
      "db/cautela.policy.json": '{ "weights": {\n  "hard-delete": "stop" },\n  "one-by-one": ["tariff"] }',
      "db/1.sql": "DELETE FROM berth;",
    });
    expect(cautela("policy", "db/1.sql").out).toBe(`Policy of db/1.sql, from cautela.policy.yaml, db/cautela.policy.json

weights
  every-row: ask                              cautela.policy.yaml:2
  hard-delete: stop                           db/cautela.policy.json:2
  weak-filter: stop                           cautela.policy.yaml:7
one-by-one: tariff                            db/cautela.policy.json:3
rules: tables: import_*, weights: { every-row: note }  cautela.policy.yaml:8
`);
    expect(cautela("review", "db/1.sql").status).toBe(0);
    expect(cautela("review", "db/1.sql", "--policy", "db/cautela.policy.json").status).toBe(1);
  });

  test("a first one is written, changes nothing as it is, and all that it proposes is valid", () => {
    put({ "1.sql": "DELETE FROM berth;" });
    expect(cautela("policy", "--init")).toMatchObject({ status: 0, out: "cautela.policy.yaml\n" });
    expect(cautela("policy", "1.sql").out).toContain("Nothing is in force");
    const proposed = readFileSync(join(folder, "cautela.policy.yaml"), "utf8")
      .split("\n")
      .filter((line) => /^# (?:[a-z-]+:| {2})/.test(line) && !line.includes("$schema"))
      .map((line) => line.slice(2))
      .join("\n");
    put({ "cautela.policy.yaml": proposed, "schema.sql": "CREATE TABLE berth (berth_id int);", "order.txt": "1.sql" });
    const { out } = cautela("policy", "1.sql", "--format", "json");
    const entries: { group: string; line: number }[] = JSON.parse(out).entries;
    for (const group of ["dialect", "weights", "unfiltered-by", "forbidden", "freeze", "row-bounds", "rules"])
      expect(entries.find((entry) => entry.group === group)?.line, group).toBeGreaterThan(0);
    expect(cautela("review", ".", "--date", "2026-12-24").status).toBe(1);
    expect(cautela("policy", "--init")).toMatchObject({ status: 2 });
  });

  test.each([
    ["a key nobody knows", "weigths: {}", "cautela.policy.yaml:1: weigths is not known here; did you mean weights?"],
    ["a hazard nobody knows", "weights:\n  evry-row: note", "cautela.policy.yaml:2: weights: the hazard evry-row"],
    ["a date that is none", "freeze:\n  - because: x\n    from: 2026-02-30", "cautela.policy.yaml:3: freeze[1].from"],
    ["no YAML", "a: [", "cautela.policy.yaml:1: "],
  ])("%s is told by its line", (_, text, message) => {
    put({ "cautela.policy.yaml": text, "1.sql": "SELECT 1;" });
    const { status, out, err } = cautela("review", "1.sql");
    expect([status, out]).toEqual([2, ""]);
    expect(err).toContain(message);
    expect(err.trim().split("\n")).toHaveLength(1);
  });

  test("a freeze is held against the date that is given", () => {
    put({
      "cautela.policy.yaml":
        "freeze:\n  - days: [fri]\n    hours: 14:00-24:00\n    because: Nobody is there on Saturday.\n",
      "1.sql": "UPDATE berth SET code = 'x' WHERE berth_id = 1;",
    });
    expect(hazardsOf(found("1.sql", "--date", "2026-12-04T15:00")[0])).toContain("frozen");
    expect(hazardsOf(found("1.sql", "--date", "2026-12-04T09:00")[0])).not.toContain("frozen");
    expect(cautela("review", "1.sql").out).toContain("no date was given");
  });
});

describe("what has changed since a revision", () => {
  beforeEach(() => {
    git("init", "-q", "-b", "main");
    put(CRANES);
    git("add", ".");
    git("commit", "-qm", "cranes");
    git("checkout", "-qb", "feature");
  });

  test("is reviewed on what the earlier ones have made; what was changed has probably run", () => {
    put({ "db/11_less.sql": "UPDATE crane SET rech = 2 WHERE crane_id = 1;" });
    git("add", ".");
    git("commit", "-qm", "less");
    put({ "db/12_new.sql": "DELETE FROM crane;", "db/2_reach.sql": "ALTER TABLE crane ADD COLUMN reach bigint;\n" });
    const scripts = found("db", "--since", "main", "--dialect", "postgresql");
    expect(scripts.map(({ path }) => path)).toEqual([
      "db/2_reach.sql",
      "db/2_reach.undo.sql",
      "db/11_less.sql",
      "db/12_new.sql",
    ]);
    expect(hazardsOf(scripts[0])).toEqual(["rewritten-script"]);
    expect(hazardsOf(scripts[2])).toEqual(["unknown-name"]);
    expect(hazardsOf(scripts[3])).toContain("every-row");
  });

  test("what the other branch has done meanwhile does not count, nor a script that only the undo of changes", () => {
    git("checkout", "-q", "main");
    put({ "db/9_main.sql": "DELETE FROM crane;" });
    git("add", ".");
    git("commit", "-qm", "main goes on");
    git("checkout", "-q", "feature");
    put({ "db/2_reach.undo.sql": "SELECT 1;\n" });
    const scripts = found("db", "--since", "main", "--dialect", "postgresql");
    expect(scripts.map(({ path }) => path)).toEqual(["db/2_reach.undo.sql"]);
    expect(hazardsOf(scripts[0])).toEqual(["undo-gap"]);
    git("mv", "db/10_fill.sql", "db/13_fill.sql");
    const renamed = found("db", "--since", "main", "--dialect", "postgresql").at(-1);
    expect(renamed?.findings[0].because[0]).toBe("at main it stood in the repository as db/10_fill.sql");
  });

  test("as a hook, before a push", () => {
    put({
      ".git/hooks/pre-push": `#!/bin/sh\ncd db && "${process.execPath}" "${command}" review . --since main --dialect postgresql`,
      "db/11_new.sql": "DELETE FROM crane;\n",
    });
    chmodSync(join(folder, ".git/hooks/pre-push"), 0o755);
    git("add", ".");
    git("commit", "-qm", "new");
    git("init", "-q", "--bare", "../far.git");
    expect(() => git("push", "-q", "../far.git", "feature")).toThrow(/failed to push/);
    put({ "db/11_new.sql": "DELETE FROM crane WHERE crane_id = 1;\n" });
    git("push", "-q", "../far.git", "feature");
  });

  test("nothing new: nothing is reviewed", () => {
    expect(found("db", "--since", "HEAD")).toEqual([]);
    expect(cautela("review", "db", "--since", "HEAD")).toMatchObject({ status: 0 });
  });
});

describe("a baseline", () => {
  const old = { "db/1_old.sql": "DELETE FROM pilot;\nUPDATE berth SET code = 'x';\n" };

  test("keeps what is there, and is not asked about it again where it is moved or laid out anew", () => {
    put(old);
    expect(cautela("review", "db", "--write-baseline", "kept.json")).toMatchObject({ status: 0, out: "" });
    put({
      "db/1_old.sql": "-- moved\nUPDATE berth\n   SET code = 'x';\n\nDELETE FROM pilot -- all\n;",
      "db/2_new.sql": "DELETE FROM crane;",
    });
    const { status, out } = cautela("review", "db", "--baseline", "kept.json");
    expect(status).toBe(1);
    expect(out).toMatch(/1_old\.sql .*: clear, nothing found, \d in the\s+baseline/);
    expect(out).toContain("deletes all rows of `crane`");
    put({ "db/2_new.sql": "SELECT 1;" });
    expect(cautela("review", "db", "--baseline", "kept.json").status).toBe(0);
  });

  test("what is gone is listed and dropped; of scripts that were not reviewed it keeps all", () => {
    put({ ...old, "more/1.sql": "DELETE FROM crane;" });
    cautela("review", "db", "more", "--write-baseline", "kept.json");
    put({ "db/1_old.sql": "UPDATE berth SET code = 'x';\n" });
    expect(cautela("review", "db", "--baseline", "kept.json").err).toMatch(
      /kept\.json holds 1 finding that is no longer there .*\ncautela: {3}every-row, db\/1_old\.sql line 1/,
    );
    expect(cautela("review", "db", "--write-baseline", "kept.json").err).toMatch(/dropped 1 finding that is no longer/);
    expect(cautela("review", "db", "more", "--baseline", "kept.json").status).toBe(0);
  });
});

test.each<[string, string[], string]>([
  ["a folder that is no repository", ["db", "--since", "main"], "db is in no git repository, which --since asks"],
  ["a baseline of a newer version", ["db", "--baseline", "new.json"], "new.json: it is a baseline of version 2"],
  ["a baseline that is none", ["db", "--baseline", "db/1_crane.sql"], "db/1_crane.sql: this is no baseline"],
  ["an output that cannot be written", ["db", "--output", "a.md", "--output", "no/b.sarif"], "cannot write no/b.sarif"],
  ["an output twice", ["db", "--output", "a.md", "--output", "./a.md"], "--output ./a.md is given twice"],
  ["a baseline beside it", ["db", "--write-baseline", "b.json", "--output", "no/b.sarif"], "cannot write no/b.sarif"],
  ["a baseline that is watched", ["db", "--write-baseline", "b.json", "--watch"], "--watch goes on"],
  ["a folder without scripts", ["empty"], "empty holds no SQL script"],
  ["a part of a baseline", ["db", "--since", "main", "--write-baseline", "x"], "--since leaves some out"],
])("%s: one line, status 2, nothing written", (_, args, message) => {
  put({ ...CRANES, "new.json": '{"format":"cautela.baseline","version":2,"findings":[]}', "empty/x.txt": "" });
  const before = readdirSync(folder);
  const { status, out, err } = cautela("review", ...args, "--dialect", "postgresql");
  expect([status, out, err.trim().split("\n").length]).toEqual([2, "", 1]);
  expect(err).toContain(message);
  expect(readdirSync(folder)).toEqual(before);
});

test("a script of a folder that cannot be read is named, and the others are reviewed", () => {
  put({ "db/1.sql": "DELETE FROM crane;", "db/2.sql": "\u0000\u0001" });
  const { status, out, err } = cautela("review", "db");
  expect([status, err]).toEqual([2, "cautela: db/2.sql is no text: it holds NUL bytes\n"]);
  expect(out).toContain("every-row");
});

test("a revision that does not exist", () => {
  put(CRANES);
  git("init", "-q");
  for (const revision of ["no-such", "-x", ""])
    expect(cautela("review", "db", "--since", revision)).toMatchObject({ status: 2, out: "" });
});

test("the ending of an output names its form, standard output has its own", () => {
  put(CRANES);
  const outputs = ["r.json", "r.sarif", "r.xml", "r.md", "r.html", "r.txt", "plain"];
  const { out } = cautela("review", "db", "--format", "markdown", ...outputs.flatMap((name) => ["--output", name]));
  const begins = (name: string): string => readFileSync(join(folder, name), "utf8").slice(0, 12);
  expect([out.slice(0, 12), ...outputs.map(begins)]).toEqual([
    "## · Clear\n\n",
    '{\n  "format"',
    '{\n  "$schema',
    "<?xml versio",
    "## · Clear\n\n",
    "<!doctype ht",
    "db/1_crane.s",
    "## · Clear\n\n",
  ]);
});

describe("long runs", () => {
  // Threads begin at some size, which comments have as well.
  const comment = `-- ${"long ".repeat(100)}\n`;
  const many = (tables: number): string =>
    Array.from(
      { length: tables },
      (_, i) => `${comment}DELETE FROM t${i} WHERE a = ${i};\nUPDATE t${i} SET b = 1;\n`,
    ).join("");
  const long = { "a/1.sql": many(400), "a/2.sql": many(400), "b/1.sql": many(400) };

  test("in threads the output is the same, and in the same order", () => {
    put(long);
    const together = cautela("review", "b", "a", "--dialect", "postgresql", "--format", "json");
    const apart = ["b", "a"].map((one) => found(one, "--dialect", "postgresql"));
    expect(JSON.parse(together.out).scripts).toEqual(apart.flat());
    expect(together.err).toBe("");
  });

  test.each(["a thread", "this thread"])(
    "Ctrl-C ends it at once, while %s works, and leaves no half file",
    async (where) => {
      put(where === "a thread" ? long : { "a/1.sql": "SELECT 1;" });
      const paths = where === "a thread" ? ["a", "b"] : ["-"];
      const run = spawn(
        "bash",
        ["-c", `"${process.execPath}" "${command}" review ${paths.join(" ")} --output r.html; exit $?`],
        {
          cwd: folder,
          detached: true,
        },
      );
      const ended = new Promise<number | null>((resolve) => run.on("exit", resolve));
      await wait(1500);
      process.kill(-(run.pid ?? 0), "SIGINT");
      expect(await Promise.race([ended, wait(3000)])).toBe(130);
      expect(readdirSync(folder).filter((name) => /html|part/.test(name))).toEqual([]);
    },
  );

  test("watching: what changes is reviewed again, and only that is shown", async () => {
    put(CRANES);
    const run = spawn(process.execPath, [command, "review", "db", "--watch", "--dialect", "postgresql"], {
      cwd: folder,
    });
    let text = "";
    for (const stream of [run.stdout, run.stderr])
      stream.on("data", (piece: Buffer) => {
        text += piece.toString();
      });
    const says = async (what: RegExp): Promise<void> => {
      for (let i = 0; i < 100 && !what.test(text); i++) await wait(100);
      expect(text).toMatch(what);
    };
    const ended = new Promise<number | null>((resolve) => run.on("exit", resolve));
    await says(/watching for changes/);
    text = "";
    put({ "db/11_all.sql": "DELETE FROM crane;" });
    await says(/11_all\.sql: reviewed again[\s\S]*every-row/);
    expect(text).not.toContain("db/1_crane.sql");
    text = "";
    put({ "cautela.policy.yaml": "weights: { evry-row: note }" });
    await says(/did you mean every-row\?/);
    put({ "cautela.policy.yaml": "weights: { every-row: note }" });
    await says(/□ 1 note/);
    run.kill("SIGINT");
    expect(await ended).toBe(130);
    expect(existsSync(join(folder, "db/11_all.sql"))).toBe(true);
  });
});
