import { readFileSync } from "node:fs";
import { readScript } from "cautela";
import { expect, test } from "vitest";

// T-SQL needs no terminators: wherever two statements meet, on one line or on several, both are read, each with its own text.

const STATEMENTS = readFileSync(new URL("bare-statements/tsql.sql", import.meta.url), "utf8")
  .split("\n")
  .filter((line) => line !== "");

/** Where an alias may stand, ENABLE and DISABLE are one on the same line: the reference wants a semicolon before them. */
const ALIAS = /^(?:ENABLE|DISABLE) TRIGGER/;

/** The texts of the statements at the top of a script. */
function texts(script: string): string[] {
  return readScript(script, { dialect: "tsql" }).statements.map(({ start, end, kind }) =>
    kind === "unread" ? `unread: ${script.slice(start, end)}` : script.slice(start, end),
  );
}

test.each(["\n", " ", ";\n", " ;", "\n\n-- a note\n"])("every pair, with %j between", (between) => {
  const wrong: string[] = [];
  for (const first of STATEMENTS)
    for (const second of STATEMENTS) {
      if (between === " " && ALIAS.test(second)) continue;
      const found = texts(`${first}${between}${second}`);
      if (found.length !== 2 || found[0] !== first || found[1] !== second)
        wrong.push(JSON.stringify([first, second, found]));
    }
  expect(wrong.slice(0, 20)).toEqual([]);
});

test("triples, in blocks and branches too", () => {
  const wrong: string[] = [];
  STATEMENTS.forEach((first, i) => {
    for (let k = 1; k < 40; k++) {
      const second = STATEMENTS[(i + k * 7) % STATEMENTS.length];
      if (ALIAS.test(second)) continue;
      const third = STATEMENTS[(i + k * 13) % STATEMENTS.length];
      const found = texts(`${first} ${second}\n${third}`);
      if (found.join("\u0000") !== [first, second, third].join("\u0000")) wrong.push(JSON.stringify(found));
    }
  });
  for (const one of STATEMENTS) {
    if (/^(?:USE|GOTO|RETURN)/.test(one)) continue;
    const block = `IF 1 = 1 BEGIN ${one} DELETE FROM last_one END ELSE BEGIN ${one}\nDELETE FROM other_one END`;
    const found = texts(`${block} ${one}`);
    if (found.length !== 2 || found[0] !== block) wrong.push(JSON.stringify(found));
    const read = JSON.stringify(readScript(block, { dialect: "tsql" }).statements[0].tree);
    if (!read.includes('"last_one"') || !read.includes('"other_one"')) wrong.push(block);
  }
  expect(wrong.slice(0, 20)).toEqual([]);
});
