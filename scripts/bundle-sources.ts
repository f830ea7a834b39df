import { rm } from "node:fs/promises";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { rolldown } from "rolldown";
import type { TestProject } from "vitest/node";

const root = fileURLToPath(new URL("..", import.meta.url));
const entries = ["index", "tools"] as const;

/** Where this run keeps its bundle: below `node_modules`, so that the test runner loads it as it stands. */
const folder = join(root, `node_modules/.cautela-tested-${process.pid}`);

/** The file that a test gets for an entry of the library. */
export const bundled = (entry: (typeof entries)[number]): string => join(folder, `${entry}.mjs`);

async function bundle(): Promise<void> {
  const input = Object.fromEntries(entries.map((entry) => [entry, join(root, `packages/cautela/src/${entry}.ts`)]));
  const made = await rolldown({ input, platform: "node" });
  await made.write({ dir: folder, entryFileNames: "[name].mjs", chunkFileNames: "[name].mjs", sourcemap: true });
  await made.close();
}

/**
 * Bundles the sources before the tests, and again when they are run again: loaded one by one through the test runner, every
 * call from file to file goes through a getter, and reading takes twice as long.
 */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  await bundle();
  project.onTestsRerun(bundle);
  return () => rm(folder, { recursive: true, force: true });
}
