import { fileURLToPath } from "node:url";
import { Catalog, catalogFromDdl, hazards, review } from "cautela";
import { reviewExample } from "cautela/tools";
import { describe, expect, test } from "vitest";
import { casesOf } from "./cases.ts";

const folder = (name: string) => fileURLToPath(new URL(`cases/${name}`, import.meta.url));

describe.each(["rows", "joins", "values", "views", "ripples", "recovery", "order", "policy", "reading"])(
  "%s",
  (family) => {
    for (const { name, dialects, ddl, sql, expected, hazards: about, policy } of casesOf(folder(family))) {
      test.each(dialects)(`${name} (%s)`, (dialect) => {
        const catalog = ddl === null ? undefined : catalogFromDdl(ddl, { dialect });
        const { findings } = review(sql, { dialect, catalog, policy });
        const found = findings
          .filter((one) => one.accepted === null && (about.length === 0 || about.includes(one.hazard)))
          .flatMap((one) => [one, ...one.places].map(({ statement }) => `${statement} ${one.hazard} ${one.weight}`));
        // Client lines count as statements of their own, so the index is that of the finding's order.
        expect(found.sort(byStatement)).toEqual(expected.sort(byStatement));
      });
    }
  },
);

function byStatement(a: string, b: string): number {
  return Number.parseInt(a, 10) - Number.parseInt(b, 10) || (a < b ? -1 : 1);
}

describe("the register", () => {
  test.each(hazards.map((hazard) => [hazard.id, hazard] as const))("%s: its example is true", (id, hazard) => {
    expect(reviewExample(hazard, "dangerous").findings.map((finding) => finding.hazard)).toContain(id);
    // What only is worth a glance may be said of the sound one, but not this hazard.
    expect(
      reviewExample(hazard, "sound").findings.filter((finding) => finding.weight !== "note" || finding.hazard === id),
    ).toEqual([]);
    for (const text of [hazard.title, hazard.explanation, hazard.remedy]) expect(text.length).toBeGreaterThan(10);
  });

  const judged = hazards.filter(({ onRequest, example }) => !onRequest && !example.policy && !example.beside);
  test.each(judged.map((hazard) => [hazard.id, hazard] as const))(
    "%s: is found without a catalog, or listed as unchecked",
    (id, { example: { dialect, dangerous, sound }, depends }) => {
      for (const [catalog, missing] of [
        [undefined, "catalog"],
        [new Catalog(dialect), "names"],
      ] as const) {
        const { findings } = review(dangerous, { dialect, catalog });
        const found = findings.some(({ hazard }) => hazard === id);
        const listed = depends?.some((what) => what === missing || what === "names") ?? false;
        expect([missing, found || listed]).toEqual([missing, true]);
      }
      const told = review(`${dangerous}\n${sound}\nDELETE FROM nowhere;`, {
        dialect,
        catalog: new Catalog(dialect),
      }).unchecked;
      if (depends?.includes("names")) expect(told.some((one) => one.hazards.includes(id))).toBe(true);
    },
  );
});
