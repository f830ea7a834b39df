#!/usr/bin/env node
import { existsSync } from "node:fs";

const main = new URL("../dist/main.js", import.meta.url);
if (!existsSync(main)) {
  console.error("cautela: not built yet; run npm ci (or npm run build) first");
  process.exit(2);
}
const { run } = await import(main.href);
const status = await run(process.argv.slice(2));
if (process.exitCode === undefined) process.exitCode = status;
