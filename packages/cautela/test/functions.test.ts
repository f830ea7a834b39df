import { PGlite } from "@electric-sql/pglite";
import { catalogFromDdl, type DialectId, review } from "cautela";
import mysql from "mysql2/promise";
import initSqlite from "sql.js";
import { expect, test } from "vitest";
import { mariadbUrl } from "./engines.ts";

// A function is said to be another engine's exactly where this one does not know it.

const names =
  `add_months age cdate cdbl ceil ceiling charindex cint clng coalesce cstr curdate curtime date_add date_format date_part
  date_sub date_trunc dateadd datediff datename datepart decode dlookup eomonth from_unixtime getdate getutcdate greatest
  group_concat ifnull iif initcap instr isnull isnumeric json_modify julianday last_day last_insert_id last_insert_rowid
  lcase least left len length listagg locate lower lpad mid months_between newid now nullif nvl nvl2 nz patindex quotename
  rand random repeat replicate right rnd rpad scope_identity str_to_date strftime string_agg stuff substr substring
  substring_index sysdatetime timestampadd timestampdiff to_char to_date to_number to_timestamp ucase unix_timestamp upper
  utc_date utc_timestamp`.split(/\s+/);

/** The names of the list that a review calls functions of other engines. */
function foreign(dialect: DialectId): string[] {
  const catalog = catalogFromDdl("CREATE TABLE stay (id integer PRIMARY KEY, sign varchar(9));", { dialect });
  return names.filter((name) =>
    review(`UPDATE stay SET sign = ${name}(sign) WHERE id = 3;`, { dialect, catalog }).findings.some(
      ({ hazard }) => hazard === "other-dialect",
    ),
  );
}

test("PostgreSQL", { timeout: 60_000 }, async () => {
  const db = await PGlite.create();
  const { rows } = await db.query<{ name: string }>("SELECT DISTINCT proname AS name FROM pg_proc");
  await db.close();
  // Words of the grammar that are functions without an entry.
  const known = new Set([...rows.map(({ name }) => name), "coalesce", "greatest", "least", "nullif", "substring"]);
  expect(foreign("postgresql")).toEqual(names.filter((name) => !known.has(name)));
});

test("SQLite", async () => {
  const { Database } = await initSqlite();
  const db = new Database();
  const known = new Set(db.exec("SELECT DISTINCT name FROM pragma_function_list")[0].values.flat().map(String));
  for (const word of ["coalesce", "iif", "ifnull", "nullif"]) known.add(word);
  // This build brings a library of functions that SQLite itself has not.
  for (const extra of ["charindex", "replicate"]) known.delete(extra);
  db.close();
  expect(foreign("sqlite")).toEqual(names.filter((name) => !known.has(name)));
});

test("MariaDB", async () => {
  const uri = await mariadbUrl();
  if (!uri) return;
  const db = await mysql.createConnection({ uri });
  const known = new Set<string>();
  const calls = ["()", "(1)", "('a', 1)", "(1, 1, 1)", "(CURRENT_DATE, INTERVAL 1 DAY)", "(DAY, 1, CURRENT_DATE)"];
  for (const name of names)
    for (const args of calls) {
      // 1305, 1128, 1630: there is no such function; 1046: it looks for one in a database; 1064: not so.
      const code = await db.query(`SELECT ${name}${args}`).then(
        () => 0,
        (error: { errno: number }) => error.errno,
      );
      if (![1305, 1128, 1630, 1046, 1064].includes(code)) known.add(name);
    }
  await db.end();
  // Later versions have it.
  known.add("to_date");
  expect(foreign("mariadb")).toEqual(names.filter((name) => !known.has(name)));
});
