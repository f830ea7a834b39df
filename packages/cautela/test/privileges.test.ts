import { PGlite } from "@electric-sql/pglite";
import { catalogFromDdl, readScript } from "cautela";
import { privilegesOf } from "cautela/tools";
import { expect, test } from "vitest";

// With exactly these rights the engine takes the statement, and with one of them less it does not.

const DDL = `CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(20));
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer, name varchar(20));
CREATE TABLE past (vessel_id integer, name varchar(20));
CREATE VIEW named AS SELECT vessel_id, name FROM vessel;`;

const STATEMENTS = [
  "UPDATE vessel SET name = 'x' WHERE vessel_id = 1",
  "UPDATE vessel AS v SET name = o.name FROM owner AS o WHERE o.owner_id = v.owner_id",
  "UPDATE vessel SET name = (SELECT name FROM owner LIMIT 1) WHERE owner_id IN (SELECT owner_id FROM owner)",
  "DELETE FROM vessel",
  "DELETE FROM vessel WHERE vessel_id = 1",
  "DELETE FROM vessel USING owner o WHERE o.owner_id = vessel.owner_id",
  "INSERT INTO past VALUES (1, 'x')",
  "INSERT INTO past (vessel_id, name) SELECT vessel_id, name FROM vessel",
  "INSERT INTO owner (owner_id, name) VALUES (1, 'x') ON CONFLICT (owner_id) DO UPDATE SET name = 'y'",
  "INSERT INTO owner (owner_id, name) VALUES (1, 'x') ON CONFLICT (owner_id) DO NOTHING",
  "WITH gone AS (DELETE FROM vessel WHERE vessel_id = 1 RETURNING vessel_id, name) INSERT INTO past SELECT vessel_id, name FROM gone",
  "WITH o AS (SELECT owner_id FROM owner) UPDATE vessel SET name = 'x' WHERE owner_id IN (SELECT owner_id FROM o)",
  "MERGE INTO vessel v USING owner o ON o.owner_id = v.owner_id WHEN MATCHED THEN UPDATE SET name = o.name WHEN NOT MATCHED THEN INSERT (vessel_id) VALUES (o.owner_id)",
  "TRUNCATE past",
  "UPDATE named SET name = 'x' WHERE vessel_id = 1",
  "SELECT v.name FROM vessel v JOIN owner o ON o.owner_id = v.owner_id",
];

test("the rights that a statement needs are the engine's", async () => {
  const db = await PGlite.create();
  await db.exec(`${DDL} CREATE ROLE clerk; GRANT USAGE ON SCHEMA public TO clerk;`);
  const catalog = catalogFromDdl(DDL, { dialect: "postgresql" });
  const allowed = async (sql: string, grants: readonly string[]): Promise<boolean> => {
    await db.exec("BEGIN");
    for (const grant of grants) await db.exec(grant);
    await db.exec("SET LOCAL ROLE clerk");
    try {
      await db.exec(sql);
      return true;
    } catch (error) {
      if (error instanceof Error && "code" in error && error.code === "42501") return false;
      throw error;
    } finally {
      await db.exec("ROLLBACK");
    }
  };
  for (const sql of STATEMENTS) {
    const [{ tree }] = readScript(sql, { dialect: "postgresql" }).statements;
    const grants = privilegesOf(tree, catalog).map(({ right, object }) => `GRANT ${right} ON ${object} TO clerk`);
    expect([sql, await allowed(sql, grants)]).toEqual([sql, true]);
    for (const grant of grants) {
      const others = grants.filter((one) => one !== grant);
      expect([sql, grant, await allowed(sql, others)]).toEqual([sql, grant, false]);
    }
  }
  await db.close();
}, 120_000);
