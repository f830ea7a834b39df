import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";
import { bundled } from "./scripts/bundle-sources.ts";
import { SlowFirst } from "./scripts/slow-first.ts";

export default defineConfig({
  // The sources as they are now are tested, not what was built from them at some time; the command is tested as it is bundled.
  resolve: { alias: { "cautela/tools": bundled("tools"), cautela: bundled("index") } },
  test: {
    include: ["packages/*/test/**/*.test.ts", "examples/*/test/**/*.test.ts"],
    globalSetup: [fileURLToPath(new URL("scripts/bundle-sources.ts", import.meta.url))],
    forceRerunTriggers: ["**/packages/cautela/src/**"],
    setupFiles: [fileURLToPath(new URL("scripts/test-seed.ts", import.meta.url))],
    // Both cores of a small machine: much of the time goes by in servers and client programs.
    maxWorkers: 2,
    // Nothing of the library changes while it runs; what one file has loaded and warmed up the next one uses.
    isolate: false,
    execArgv: ["--enable-source-maps"],
    sequence: { sequencer: SlowFirst },
    // A busy machine takes several times as long.
    testTimeout: 90_000,
    hookTimeout: 60_000,
  },
});
