import { catalogFromDdl, review } from "cautela";
import fc from "fast-check";
import { expect, test } from "vitest";

// In the middle of a script the database is what its statements have made of it: whatever is remembered of it on
// the way, a statement is judged as if the catalog had just been built from all that stands before.

const tables = ["quay", "boat", "stay"];
const table = fc.constantFrom(...tables);
const column = fc.constantFrom("sign", "fee", "kind", "boat_id");

const structure = fc.oneof(
  fc.constantFrom(
    "CREATE TABLE quay (id integer PRIMARY KEY, sign varchar(4), fee integer NOT NULL);",
    "CREATE TABLE boat (id integer PRIMARY KEY, sign varchar(9) UNIQUE, kind text);",
    "CREATE TABLE stay (id integer PRIMARY KEY, boat_id integer REFERENCES boat (id) ON DELETE CASCADE, fee integer CHECK (fee < 100));",
    "CREATE TABLE harbour.quay (id integer PRIMARY KEY, name text);",
    "CREATE SCHEMA harbour;",
    "CREATE TYPE rig AS ENUM ('sloop', 'yawl');",
    "ALTER TABLE boat ADD COLUMN rigged rig;",
    "SET search_path = harbour, public;",
    "SET search_path = public;",
    "CREATE VIEW boat_in AS SELECT id, sign FROM boat WHERE kind = 'in';",
    "DROP VIEW boat_in;",
    "CREATE FUNCTION tally() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO quay (id, fee) VALUES (NEW.id, 1); RETURN NEW; END $$;",
    "CREATE TRIGGER tally AFTER UPDATE ON boat FOR EACH ROW EXECUTE FUNCTION tally();",
    "DROP TRIGGER tally ON boat;",
    "ALTER TABLE boat DISABLE TRIGGER tally;",
  ),
  fc
    .tuple(table, column)
    .map(([one, name]) => `ALTER TABLE ${one} ADD COLUMN ${name} varchar(3) NOT NULL DEFAULT 'x';`),
  fc.tuple(table, column).map(([one, name]) => `ALTER TABLE ${one} DROP COLUMN ${name};`),
  fc.tuple(table, column).map(([one, name]) => `ALTER TABLE ${one} RENAME COLUMN ${name} TO other;`),
  fc.tuple(table, table).map(([one, other]) => `ALTER TABLE ${one} RENAME TO ${other};`),
  table.map((one) => `DROP TABLE ${one};`),
  table.map((one) => `CREATE UNIQUE INDEX ON ${one} (sign);`),
  table.map((one) => `ALTER TABLE ${one} ADD CHECK (fee IN (1, 2));`),
);

const change = fc.oneof(
  fc.tuple(table, column).map(([one, name]) => `UPDATE ${one} SET ${name} = 'sloop' WHERE id = 3;`),
  fc.tuple(table, column).map(([one, name]) => `UPDATE ${one} SET ${name} = NULL WHERE sign = 'a';`),
  table.map((one) => `DELETE FROM ${one} WHERE id = 4;`),
  table.map((one) => `INSERT INTO ${one} (id, fee) VALUES (7, 300);`),
  fc.constantFrom(
    "UPDATE boat SET rigged = 'ketch' WHERE id = 1;",
    "UPDATE boat_in SET sign = 'b' WHERE id = 2;",
    "DELETE FROM public.quay WHERE name = 'x';",
    "UPDATE stay AS s SET fee = b.id FROM boat AS b WHERE b.id = s.boat_id AND kind = 'in';",
  ),
);

/** Hazards that depend on what the database holds, and on nothing that the script did before. */
const ABOUT = new Set(
  "unknown-name ambiguous-name outside-list null-into-required missing-required may-not-fit off-key-join fan-out sealed-view sealed-column".split(
    " ",
  ),
);

const judged = (script: string, ddl: string | null) => {
  const catalog = catalogFromDdl(ddl ?? "", { dialect: "postgresql" });
  const result = review(script, { dialect: "postgresql", catalog });
  const { index, target, reach, writes } = result.statements[result.statements.length - 1];
  const found = result.findings.filter(
    (one) => ABOUT.has(one.hazard) && [one, ...one.places].some(({ statement }) => statement === index),
  );
  return {
    target,
    reach,
    writes,
    found: found
      .map(({ hazard, weight, message, because }) => JSON.stringify({ hazard, weight, message, because }))
      .sort(),
    unchecked: result.unchecked
      .filter((one) => one.statements.includes(index))
      .map(({ missing }) => missing)
      .sort(),
  };
};

/** The statements about structure that the engine would refuse: they make nothing of the database. */
function refusedIn(script: string): ReadonlySet<number> {
  const { findings } = review(script, {
    dialect: "postgresql",
    catalog: catalogFromDdl("", { dialect: "postgresql" }),
  });
  const refused = findings.filter(({ hazard, weight }) => weight === "stop" && REFUSED.has(hazard));
  return new Set(refused.flatMap((one) => [one, ...one.places].map(({ statement }) => statement)));
}

const REFUSED = new Set(["unknown-name", "already-there", "backup-clash", "broken-dependent"]);

test("a statement is judged by the database as the script has left it", { timeout: 120_000 }, () => {
  fc.assert(
    fc.property(
      fc.array(structure, { minLength: 2, maxLength: 12 }),
      fc.array(change, { minLength: 1, maxLength: 6 }),
      (ddl, changes) => {
        // The changes stand between the DDL statements, so that all of them look at the catalog on the way.
        const script = ddl.flatMap((one, i) => [one, changes[i % changes.length]]);
        const refused = refusedIn(script.join("\n"));
        const taken = ddl.filter((_, i) => !refused.has(2 * i));
        expect(judged(script.join("\n"), null)).toEqual(judged(script[script.length - 1], taken.join("\n")));
      },
    ),
    { numRuns: 400 },
  );
});
