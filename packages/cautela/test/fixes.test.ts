import { type Catalog, catalogFromDdl, type Finding, isAtLeast, readScript, review } from "cautela";
import { expect, test } from "vitest";
import { scenarios } from "./cases.ts";
import { fixed } from "./fixing.ts";

// What a fix makes of a script: it reads, what was found is gone, and nothing heavier has come.

test("each fix mends what it is offered for", () => {
  const titles = new Set<string>();
  const catalogs = new Map<string, Catalog>();
  for (const { name, ddl, sql, dialect } of scenarios()) {
    const known = ddl === null ? undefined : (catalogs.get(`${dialect} ${ddl}`) ?? catalogFromDdl(ddl, { dialect }));
    if (known) catalogs.set(`${dialect} ${ddl}`, known);
    const catalog = known;
    const look = (text: string): Finding[] => review(text, { dialect, catalog }).findings;
    const before = look(sql);
    for (const finding of before) {
      if (!finding.fix) continue;
      titles.add(finding.fix.title);
      const text = fixed(sql, finding.fix);
      const told = `${name} (${dialect}): ${finding.hazard}\n${text}`;
      const unread = (script: string): number => readScript(script, { dialect }).problems.length;
      expect(unread(text), told).toBeLessThanOrEqual(unread(sql));
      const after = look(text);
      expect(
        after.filter(({ hazard, message }) => hazard === finding.hazard && message === finding.message),
        told,
      ).toEqual([]);
      const known = new Set(before.map(({ hazard }) => hazard));
      const heavier = after.filter(
        ({ hazard, weight }) => !known.has(hazard) && weight !== finding.weight && isAtLeast(weight, finding.weight),
      );
      expect(
        heavier.map(({ hazard, weight }) => `${hazard} ${weight}`),
        told,
      ).toEqual([]);
    }
  }
  const kinds = new Set([...titles].map((one) => one.replace(/^Write (?:\w+|\w*[A-Z]\w*)$/, "Write a name")));
  expect([...kinds].sort()).toMatchInlineSnapshot(`
    [
      "Ask with IS NULL",
      "Copy each column from its namesake",
      "Keep the old value where no branch matches",
      "Leave the NULLs out in the subquery",
      "List the columns",
      "Put a comma between the assignments",
      "Remove the blank line",
      "Remove the second one",
      "Remove the terminator",
      "Take the column first",
      "Write a date",
      "Write a name",
      "Write only the rows that change",
      "Write straight quotes",
      "Write the constant as text",
    ]
  `);
}, 180_000);
