import { fileURLToPath } from "node:url";
import { catalogFromDdl, type Finding, type Reach, type Region, review, type StatementReview } from "cautela";
import { expect, test } from "vitest";
import { casesOf, FAMILIES } from "./cases.ts";

// What is said of every case, word for word and with its place, and which rows each statement reaches and writes: a change of
// either is seen in the diff of `said/`, and an editor finds every sentence in one spot. `npx vitest run
// packages/cautela/test/said.test.ts -u` writes the files again.

test.each(FAMILIES)("%s", async (family) => {
  const text = casesOf(fileURLToPath(new URL(`cases/${family}`, import.meta.url)))
    .flatMap(({ name, dialects: [dialect], ddl, sql, policy, hazards }) => {
      const catalog = ddl === null ? undefined : catalogFromDdl(ddl, { dialect });
      const { findings, unchecked, statements } = review(sql, { dialect, catalog, policy, keep: "all" });
      const lines = [
        ...findings.filter(({ hazard }) => hazards.length === 0 || hazards.includes(hazard)).map(said),
        ...unchecked.map(({ statements, missing }) => `  unchecked in ${statements}: ${missing}\n`),
        ...statements.map(done).filter((line) => line !== ""),
      ];
      return lines.length === 0 ? [] : [`${name} [${dialect}]\n${lines.join("")}`];
    })
    .join("\n");
  await expect(text).toMatchFileSnapshot(`said/${family}.txt`);
});

/** What a statement reaches and writes; nothing of one that changes no rows. */
function done({ index, target, reach, writes }: StatementReview): string {
  if (reach === null && writes.length === 0) return "";
  const own = reach ? `reaches ${bound(reach)} of ${target}` : "";
  const written = writes.map(
    (one) => `${one.action} ${one.table}${one.columns ? ` (${one.columns.join()})` : ""} by ${one.via}`,
  );
  return `  ${index} ${[own, ...written].filter((part) => part !== "").join("; ")}\n`;
}

function bound({ bound, rows, of }: Reach): string {
  return [bound, rows, of].filter((part) => part !== undefined).join("/");
}

function said({ hazard, weight, message, because, remedy, fix, places, ...region }: Finding): string {
  const also = places.map((place) => ` and ${placeOf(place)}`).join("");
  return [
    `  ${weight} ${hazard} ${placeOf(region)}${also}: ${message}`,
    ...because.map((reason) => `    because ${reason}`),
    `    ${remedy}`,
    ...(fix?.edits.map((edit) => `    fix ${placeOf(edit)} ${JSON.stringify(edit.text)}`) ?? []),
    "",
  ].join("\n");
}

function placeOf({ line, column, endLine, endColumn }: Region): string {
  return `${line}:${column}-${endLine === line ? "" : `${endLine}:`}${endColumn}`;
}
