import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, beforeAll, expect, test } from "vitest";

const output = mkdtempSync(join(tmpdir(), "cautela-gate-"));
const repository = join(output, "harbour");
const dist = (name: string): string => fileURLToPath(new URL(`../dist/${name}.js`, import.meta.url));
const run = (program: string, ...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [dist(program), ...args], { encoding: "utf8" });
  return { status, out: stdout, err: stderr };
};
const git = (...args: string[]) =>
  spawnSync("git", ["-c", "user.name=x", "-c", "user.email=x@harbour.example", ...args], { cwd: repository });
const read = (file: string): string => readFileSync(join(output, file), "utf8");

let demo: ReturnType<typeof run>;
beforeAll(() => {
  demo = run("demo", output);
});
afterAll(() => rmSync(output, { recursive: true, force: true }));

test("the branch is held back for what it does, and only that is reviewed", () => {
  expect(demo.status).toBe(1);
  expect(demo.out).toContain("The branch tariff-2027 is held back");
  const results: { ruleId: string; locations: { physicalLocation: { artifactLocation: { uri: string } } }[] }[] =
    JSON.parse(read("review.sarif")).runs[0].results;
  const found = results.map(
    ({ ruleId, locations }) => `${locations[0].physicalLocation.artifactLocation.uri} ${ruleId}`,
  );
  expect(found).toContain("changes/1_quay-mark.sql rewritten-script");
  expect(found).toContain("changes/4_tidy-up.sql missing-column-filter");
  expect(found).toContain("changes/5_crane-load.undo.sql undo-gap");
  // What has run already is on the main branch.
  expect(found.join()).not.toContain("2_crane.sql");
});

test("the comment and the page are of the same review", () => {
  expect(read("comment.md")).toMatch(/^## ■ Stop: do not run this as it is\n\n6 scripts/);
  expect(read("review.html")).toContain("<h2>changes/4_tidy-up.sql</h2>");
});

test("a branch without dangers goes in, and one that is not there is a mistake", () => {
  git("checkout", "-q", "-b", "quiet", "main");
  const args = [repository, "--output", join(output, "quiet"), "--branch"];
  expect(run("gate", ...args, "quiet")).toMatchObject({ status: 0, err: "" });
  expect(run("gate", ...args, "gone")).toMatchObject({ status: 2, out: "" });
});
