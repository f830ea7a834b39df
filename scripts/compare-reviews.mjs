// Compares the reviews of an earlier commit with those of the tree as it is: the same JSON, text and rehearsal for
// every script of the repository, every case, every hazard's example, and scripts put together from them by chance.
//
//   npm run compare -- [REV]     REV: the commit to compare with, HEAD if left out
import { execFile, execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, relative } from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { promisify } from "node:util";

const run = promisify(execFile);
const root = fileURLToPath(new URL("..", import.meta.url));
const DIALECTS = ["postgresql", "mysql", "mariadb", "sqlite", "tsql", "plsql", "jet"];
/** Scripts put together by chance, for each dialect. */
const MIXED = 150;
/** Larger files take long in seven dialects and say little more. */
const LARGEST = 60_000;

/** Every script that is compared: a name, a text, a dialect, and the tables of its catalog; null: no catalog. */
function* body() {
  const files = sqlFiles(root);
  for (const [path, text] of files)
    if (text.length < LARGEST)
      for (const dialect of DIALECTS) yield { name: `${path} ${dialect}`, text, dialect, ddl: null };
  for (const dialect of DIALECTS) {
    const schema = files.find(([path]) => path === `demo/schema/${dialect}.sql`)?.[1];
    if (schema === undefined) continue;
    for (const [path, text] of files)
      if (path.startsWith("demo/scripts") || path.includes("/quiet/"))
        yield { name: `${path} ${dialect}, harbour`, text, dialect, ddl: schema };
  }
  const cases = files.filter(([path]) => path.includes("test/cases/")).flatMap(([path, text]) => casesOf(path, text));
  const next = random(13);
  for (const one of cases)
    for (const dialect of one.dialects) yield { ...one, name: `${one.name} ${dialect}`, dialect };
  for (const dialect of DIALECTS) {
    const own = cases.filter((one) => one.dialects.includes(dialect));
    for (let i = 0; own.length > 0 && i < MIXED; i++) {
      const { ddl } = own[next(own.length)];
      const same = own.filter((one) => one.ddl === ddl);
      const text = Array.from({ length: 2 + next(12) }, () => same[next(same.length)].text).join("\n");
      const cut = next(3) === 0 ? text.slice(0, next(text.length)) : text;
      yield { name: `mixed ${i} ${dialect}`, text: cut, dialect, ddl: next(4) === 0 ? null : ddl };
    }
  }
}

function sqlFiles(folder) {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && entry.name.endsWith(".sql"))
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name))
    .filter((path) => !path.includes("node_modules") && !path.includes("/dist/"))
    .sort()
    .map((path) => [relative(folder, path), readFileSync(path, "utf8")]);
}

function casesOf(path, file) {
  const [head, ...parts] = file.split(/^-- case: /m);
  const ddl = head.replace(/^-- (?:tables|hazards).*\n/gm, "");
  return parts.map((part) => {
    const [title, ...lines] = part.split("\n");
    const [, name, dialects] = /^(.*?)\s*\[([a-z ]+)\]$/.exec(title);
    const text = lines.filter((line) => !line.startsWith("-- finds: ")).join("\n");
    return { name: `${path}: ${name}`, dialects: dialects.split(" "), ddl, text };
  });
}

/** The same numbers on every run. */
function random(seed) {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 4294967296) * below);
  };
}

/** What a build says of every script, as lines of JSON. */
async function dump(tree, into) {
  const library = await import(pathToFileURL(join(tree, "packages/cautela/dist/index.js")).href);
  const { catalogFromDdl, hazards, rehearse, report, review, trace, traceText } = library;
  const said = {};
  const say = ({ name, text, dialect, ddl }) => {
    const catalog = ddl === null ? undefined : catalogFromDdl(ddl, { dialect });
    const parts = {};
    try {
      const result = review(text, { dialect, catalog, path: "script.sql" });
      parts.json = JSON.stringify(sorted(JSON.parse(report(result, "json"))), null, 1);
      parts.text = report(result, "text");
      parts.trace = traceText(trace(result));
      parts.rehearsal = JSON.stringify(rehearse(result, { date: "20260101" }), null, 1);
    } catch (error) {
      parts.thrown = error.stack.split("\n")[0];
    }
    said[name] = parts;
  };
  for (const one of body()) say(one);
  for (const { id, example } of hazards)
    for (const which of ["dangerous", "sound"])
      say({ name: `example of ${id}, ${which}`, text: example[which], dialect: example.dialect, ddl: example.ddl });
  writeFileSync(into, JSON.stringify(said));
}

/** The order of the hazards that were not judged says nothing. */
function sorted(document) {
  for (const { unchecked } of document.scripts) for (const { hazards } of unchecked) hazards.sort();
  return document;
}

async function compare(revision) {
  const work = mkdtempSync(join(tmpdir(), "cautela-compare-"));
  try {
    const old = join(work, "old");
    execFileSync("git", ["clone", "--quiet", "--no-checkout", root, old]);
    execFileSync(
      "git",
      ["checkout", "--quiet", execFileSync("git", ["rev-parse", revision], { cwd: root, encoding: "utf8" }).trim()],
      { cwd: old },
    );
    mkdirSync(join(old, "node_modules"));
    for (const entry of readdirSync(join(root, "node_modules")))
      if (!/^cautela/.test(entry)) symlinkSync(join(root, "node_modules", entry), join(old, "node_modules", entry));
    for (const tree of [old, root])
      execFileSync("npx", ["tsc", "-b", "packages/cautela"], { cwd: tree, stdio: "inherit" });
    const [before, after] = await Promise.all(
      [old, root].map(async (tree, i) => {
        const into = join(work, `${i}.json`);
        await run(process.execPath, [fileURLToPath(import.meta.url), "--dump", tree, into]);
        return JSON.parse(readFileSync(into, "utf8"));
      }),
    );
    let differing = 0;
    for (const name of new Set([...Object.keys(before), ...Object.keys(after)])) {
      for (const part of new Set([...Object.keys(before[name] ?? {}), ...Object.keys(after[name] ?? {})])) {
        const [a, b] = [before[name]?.[part] ?? "", after[name]?.[part] ?? ""].map((text) => text.split("\n"));
        const at = a.findIndex((line, i) => line !== b[i]);
        if (at < 0 && a.length === b.length) continue;
        differing++;
        if (differing > 40) continue;
        const from = at < 0 ? a.length : at;
        console.log(`${name}, ${part}, line ${from + 1}\n  before: ${a[from]}\n  after:  ${b[from]}`);
      }
    }
    console.log(`${Object.keys(after).length} scripts, ${differing} differing outputs`);
    process.exitCode = differing === 0 ? 0 : 1;
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

if (process.argv[2] === "--dump") await dump(process.argv[3], process.argv[4]);
else await compare(process.argv[2] ?? "HEAD");
