// The long runs of what the tests draw a little of:
//   npm run walk               walks 500 made-up changes for each engine, from count to restore, by the engines' client programs
//   npm run walk -- 50 7       50 for each, from seed 7
//   npm run engines            makes 1,000 drawn schemas on each engine, changes them, and compares what is refused and written
//   npm run engines -- 50 7    50 for each, from seed 7
import { spawnSync } from "node:child_process";
import { dirname } from "node:path";
import { fileURLToPath } from "node:url";

const RUNS = {
  walk: { test: "walk-generated", count: "500", what: "walks", names: ["WALKS", "WALK_SEED"] },
  engines: { test: "schemas", count: "1000", what: "schemas", names: ["SCHEMAS", "SCHEMAS_SEED"] },
};

const [run, given, seed = String(Date.now() % 1_000_000)] = process.argv.slice(2);
const { test, count: usual, what, names } = RUNS[run];
const count = given ?? usual;
console.log(`${count} ${what} for each engine, from seed ${seed}`);
const { status } = spawnSync("npx", ["vitest", "run", `packages/cautela/test/${test}.test.ts`], {
  cwd: dirname(dirname(fileURLToPath(import.meta.url))),
  stdio: "inherit",
  env: { ...process.env, [names[0]]: count, [names[1]]: seed },
});
process.exitCode = status ?? 1;
