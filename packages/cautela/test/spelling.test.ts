import { fileURLToPath } from "node:url";
import { type Catalog, catalogFromDdl, type DialectId, type Hazard, hazards, readScript, review } from "cautela";
import { describe, expect, test } from "vitest";
import { casesOf } from "./cases.ts";
import { isPlain, respellings } from "./respellings.ts";

// The same script written another way: the same is found in it, whatever the hand that wrote it.

const families = ["rows", "joins", "values", "views", "ripples", "recovery", "order"];
const cases = families.flatMap((family) =>
  casesOf(fileURLToPath(new URL(`cases/${family}`, import.meta.url))).flatMap((one) =>
    one.dialects.map((dialect, nth) => ({ ...one, dialect, nth })),
  ),
);

const catalogs = new Map<string, Catalog>();

function catalogOf(ddl: string | null, dialect: DialectId): Catalog | undefined {
  if (ddl === null) return undefined;
  const key = `${dialect} ${ddl}`;
  const made = catalogs.get(key) ?? catalogFromDdl(ddl, { dialect });
  catalogs.set(key, made);
  return made;
}

function found(sql: string, dialect: DialectId, ddl: string | null): string[] {
  return review(sql, { dialect, catalog: catalogOf(ddl, dialect) })
    .findings.flatMap((one) =>
      [one, ...one.places].map(({ statement }) => `${statement} ${one.hazard} ${one.weight} ${one.accepted !== null}`),
    )
    .sort();
}

const asWritten = cases.map(({ sql, dialect, ddl }) => found(sql, dialect, ddl));

// Each case in its first dialect, and in every third of the others, another third for each spelling; EVERY=1 takes them all.
const EVERY = Number(process.env.EVERY ?? 3);

describe.each(Object.entries(respellings).map(([title, change], round) => ({ title, change, round })))(
  "$title",
  ({ title, change, round }) => {
    test("the same is found", () => {
      let changed = 0;
      for (const [i, { name, dialect, nth, ddl, sql }] of cases.entries()) {
        if (nth > 0 && (i + round) % EVERY !== 0) continue;
        const other = change(sql, dialect);
        if (other === sql || !isPlain(sql, dialect)) continue;
        // Beside rules the engine does not take every statement that has a WITH.
        if (title.includes("common table") && /\bCREATE RULE\b/i.test(`${ddl}${sql}`)) continue;
        changed++;
        expect(found(other, dialect, ddl), `${name} (${dialect})\n${other}`).toEqual(asWritten[i]);
      }
      expect(changed).toBeGreaterThan(2);
    });
  },
);

test("inside a block the same is found of rows, joins and values", () => {
  const within: Partial<Record<DialectId, (sql: string) => string>> = {
    postgresql: (sql) => `DO $do$\nBEGIN\n${sql}\nEND $do$;`,
    plsql: (sql) => `BEGIN\n${sql}\nEND;\n/`,
    tsql: (sql) => `BEGIN\n${sql}\nEND;`,
  };
  // In code a name may be a variable, a portion is taken until nothing is left, and errors may be meant.
  const other = new Set(["unknown-name", "unordered-limit", "dropped-rows", "dangling-reference"]);
  const about = new Set(
    hazards
      .filter(({ id, family }) => ["rows", "joins", "values", "views", "ripples"].includes(family) && !other.has(id))
      .map(({ id }) => id),
  );
  let count = 0;
  for (const { name, dialect, ddl, sql } of cases) {
    const block = within[dialect];
    const changes = ["update", "delete", "insert", "merge", "truncate"];
    const { statements } = readScript(sql, { dialect });
    if (!block || statements.some(({ kind }) => !changes.includes(kind)) || !isPlain(sql, dialect)) continue;
    // A TRUNCATE of PL/SQL has to be put together.
    if (dialect === "plsql" && statements.some(({ kind }) => kind === "truncate")) continue;
    const catalog = catalogOf(ddl, dialect);
    const ids = (text: string): string[] =>
      review(text, { dialect, catalog })
        .findings.filter(({ hazard }) => about.has(hazard))
        .flatMap(({ hazard, weight, places }) => [`${hazard} ${weight}`, ...places.map(() => `${hazard} ${weight}`)])
        .sort();
    expect(ids(block(sql)), `${name} (${dialect})`).toEqual(ids(sql));
    count++;
  }
  expect(count).toBeGreaterThan(250);
});

test("what a hazard needs is never missing where it is found", () => {
  const found = (looked: readonly Hazard[]): string[] =>
    cases.map(({ dialect, ddl, sql }) => {
      const { findings } = review(sql, { dialect, catalog: catalogOf(ddl, dialect), hazards: looked });
      return JSON.stringify(findings);
    });
  expect(found(hazards.map((hazard) => ({ ...hazard, needs: undefined })))).toEqual(found(hazards));
});
