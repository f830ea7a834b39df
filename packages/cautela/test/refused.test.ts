import { catalogFromDdl, type DialectId, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { type Engine, openEngines, refusal } from "./databases.ts";

// What is said to be refused the engine refuses, and what the engine refuses for the sake of a constant is said.

const columns = ["berth_id", "code", "kind", "depth", "beds", "small", "note", "label", "quay_id"];
const ddl: Partial<Record<DialectId, string>> = {
  postgresql: `CREATE TYPE rig AS ENUM ('sloop', 'yawl');
CREATE TABLE quay (quay_id integer PRIMARY KEY);
CREATE TABLE berth (berth_id integer PRIMARY KEY, code varchar(5) NOT NULL, kind rig, depth numeric(4,1), beds integer NOT NULL DEFAULT 1 CHECK (beds BETWEEN 0 AND 9), small smallint, note text, label integer GENERATED ALWAYS AS (beds + 1) STORED, quay_id integer NOT NULL REFERENCES quay (quay_id), CHECK (code <> 'none'));
INSERT INTO quay VALUES (1);
INSERT INTO berth (berth_id, code, quay_id) VALUES (1, 'N01', 1), (2, 'N02', 1);`,
  mariadb: `CREATE TABLE quay (quay_id integer PRIMARY KEY);
CREATE TABLE berth (berth_id integer PRIMARY KEY, code varchar(5) NOT NULL, kind enum('sloop', 'yawl'), depth decimal(4,1), beds integer NOT NULL DEFAULT 1 CHECK (beds BETWEEN 0 AND 9), small smallint, note text, label integer GENERATED ALWAYS AS (beds + 1) STORED, quay_id integer NOT NULL REFERENCES quay (quay_id), CHECK (code <> 'none'));
INSERT INTO quay VALUES (1);
INSERT INTO berth (berth_id, code, quay_id) VALUES (1, 'N01', 1), (2, 'N02', 1);`,
  sqlite: `CREATE TABLE quay (quay_id integer PRIMARY KEY);
CREATE TABLE berth (berth_id integer PRIMARY KEY, code varchar(5) NOT NULL, kind varchar(9) CHECK (kind IN ('sloop', 'yawl')), depth numeric(4,1), beds integer NOT NULL DEFAULT 1 CHECK (beds BETWEEN 0 AND 9), small smallint, note text, label integer GENERATED ALWAYS AS (beds + 1) STORED, quay_id integer NOT NULL REFERENCES quay (quay_id), CHECK (code <> 'none'));
INSERT INTO quay VALUES (1);
INSERT INTO berth (berth_id, code, quay_id) VALUES (1, 'N01', 1), (2, 'N02', 1);`,
};

const value = fc.constantFrom(
  "1",
  "0",
  "-3",
  "12",
  "99999",
  "1234.5",
  "12.34",
  "NULL",
  "'a'",
  "'sloop'",
  "'N0001x'",
  "'none'",
  "DEFAULT",
  "''",
  "'5'",
);
const statement = fc.oneof(
  fc
    .tuple(fc.subarray(columns, { minLength: 1, maxLength: 3 }), fc.array(value, { minLength: 3, maxLength: 3 }))
    .map(
      ([names, values]) =>
        `UPDATE berth SET ${names.map((name, i) => `${name} = ${values[i]}`).join(", ")} WHERE berth_id = 1;`,
    ),
  fc
    .tuple(fc.subarray(columns, { minLength: 1 }), fc.array(value, { minLength: 9, maxLength: 9 }))
    .map(
      ([names, values]) =>
        `INSERT INTO berth (${names.join(", ")}) VALUES (${names.map((name, i) => (name === "berth_id" ? "7" : name === "quay_id" ? "1" : values[i])).join(", ")});`,
    ),
);

const STOPS = new Set(["null-into-required", "missing-required", "outside-list", "may-not-fit", "read-only-column"]);
const engines = await openEngines();

describe.each(engines)("%s", (dialect: DialectId, open) => {
  const schema = ddl[dialect] ?? "";
  const catalog = catalogFromDdl(schema, { dialect });
  let engine: Engine | null = null;
  afterAll(async () => engine?.close());

  test("constants that an engine refuses", { timeout: 180_000 }, async () => {
    engine ??= await open(schema);
    const known = engine;
    await fc.assert(
      fc.asyncProperty(statement, async (sql) => {
        const error = await refusal(known, sql);
        const findings = review(sql, { dialect, catalog }).findings;
        const stops = findings.filter(({ hazard, weight }) => weight === "stop" && STOPS.has(hazard));
        if (error === null)
          expect(
            stops.map(({ message }) => message),
            sql,
          ).toEqual([]);
        // Whether the row that a key refers to is there, the data say.
        else if (!/foreign key/i.test(error))
          expect(
            findings.some(({ weight }) => weight !== "note"),
            `${sql}\n${error}`,
          ).toBe(true);
      }),
      { numRuns: 500 },
    );
  });
});
