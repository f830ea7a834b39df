import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, normalize } from "node:path";
import { fileURLToPath } from "node:url";
import { expect, test } from "vitest";

// What the folders of src/ are to each other, read off the imports.

const root = fileURLToPath(new URL("../src", import.meta.url));
const files = readdirSync(root, { recursive: true, encoding: "utf8" })
  .filter((file) => /\.tsx?$/.test(file))
  .map((file) => normalize(file));
const sources = new Map(files.map((file) => [file, readFileSync(join(root, file), "utf8")]));
const imports = new Map(
  [...sources].map(([file, text]) => [
    file,
    [...text.matchAll(/^(?:import|export)\b[^;]*?\bfrom "(\.[^"]+)";/gm)].map(([, path]) =>
      normalize(join(dirname(file), path)),
    ),
  ]),
);

/** From below: what stands earlier knows nothing of what stands later. */
const LAYERS = [
  ["text", "schemas"],
  ["sql"],
  ["catalog", "policy"],
  ["analysis"],
  ["writing"],
  ["hazards"],
  ["review"],
  ["rehearsal"],
  ["report"],
  ["index.ts", "tools.ts"],
];
/** A dialect's folder holds a file for a layer where the layer asks it; the register of those files stands beside. */
const OF_DIALECTS: Record<string, string> = { views: "analysis", writing: "writing" };

function layerOf(file: string): number {
  const [room, , last] = [file.split("/")[0], ...file.split("/").slice(-2)];
  const piece = /^sql\/dialects\//.test(file) ? OF_DIALECTS[(last ?? "").replace(".ts", "")] : undefined;
  const found = LAYERS.findIndex((rooms) => rooms.includes(piece ?? room));
  if (found < 0) throw new Error(`${file} stands in no layer`);
  return found;
}

test("imports go one way", () => {
  const wrong = [...imports].flatMap(([file, list]) =>
    list.filter((other) => layerOf(other) > layerOf(file)).map((other) => `${file} imports ${other}`),
  );
  expect(wrong).toEqual([]);
});

test("no files import each other in a circle, but for what is recursive in the language itself", () => {
  const circles: string[][] = [];
  const numbers = new Map<string, number>();
  const lowest = new Map<string, number>();
  const open: string[] = [];
  const visit = (file: string): void => {
    numbers.set(file, numbers.size);
    lowest.set(file, numbers.get(file) ?? 0);
    open.push(file);
    for (const other of imports.get(file) ?? []) {
      if (!numbers.has(other)) visit(other);
      if (open.includes(other)) lowest.set(file, Math.min(lowest.get(file) ?? 0, lowest.get(other) ?? 0));
    }
    if (lowest.get(file) !== numbers.get(file)) return;
    const circle = open.splice(open.indexOf(file));
    if (circle.length > 1) circles.push(circle);
  };
  for (const file of files) if (!numbers.has(file)) visit(file);
  const recursive = (circle: string[]): boolean =>
    ["sql/nodes/", "sql/grammar/"].some((room) => circle.every((file) => file.startsWith(room)));
  expect(circles.filter((circle) => !recursive(circle))).toEqual([]);
});

test("nothing outside the dialects asks which dialect it is", () => {
  const asks =
    /\.id (?:===|!==) "|\bid (?:===|!==) "|dialect (?:===|!==) "(?:postgresql|mysql|mariadb|sqlite|tsql|plsql|jet)"|switch \([\w.#]*dialect(?:\.id)?\)|(?:case|includes\() ?"(?:postgresql|mariadb|tsql|plsql|jet)"/;
  const found = [...sources]
    .filter(([file]) => !file.startsWith("sql/dialects/") && file !== "sql/reading/guess.ts")
    .flatMap(([file, text]) =>
      text.split("\n").flatMap((line, i) => (asks.test(line) ? [`${file}:${i + 1} ${line}`] : [])),
    );
  expect(found).toEqual([]);
});
