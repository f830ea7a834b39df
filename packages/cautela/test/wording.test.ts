import { type Catalog, catalogFromDdl, review } from "cautela";
import { expect, test } from "vitest";
import { scenarios } from "./cases.ts";

// Every sentence that the cases bring about reads like one: no empty name, nothing cut off, numbers that agree.

/** What is wrong with a sentence; null: nothing. Code in it, between backquotes, stands as CODE. */
function slip(text: string): string | null {
  if ((text.match(/`/g)?.length ?? 0) % 2 === 1) return "a backquote without its other";
  if (/``/.test(text)) return "an empty name";
  const prose = text.replace(/`[^`]*`/g, "CODE").replace(/'[^']*'|"[^"]*"/g, "TEXT");
  for (const [open, close] of ["()", "[]"])
    if (prose.split(open).length !== prose.split(close).length) return `${open} and ${close} do not match`;
  if (/undefined|\bNaN\b|\[object|Infinity/.test(prose)) return "a value of the program";
  if (/ {2}|\s[,.;:](?:\s|$)|\(\s|\s\)|,,|\.\.(?!\.)|\b(?:of|the|from|where|and|or)[ ]?[.,;:)]/.test(prose))
    return "something is left out";
  if (/\b(\w+) \1\b/i.test(prose.replace(/\b(?:that that|CODE CODE|CHECK CHECK)\b/g, ""))) return "a word twice";
  if (/\b(?:1|one) (?:rows|columns|tables|statements|times|values|triggers|lines|keys|views)\b/i.test(prose))
    return "one of several";
  if (
    /\b(?:[2-9]|\d\d+|two|three|several|many) (?:row|column|table|statement|time|value|trigger|line|key|view)\b(?!-)/i.test(
      prose,
    )
  )
    return "several of one";
  if (/^CODE (?:and|,) CODE (?:is|has|was|does|gets|takes|stays|goes)\b/.test(prose)) return "two and one verb";
  if (/^CODE (?:are|have|were|do|get|take|stay|go)\b/.test(prose)) return "one and the verb of several";
  if (/\ba (?=[aeio]\w)(?!one|once|uni)|\ban (?=[bcdfgjklmnpqrtvwxyz]\w)/.test(prose)) return "a or an";
  return null;
}

test("every sentence reads like one", () => {
  const catalogs = new Map<string, Catalog>();
  const slips = new Set<string>();
  let read = 0;
  for (const { ddl, sql, dialect } of scenarios()) {
    const key = `${dialect} ${ddl}`;
    const catalog = ddl === null ? undefined : (catalogs.get(key) ?? catalogFromDdl(ddl, { dialect }));
    if (catalog) catalogs.set(key, catalog);
    const { findings, unchecked } = review(sql, { dialect, catalog });
    for (const { hazard, message, because, remedy } of findings)
      for (const text of [message, ...because, remedy]) {
        read++;
        // What is printed to be run has its own test.
        const wrong = slip(text.split("\n")[0]);
        if (wrong) slips.add(`${hazard}: ${wrong}: ${text}`);
      }
    for (const { missing } of unchecked) {
      const wrong = slip(missing);
      if (wrong) slips.add(`unchecked: ${wrong}: ${missing}`);
    }
  }
  expect([...slips]).toEqual([]);
  expect(read).toBeGreaterThan(4000);
});
