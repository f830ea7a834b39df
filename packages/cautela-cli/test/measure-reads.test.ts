import { spawnSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "vitest";
import { mariadbUrl, postgresUrl } from "../../cautela/test/engines.ts";

// Everything that a query can run without looking like it: each of these would write, lock or set something, and none is run.

const postgres = await postgresUrl();
const mariadb = await mariadbUrl();
const folder = mkdtempSync(join(tmpdir(), "cautela-measure-"));
const bin = new URL("../bin/cautela.cjs", import.meta.url).pathname;

function measure(sql: string, url: string): { status: number | null; out: string; err: string } {
  const path = join(folder, "ways.sql");
  writeFileSync(path, sql);
  const { status, stdout, stderr } = spawnSync(process.execPath, [bin, "measure", path, "--catalog", url], {
    encoding: "utf8",
  });
  return { status, out: stdout, err: stderr };
}

/** None of the ways, each a statement, may be run. */
function expectRefused(ways: readonly string[], url: string): void {
  const { status, out } = measure(`${ways.join(";\n")};\n`, url);
  const blocks = out.split(/^(?=line +\d)/m).slice(1);
  expect(blocks.length).toBe(ways.length);
  expect(blocks.filter((block) => !/not counted/.test(block.split("\n")[0]))).toEqual([]);
  expect(status).toBe(2);
}

const SETUP = `
CREATE TABLE spy (n integer);
CREATE FUNCTION told(text) RETURNS boolean LANGUAGE plpgsql VOLATILE AS $$ BEGIN INSERT INTO spy VALUES (1); RETURN true; END $$;
CREATE FUNCTION told2(text, text) RETURNS boolean LANGUAGE plpgsql VOLATILE AS $$ BEGIN INSERT INTO spy VALUES (1); RETURN true; END $$;
CREATE FUNCTION told_int(integer, text) RETURNS boolean LANGUAGE plpgsql VOLATILE AS $$ BEGIN INSERT INTO spy VALUES (1); RETURN true; END $$;
CREATE TYPE pair AS (a integer, b text);
CREATE FUNCTION told_cast(pair) RETURNS integer LANGUAGE plpgsql VOLATILE AS $$ BEGIN INSERT INTO spy VALUES (1); RETURN 1; END $$;
CREATE CAST (pair AS integer) WITH FUNCTION told_cast(pair) AS IMPLICIT;
CREATE OPERATOR ~~> (LEFTARG = text, RIGHTARG = text, FUNCTION = told2);
CREATE OPERATOR = (LEFTARG = integer, RIGHTARG = text, FUNCTION = told_int);
CREATE TABLE plank (plank_id integer PRIMARY KEY, wood text);
INSERT INTO plank VALUES (1, 'ash'), (2, 'elm');
CREATE TABLE pairs (pair_id integer PRIMARY KEY, twin pair);
INSERT INTO pairs VALUES (1, (1, 'a'));
CREATE FUNCTION shiny(plank) RETURNS boolean LANGUAGE plpgsql VOLATILE AS $$ BEGIN INSERT INTO spy VALUES (1); RETURN true; END $$;
CREATE FUNCTION lower(pair) RETURNS text LANGUAGE plpgsql VOLATILE AS $$ BEGIN INSERT INTO spy VALUES (1); RETURN 'x'; END $$;
CREATE FUNCTION nz(text) RETURNS text LANGUAGE plpgsql VOLATILE AS $$ BEGIN INSERT INTO spy VALUES (1); RETURN 'x'; END $$;
CREATE SCHEMA away;
CREATE FUNCTION away.upper(text) RETURNS text LANGUAGE plpgsql VOLATILE AS $$ BEGIN INSERT INTO spy VALUES (1); RETURN 'x'; END $$;
CREATE DOMAIN heard AS text CHECK (told(VALUE));
CREATE VIEW heard_planks AS SELECT plank_id, wood FROM plank WHERE told(wood);
CREATE VIEW far_planks AS SELECT * FROM heard_planks;
CREATE VIEW arrow_planks AS SELECT plank_id FROM plank WHERE wood ~~> 'x';
CREATE TABLE guarded (guarded_id integer PRIMARY KEY, wood text);
INSERT INTO guarded VALUES (1, 'x');
ALTER TABLE guarded ENABLE ROW LEVEL SECURITY;
ALTER TABLE guarded FORCE ROW LEVEL SECURITY;
CREATE POLICY spied ON guarded USING (told(wood));
CREATE SEQUENCE counter_seq;
`;

/** Filters and tables: each is put into an UPDATE of the table. */
const WAYS = [
  "UPDATE plank SET wood = 'x' WHERE told(wood)",
  "UPDATE plank SET wood = 'x' WHERE NOT told(wood)",
  "UPDATE plank SET wood = 'x' WHERE wood ~~> 'x'",
  "UPDATE plank SET wood = 'x' WHERE wood OPERATOR(public.~~>) 'x'",
  "UPDATE plank SET wood = 'x' WHERE plank_id = wood",
  "UPDATE plank SET wood = 'x' WHERE plank_id IN (wood)",
  "UPDATE plank SET wood = 'x' WHERE plank.shiny",
  "UPDATE plank AS p SET wood = 'x' WHERE p.shiny",
  "UPDATE plank AS p SET wood = 'x' WHERE (p).shiny",
  "UPDATE plank AS p SET wood = 'x' WHERE shiny(p)",
  "UPDATE plank AS p SET wood = 'x' WHERE shiny(p.*)",
  "UPDATE pairs SET twin = NULL WHERE lower(twin) = 'x'",
  "UPDATE pairs SET twin = NULL WHERE twin::integer > 0",
  "UPDATE pairs SET twin = NULL WHERE CAST(twin AS integer) > 0",
  "UPDATE pairs SET twin = NULL WHERE twin > 0",
  "UPDATE plank SET wood = 'x' WHERE nz(wood) = 'x'",
  "UPDATE plank SET wood = 'x' WHERE away.upper(wood) = 'x'",
  "UPDATE plank SET wood = 'x' WHERE wood::heard = 'x'",
  "UPDATE plank SET wood = 'x' WHERE CAST(wood AS heard) IS NOT NULL",
  "UPDATE plank SET wood = 'x' WHERE plank_id IN (SELECT plank_id FROM heard_planks)",
  "UPDATE plank SET wood = 'x' WHERE plank_id IN (SELECT plank_id FROM far_planks)",
  "UPDATE plank SET wood = 'x' WHERE plank_id IN (SELECT plank_id FROM arrow_planks)",
  "UPDATE plank SET wood = 'x' FROM far_planks f WHERE f.plank_id = plank.plank_id",
  "UPDATE guarded SET wood = 'y'",
  "DELETE FROM guarded WHERE wood = 'x'",
  "DELETE FROM plank USING guarded g WHERE g.guarded_id = plank.plank_id",
  "DELETE FROM plank WHERE nextval('counter_seq') > 0",
  "DELETE FROM plank WHERE setval('counter_seq', 9) > 0",
  "DELETE FROM plank WHERE pg_advisory_lock(1) IS NOT NULL",
  "DELETE FROM plank WHERE set_config('work_mem', '64kB', false) = 'x'",
  "DELETE FROM plank WHERE pg_notify('a', 'b') IS NULL",
  "DELETE FROM plank WHERE lo_create(0) > 0",
  "DELETE FROM plank WHERE pg_sleep(0) IS NULL",
  "DELETE FROM plank WHERE pg_terminate_backend(0)",
  "DELETE FROM plank WHERE query_to_xml('SELECT 1', true, true, '') IS NULL",
  "DELETE FROM plank WHERE plank_id IN (SELECT plank_id FROM plank FOR UPDATE)",
  "DELETE FROM plank WHERE EXISTS (SELECT 1 FROM spy FOR SHARE)",
  "DELETE FROM plank WHERE plank_id IN (SELECT * FROM generate_series(1, told::text::integer))",
  "WITH a AS (SELECT told('x')) DELETE FROM plank USING a",
  "DELETE FROM plank WHERE (SELECT told(wood))",
  "DELETE FROM plank WHERE CASE WHEN told(wood) THEN true END",
  "DELETE FROM plank WHERE coalesce(told(wood), true)",
  "INSERT INTO plank (plank_id, wood) SELECT 5, nz(wood) FROM plank",
  "INSERT INTO plank (plank_id, wood) SELECT plank_id + 9, wood FROM far_planks",
  "DELETE FROM plank WHERE plank_id IN (SELECT plank_id FROM plank ORDER BY told(wood))",
  "DELETE FROM plank WHERE plank_id IN (SELECT max(plank_id) FROM plank GROUP BY wood HAVING told(wood))",
  "DELETE FROM plank WHERE plank_id IN (SELECT plank_id FROM (SELECT plank_id, told(wood) FROM plank) x)",
  "DELETE FROM plank USING LATERAL (SELECT told(wood)) x(y)",
  "DELETE FROM plank WHERE plank_id = ANY (ARRAY(SELECT plank_id FROM heard_planks))",
  "DELETE FROM plank WHERE ROW(plank_id, told(wood)) = ROW(1, true)",
  "DELETE FROM plank WHERE plank_id IN (SELECT count(*) FILTER (WHERE told(wood)) FROM plank)",
  "DELETE FROM plank WHERE plank_id IN (SELECT row_number() OVER (ORDER BY told(wood)) FROM plank)",
  "DELETE FROM plank WHERE plank_id IN (SELECT 1 UNION SELECT plank_id FROM far_planks)",
];

test.runIf(postgres)("none of the ways to write on a PostgreSQL server is run", async () => {
  const { default: pg } = await import("pg");
  const name = `cautela_ways_${process.pid}`;
  const admin = new pg.Client(postgres ?? "");
  await admin.connect();
  await admin.query(`CREATE DATABASE ${name}`);
  const url = new URL(postgres ?? "");
  url.pathname = `/${name}`;
  try {
    const client = new pg.Client(url.href);
    await client.connect();
    await client.query(SETUP);
    expectRefused(WAYS, url.href);
    const { rows } = await client.query(
      "SELECT count(*)::int AS spied, (SELECT is_called FROM counter_seq) AS drawn FROM spy",
    );
    expect(rows).toEqual([{ spied: 0, drawn: false }]);
    await client.end();
    // What only reads is run.
    expect(measure("DELETE FROM plank WHERE wood LIKE 'a%';", url.href).out).toContain("1 row");
  } finally {
    await admin.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
    await admin.end();
  }
});

const MARIA_WAYS = [
  "DELETE FROM plank WHERE told(wood)",
  "DELETE FROM plank WHERE plank_id IN (SELECT plank_id FROM heard_planks)",
  "DELETE FROM plank WHERE plank_id IN (SELECT plank_id FROM far_planks)",
  "DELETE FROM plank WHERE (@n := @n + 1) > 0",
  "DELETE FROM plank WHERE NEXTVAL(counter_seq) > 0",
  "DELETE FROM plank WHERE GET_LOCK('a', 1) = 1",
  "DELETE FROM plank WHERE SLEEP(0) = 0",
  "DELETE FROM plank WHERE LOAD_FILE('/etc/passwd') IS NULL",
  "DELETE FROM plank WHERE LAST_INSERT_ID(5) = 5",
  "DELETE FROM plank WHERE BENCHMARK(1, 1) = 0",
  "DELETE FROM plank WHERE NAME_AWAY.upper(wood) = 'x'",
  "DELETE FROM plank WHERE plank_id IN (SELECT plank_id FROM NAME_AWAY.heard)",
  "DELETE FROM plank WHERE plank_id IN (SELECT a FROM (SELECT plank_id AS a FROM plank FOR UPDATE) x)",
  "DELETE FROM plank WHERE plank_id IN (SELECT a FROM (SELECT plank_id AS a FROM plank LOCK IN SHARE MODE) x)",
  "UPDATE plank p JOIN far_planks f ON f.plank_id = p.plank_id SET p.wood = 'x'",
  "DELETE FROM plank WHERE NOT told(wood)",
  "DELETE FROM plank WHERE told(wood) = 1 AND plank_id = 1",
  "DELETE FROM plank WHERE plank_id = 1 OR told(wood)",
  "DELETE FROM plank WHERE CASE WHEN told(wood) THEN 1 END",
  "DELETE FROM plank WHERE IF(told(wood), 1, 0)",
  "DELETE FROM plank WHERE COALESCE(told(wood), 1)",
  "DELETE FROM plank WHERE (SELECT told(wood))",
  "DELETE FROM plank WHERE EXISTS (SELECT 1 FROM spy WHERE told('x'))",
  "DELETE FROM plank WHERE plank_id IN (SELECT MAX(plank_id) FROM plank GROUP BY wood HAVING told(wood))",
  "DELETE FROM plank WHERE plank_id IN (SELECT a FROM (SELECT plank_id AS a, told(wood) AS b FROM plank) x)",
  "DELETE FROM plank ORDER BY told(wood) LIMIT 1",
  "DELETE FROM plank WHERE told(CONCAT(wood, 'x')) BETWEEN 0 AND 1",
  "DELETE FROM plank WHERE wood IN (told('x'), 'y')",
  "DELETE FROM plank WHERE wood LIKE told(wood)",
  "DELETE FROM plank WHERE wood REGEXP told(wood)",
  "DELETE FROM plank WHERE plank_id <=> told(wood)",
  "DELETE FROM plank WHERE -told(wood) < 0",
  "DELETE FROM plank WHERE CAST(told(wood) AS char) = '1'",
  "DELETE FROM plank WHERE (plank_id, told(wood)) = (1, 1)",
  "DELETE p FROM plank p JOIN spy s ON told(p.wood)",
  "DELETE p FROM plank p LEFT JOIN heard_planks h ON h.plank_id = p.plank_id WHERE h.plank_id IS NULL",
  "DELETE p FROM plank p JOIN NAME_AWAY.heard h ON h.plank_id = p.plank_id",
  "DELETE p FROM plank p JOIN (SELECT plank_id FROM far_planks) f ON f.plank_id = p.plank_id",
  "UPDATE plank SET wood = 'x' WHERE SETVAL(counter_seq, 9) > 0",
  "UPDATE plank SET wood = 'x' WHERE (NEXT VALUE FOR counter_seq) > 0",
  "UPDATE plank SET wood = 'x' WHERE RELEASE_LOCK('a') IS NULL",
  "UPDATE plank SET wood = 'x' WHERE RELEASE_ALL_LOCKS() = 0",
  "UPDATE plank SET wood = 'x' WHERE MASTER_POS_WAIT('a', 1, 1) IS NULL",
  "UPDATE plank SET wood = 'x' WHERE (@a := plank_id) = 1 AND @a = 1",
  "UPDATE plank SET wood = 'x' WHERE plank_id IN (SELECT a FROM (SELECT @b := @b + 1 AS a FROM plank) x)",
  "UPDATE plank SET wood = 'x' WHERE BENCHMARK(3, told(wood)) = 0",
  "UPDATE plank SET wood = 'x' WHERE SLEEP(told(wood)) = 0",
  "UPDATE plank SET wood = 'x' WHERE plank_id IN (SELECT 1 UNION SELECT plank_id FROM far_planks)",
  "INSERT INTO plank (plank_id, wood) SELECT plank_id + 9, told(wood) FROM plank",
  "INSERT INTO plank (plank_id, wood) SELECT plank_id + 9, 'x' FROM far_planks",
];

test.runIf(mariadb)("none of the ways to write on a MariaDB server is run", async () => {
  const { default: mysql } = await import("mysql2/promise");
  const name = `cautela_ways_${process.pid}`;
  const connection = await mysql.createConnection({ uri: mariadb ?? "", multipleStatements: true });
  try {
    await connection.query(
      `CREATE DATABASE ${name}; CREATE DATABASE ${name}_away; USE ${name}; CREATE TABLE spy (n int); CREATE TABLE plank (plank_id int PRIMARY KEY, wood varchar(9)); INSERT INTO plank VALUES (1, 'ash'); CREATE SEQUENCE counter_seq`,
    );
    await connection.query(
      "CREATE FUNCTION told(p text) RETURNS int MODIFIES SQL DATA BEGIN INSERT INTO spy VALUES (1); RETURN 1; END",
    );
    await connection.query(
      `CREATE VIEW heard_planks AS SELECT plank_id FROM plank WHERE told(wood); CREATE VIEW far_planks AS SELECT * FROM heard_planks; USE ${name}_away`,
    );
    await connection.query(
      `CREATE FUNCTION \`upper\`(p text) RETURNS text MODIFIES SQL DATA BEGIN INSERT INTO ${name}.spy VALUES (1); RETURN 'x'; END`,
    );
    await connection.query(`CREATE VIEW heard AS SELECT plank_id FROM ${name}.heard_planks`);
    const url = new URL(mariadb ?? "");
    url.pathname = `/${name}`;
    expectRefused(
      MARIA_WAYS.map((way) => way.replaceAll("NAME_AWAY", `${name}_away`)),
      url.href,
    );
    const [rows] = await connection.query(
      `SELECT (SELECT COUNT(*) FROM ${name}.spy) AS spied, (SELECT next_not_cached_value FROM ${name}.counter_seq) AS next`,
    );
    expect(rows).toEqual([{ spied: 0, next: 1 }]);
    expect(measure("DELETE FROM plank WHERE wood LIKE 'a%';", url.href).out).toContain("1 row");
  } finally {
    await connection.query(`DROP DATABASE IF EXISTS ${name}; DROP DATABASE IF EXISTS ${name}_away`);
    await connection.end();
  }
});
