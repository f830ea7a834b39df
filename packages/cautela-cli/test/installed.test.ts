import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "vite";
import { afterAll, beforeAll, expect, test } from "vitest";

// Both packages as npm packs them, installed into an empty project.

const root = fileURLToPath(new URL("../../..", import.meta.url));
const project = mkdtempSync(join(tmpdir(), "cautela-installed-"));
const installed = (name: string, file: string) => join(project, "node_modules", name, file);
const write = (file: string, text: string) => writeFileSync(join(project, file), text);

const PROGRAM = `import { catalogFromDdl, type Finding, rehearsalText, rehearse, review } from "cautela";
const catalog = catalogFromDdl("CREATE TABLE berth (berth_id int PRIMARY KEY, depth_m int);", { dialect: "sqlite" });
const result = review("DELETE FROM berth;", { dialect: "sqlite", catalog });
const first: Finding | undefined = result.findings[0];
console.log(result.verdict, first?.hazard, rehearsalText(rehearse(result, { date: "1" })).includes("berth_before_1"));
`;

beforeAll(() => {
  const npm = (...args: string[]) => execFileSync("npm", args, { cwd: root, encoding: "utf8", stdio: "pipe" });
  npm("pack", "-w", "cautela", "-w", "cautela-cli", "--pack-destination", project);
  const tarballs = readdirSync(project).map((name) => join(project, name));
  expect(tarballs).toHaveLength(2);
  write("package.json", '{ "name": "empty", "private": true, "type": "module" }');
  execFileSync("npm", ["install", "--prefer-offline", "--no-audit", "--no-fund", ...tarballs], {
    cwd: project,
    stdio: "pipe",
  });
}, 180_000);
afterAll(() => rmSync(project, { recursive: true, force: true }));

test("the command runs by its name, the demo and its schemas included", () => {
  const run = (...args: string[]) =>
    spawnSync("npx", ["--no-install", "cautela", ...args], { cwd: project, encoding: "utf8" });
  const { status, stdout } = run("demo", "--dialect", "tsql");
  expect(status).toBe(0);
  expect(stdout).toMatch(/: stop, ■ \d+ stop/);
  write("change.sql", "UPDATE berth SET depth_m = 1;");
  expect(run("review", "change.sql", "--format", "json").status).toBe(1);
  write("policy.yaml", "weights: { every-row: note, no-way-back: note }");
  expect(run("review", "change.sql", "--policy", "policy.yaml", "--fail-on", "stop").status).toBe(0);
  // The schema that a first policy tells editors about is there.
  expect(run("policy", "--init").status).toBe(0);
  const [, schema] = /\$schema=(\S+)/.exec(readFileSync(join(project, "cautela.policy.yaml"), "utf8")) ?? [];
  expect(JSON.parse(readFileSync(join(project, schema), "utf8")).properties).toHaveProperty("freeze");
});

test.each(["cautela", "cautela-cli"])("%s: what is in it, and what is not", (name) => {
  const read = (file: string) => readFileSync(installed(name, file), "utf8");
  const described = JSON.parse(read("package.json"));
  for (const key of ["description", "keywords", "license", "repository", "engines"])
    expect(described).toHaveProperty(key);
  for (const range of Object.values(described.dependencies ?? {})) expect(range).toMatch(/^\^/);
  expect(read("LICENSE")).toContain("Apache License");
  expect(read("README.md")).toContain("ES modules only");
  const files = readdirSync(installed(name, "."), { recursive: true, encoding: "utf8" });
  expect(files.filter((file) => /tsbuildinfo|\.ts$/.test(file) && !file.endsWith(".d.ts"))).toEqual([]);
  for (const map of files.filter((file) => file.endsWith(".map")))
    expect(JSON.parse(read(map)).sourcesContent, map).toEqual([expect.any(String)]);
});

test("Node imports the library", () => {
  write("program.mjs", PROGRAM.replace("type Finding, ", "").replace(": Finding | undefined", ""));
  expect(execFileSync("node", ["program.mjs"], { cwd: project, encoding: "utf8" })).toBe("stop every-row true\n");
});

test.each(["node16", "bundler"])("TypeScript finds the types: %s", (resolution) => {
  write(
    "program.ts",
    PROGRAM.replace("console.log", "export default [")
      .replace(/\);\n$/, "];\n")
      .replace("export default [(", "export default ["),
  );
  const module = resolution === "bundler" ? "esnext" : "node16";
  const options = ["--module", module, "--moduleResolution", resolution, "--target", "es2022", "--strict", "--noEmit"];
  const compiler = join(root, "node_modules/.bin/tsc");
  const { status, stdout } = spawnSync(compiler, [...options, "--types", "", "program.ts"], {
    cwd: project,
    encoding: "utf8",
  });
  expect([status, stdout]).toEqual([0, ""]);
});

test("Vite builds a page with it", async () => {
  write("index.html", '<script type="module" src="./page.js"></script>');
  write("page.js", PROGRAM.replace("type Finding, ", "").replace(": Finding | undefined", ""));
  await build({ root: project, logLevel: "error", configFile: false });
  const assets = readdirSync(join(project, "dist/assets"));
  expect(assets).toHaveLength(1);
  const code = readFileSync(join(project, "dist/assets", assets[0]), "utf8");
  expect(code).not.toMatch(/from\s*"node:/);
  expect(existsSync(join(project, "dist/index.html"))).toBe(true);
});
