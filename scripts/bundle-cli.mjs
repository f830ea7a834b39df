// Bundles the command into one file, whose compiled code is what a start takes from the cache; of what is only loaded when it
// is used nothing is run before. Database drivers, YAML and the pool of threads stay packages. Run by `npm run build -w cautela-cli`.
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { rolldown } from "rolldown";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const folder = join(root, "packages/cautela-cli");
const dist = join(folder, "dist");
const { version, dependencies } = JSON.parse(readFileSync(join(folder, "package.json"), "utf8"));
const source = (name) => join(root, `packages/cautela/src/${name}.ts`);
const apart = Object.keys(dependencies);

rmSync(dist, { recursive: true, force: true });
const bundle = await rolldown({
  input: { cautela: join(folder, "src/main.ts") },
  platform: "node",
  external: (id) => apart.some((name) => id === name || id.startsWith(`${name}/`)),
  resolve: { alias: { "cautela/tools": source("tools"), cautela: source("index") } },
  transform: { define: { VERSION: JSON.stringify(version) } },
});
const { output } = await bundle.write({
  dir: dist,
  format: "cjs",
  entryFileNames: "[name].cjs",
  chunkFileNames: "[name].cjs",
  // Code from the cache cannot import: it requires.
  dynamicImportInCjs: false,
  codeSplitting: false,
  comments: false,
  // A start reads it whole: short, and in ASCII, which V8 takes as it stands. Names stay for the sake of stack traces.
  charset: "ascii",
  minify: { compress: true, mangle: false, codegen: { removeWhitespace: true } },
});
for (const { code = "" } of output)
  if (/[^\0-\x7f]/.test(code)) throw new Error("the bundle is not in ASCII, as which it is read");

// The licences of what is bundled go with it.
const require = createRequire(join(folder, "package.json"));
const packages = new Set(
  output.flatMap(({ moduleIds = [] }) =>
    moduleIds.flatMap((id) => /.*node_modules\/((?:@[^/]+\/)?[^/]+)\//.exec(id)?.[1] ?? []),
  ),
);
const notices = [...packages].sort().map((name) => {
  const place =
    require.resolve
      .paths(name)
      ?.map((path) => join(path, name))
      .find((path) => existsSync(path)) ?? "";
  const file = readdirSync(place).find((entry) => /^licen[cs]e/i.test(entry));
  if (file === undefined) throw new Error(`${name} has no licence file`);
  return `${name}\n\n${readFileSync(join(place, file), "utf8").trim()}\n`;
});
writeFileSync(join(dist, "NOTICE"), notices.join("\n----\n\n"));
