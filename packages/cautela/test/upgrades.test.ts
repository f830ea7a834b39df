import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { dialectIds, review } from "cautela";
import { describe, expect, test } from "vitest";

// Ordinary upgrade scripts, reviewed as a newcomer would: without a catalog. They are clear, or have something worth knowing.

describe.each(dialectIds)("%s", (dialect) => {
  const file = new URL(`upgrades/${dialect === "mariadb" ? "mysql" : dialect}.sql`, import.meta.url);
  const scripts = readFileSync(fileURLToPath(file), "utf8")
    .split(/^-- script: /m)
    .slice(1)
    .map((one) => [one.slice(0, one.indexOf("\n")), one.slice(one.indexOf("\n") + 1)] as const);
  test.each(scripts)("%s", (_, script) => {
    const { findings } = review(script, { dialect });
    const heavy = findings.filter(({ weight }) => weight !== "note");
    expect(heavy.map(({ hazard, weight, line, message }) => `${hazard} ${weight} ${line}: ${message}`)).toEqual([]);
    expect(findings.length).toBeLessThan(6);
  });
});
