// How many changes of the code the tests notice, told from lines drawn by chance out of all of analysis/ and hazards/:
//
//   npm run mutate:sample             40 lines, an hour or so
//   npm run mutate:sample -- 10 7     10 lines, from seed 7
import { spawnSync } from "node:child_process";
import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const [count = "40", seed = String(Date.now() % 1_000_000)] = process.argv.slice(2);

/** Numbers by chance, the same for the same seed. */
let state = Number(seed);
function random(n) {
  state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff;
  return (state >> 8) % n;
}

/** The lines that decide something: no import, no comment, no text alone, no type, no end of a block. */
const DECIDES = /[?&|!<>]|\breturn\b|\bif\b|=== |\.(?:some|every|filter|map|slice)\(/;
const TELLS = /^\s*(?:import|export (?:interface|type)|\*|\/\*|\/\/|["`]|message:|because|remedy|explanation|title)/;
const lines = ["analysis", "hazards"].flatMap((room) => {
  const folder = join(root, "packages/cautela/src", room);
  return readdirSync(folder, { recursive: true })
    .filter((name) => name.endsWith(".ts"))
    .sort()
    .flatMap((name) =>
      readFileSync(join(folder, name), "utf8")
        .split("\n")
        .flatMap((line, i) =>
          DECIDES.test(line) && !TELLS.test(line) ? [{ path: join(folder, name), line: i + 1 }] : [],
        ),
    );
});
const drawn = Array.from({ length: Number(count) }, () => lines[random(lines.length)]);
console.log(`${drawn.length} of ${lines.length} lines, from seed ${seed}`);
const mutate = drawn.map(({ path, line }) => `${relative(root, path)}:${line}-${line}`).join(",");
const { status } = spawnSync("npx", ["stryker", "run", "--mutate", mutate], { cwd: root, stdio: "inherit" });
process.exitCode = status ?? 1;
