// Walks made-up changes on made-up schemas from count to restore, by the client programs of the engines:
//   npm run walk            500 for each engine
//   npm run walk -- 50 7    50 for each, from seed 7
// The tests walk forty of them (packages/cautela/test/walk-generated.test.ts).
import { spawnSync } from "node:child_process";
import { dirname } from "node:path";
import { fileURLToPath } from "node:url";

const [count = "500", seed = String(Date.now() % 1_000_000)] = process.argv.slice(2);
console.log(`${count} walks for each engine, from seed ${seed}`);
const { status } = spawnSync("npx", ["vitest", "run", "packages/cautela/test/walk-generated.test.ts"], {
  cwd: dirname(dirname(fileURLToPath(import.meta.url))),
  stdio: "inherit",
  env: { ...process.env, WALKS: count, WALK_SEED: seed },
});
process.exitCode = status ?? 1;
