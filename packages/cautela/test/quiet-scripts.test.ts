import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { catalogFromDdl, dialectIds, review } from "cautela";
import { describe, expect, test } from "vitest";
import { isPlain, respellings } from "./respellings.ts";

// Ordinary, correct change scripts: nobody may be stopped or asked because of them.

const folder = fileURLToPath(new URL("quiet/", import.meta.url));
const demo = fileURLToPath(new URL("../../../demo/", import.meta.url));

describe.each(dialectIds)("%s", (dialect) => {
  const schema = catalogFromDdl(readFileSync(`${demo}schema/${dialect}.sql`, "utf8"), { dialect });
  const catalog = catalogFromDdl(readFileSync(`${demo}data/${dialect}.sql`, "utf8"), { dialect, onto: schema });
  const scripts = readFileSync(`${folder}${dialect === "mariadb" ? "mysql" : dialect}.sql`, "utf8")
    .split(/^-- script: /m)
    .slice(1);
  test.each(scripts.map((one) => [one.slice(0, one.indexOf("\n")), one.slice(one.indexOf("\n") + 1)]))(
    "%s",
    (_, script) => {
      const { findings, unchecked } = review(script, { dialect, catalog });
      const heavy = findings.filter(({ weight }) => weight !== "note");
      expect(heavy.map(({ hazard, weight, message }) => `${hazard} ${weight}: ${message}`)).toEqual([]);
      expect(unchecked.filter(({ missing }) => missing.includes("not in the catalog"))).toEqual([]);
      // Notes are for a glance: a script is not papered with them.
      expect(findings.length).toBeLessThan(5);
      if (!isPlain(script, dialect)) return;
      for (const [way, change] of Object.entries(respellings)) {
        const other = change(script, dialect);
        const said = review(other, { dialect, catalog }).findings.filter(({ weight }) => weight !== "note");
        expect(
          said.map(({ hazard, weight, message }) => `${hazard} ${weight}: ${message}`),
          `${way}\n${other}`,
        ).toEqual([]);
      }
    },
  );
});
