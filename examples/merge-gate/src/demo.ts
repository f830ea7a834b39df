import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { gate } from "./gate.ts";
import { makeHarbour } from "./harbour.ts";

// The gate as a pipeline would run it, on a repository that is made for it.

const output = process.argv[2] ?? mkdtempSync(join(tmpdir(), "merge-gate-"));
const repository = join(output, "harbour");
makeHarbour(
  repository,
  readFileSync(fileURLToPath(new URL("../../../demo/schema/postgresql.sql", import.meta.url)), "utf8"),
);
process.exitCode = gate([
  repository,
  "--into",
  "main",
  "--branch",
  "tariff-2027",
  "--output",
  output,
  "--date",
  "2026-12-24",
]);
console.log(`\nThe branch tariff-2027 ${process.exitCode === 0 ? "may go in" : "is held back"}. Written to ${output}:`);
console.log("comment.md, review.sarif, review.html");
