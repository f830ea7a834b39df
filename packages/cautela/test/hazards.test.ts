import { fileURLToPath } from "node:url";
import { catalogFromDdl, hazards, review } from "cautela";
import { describe, expect, test } from "vitest";
import { casesOf } from "./cases.ts";

const folder = (name: string) => fileURLToPath(new URL(`cases/${name}`, import.meta.url));

describe.each(["rows"])("%s", (family) => {
  for (const { name, dialects, ddl, sql, expected } of casesOf(folder(family))) {
    test.each(dialects)(`${name} (%s)`, (dialect) => {
      const catalog = catalogFromDdl(ddl, { dialect });
      const { findings } = review(sql, { dialect, catalog });
      const found = findings.filter((one) => one.accepted === null);
      // Client lines count as statements of their own, so the index is that of the finding's order.
      expect(found.map((one) => `${one.statement} ${one.hazard} ${one.weight}`)).toEqual(expected);
    });
  }
});

describe("the register", () => {
  test.each(hazards.map((hazard) => [hazard.id, hazard] as const))("%s: its example is true", (id, hazard) => {
    const { dialect, ddl, dangerous, sound } = hazard.example;
    const catalog = catalogFromDdl(ddl, { dialect });
    const found = (sql: string) => review(sql, { dialect, catalog }).findings.map((finding) => finding.hazard);
    expect(found(dangerous)).toContain(id);
    expect(found(sound)).toEqual([]);
    for (const text of [hazard.title, hazard.explanation, hazard.remedy]) expect(text.length).toBeGreaterThan(10);
  });
});
