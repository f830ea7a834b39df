// Makes a package ready to be packed; run by npm in the folder of the package, before (and with --remove after) that.
// What an earlier build has left in dist without a source goes; the command's package gets a copy of the demo, which
// lies at the root because the scripts of the repository use it too.
import { cpSync, existsSync, readdirSync, rmSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const before = !process.argv.includes("--remove");

if (before)
  for (const file of readdirSync("dist", { recursive: true, encoding: "utf8" })) {
    const source = file.match(/^(.*?)(?:\.d\.ts|\.js|\.js\.map)$/)?.[1];
    if (source !== undefined && ![".ts", ".tsx"].some((end) => existsSync(join("src", source + end))))
      rmSync(join("dist", file));
  }
if (process.env.npm_package_name === "cautela-cli") {
  rmSync("demo", { recursive: true, force: true });
  if (before) cpSync(join(root, "demo"), "demo", { recursive: true });
  // Editors look for the schema of a policy beside the command.
  rmSync("policy.schema.json", { force: true });
  if (before) cpSync(join(root, "packages/cautela/policy.schema.json"), "policy.schema.json");
}
