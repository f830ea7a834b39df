import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";
import { SlowFirst } from "./scripts/slow-first.ts";

const source = (name: string) => fileURLToPath(new URL(`packages/cautela/src/${name}.ts`, import.meta.url));

export default defineConfig({
  // The sources are tested, not what was built from them at some time; the command is tested as it is bundled.
  resolve: { alias: { "cautela/tools": source("tools"), cautela: source("index") } },
  test: {
    include: ["packages/*/test/**/*.test.ts", "examples/*/test/**/*.test.ts"],
    setupFiles: [fileURLToPath(new URL("scripts/test-seed.ts", import.meta.url))],
    // Both cores of a small machine: much of the time goes by in servers and client programs.
    maxWorkers: 2,
    sequence: { sequencer: SlowFirst },
    // A busy machine takes several times as long.
    testTimeout: 90_000,
    hookTimeout: 60_000,
  },
});
