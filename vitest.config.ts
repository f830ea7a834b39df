import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

export default defineConfig({
  // The sources are tested, not what was built from them at some time; the command is tested as it is bundled.
  resolve: { alias: { cautela: fileURLToPath(new URL("packages/cautela/src/index.ts", import.meta.url)) } },
  test: {
    include: ["packages/*/test/**/*.test.ts", "examples/*/test/**/*.test.ts"],
    testTimeout: 30_000,
    hookTimeout: 60_000,
  },
});
