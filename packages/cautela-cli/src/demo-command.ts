import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { catalogFromDdl, type DialectId, isAtLeast, type ReportFormat, review, type Weight } from "cautela";
import { Failure } from "./failure.ts";
import { writeReports } from "./review-command.ts";

export interface DemoFlags {
  dialect: DialectId;
  format: ReportFormat;
  failOn?: Weight;
  full?: boolean;
}

/** Where the demo database and its scripts lie: beside the package, or in the workspace. */
function demoFolder(): string {
  for (const place of ["../demo", "../../../demo"]) {
    const folder = fileURLToPath(new URL(place, import.meta.url));
    if (existsSync(join(folder, "schema"))) return folder;
  }
  throw new Failure("the demo files are not installed");
}

/** `cautela demo`: reviews the harbour office's change scripts against its database. */
export async function demoCommand(flags: DemoFlags): Promise<number> {
  const folder = demoFolder();
  const { dialect } = flags;
  const schema = catalogFromDdl(readFileSync(join(folder, "schema", `${dialect}.sql`), "utf8"), { dialect });
  const catalog = catalogFromDdl(readFileSync(join(folder, "data", `${dialect}.sql`), "utf8"), {
    dialect,
    onto: schema,
  });
  const scripts = join(folder, "scripts", dialect);
  const names = readdirSync(scripts).filter((name) => name.endsWith(".sql"));
  const reviews = names.sort().map((name) => {
    const text = readFileSync(join(scripts, name), "utf8");
    return review(text, { dialect, catalog, path: `demo/scripts/${dialect}/${name}` });
  });
  await writeReports(reviews, { format: flags.format, full: flags.full });
  return flags.failOn && reviews.some((one) => isAtLeast(one.verdict, flags.failOn ?? "stop")) ? 1 : 0;
}
