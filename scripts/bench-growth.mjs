// How the cost of a review grows with its input: each shape at three sizes that double, CPU time, one exponent each.
// 1.0 is linear. Printed, never asserted: `npm run bench:growth`, or with the names of some shapes; SCALE=4 makes all four times
// as large, where an exponent may be that of the compiler.
import { catalogFromDdl, rehearse, review } from "cautela";

const times = (n, piece) => Array.from({ length: n }, (_, i) => piece(i)).join("");
const listed = (n, piece, between = ", ") => Array.from({ length: n }, (_, i) => piece(i)).join(between);
const berth = "CREATE TABLE berth (berth_id int PRIMARY KEY, name text, fee numeric(10,2));\n";
const pg = (ddl, text, more = {}) => ({ dialect: "postgresql", ddl, text, ...more });

/** Every shape: its smallest size, and what it is made of at a size. */
const shapes = {
  "|| in SET": [
    4000,
    (n) => pg(berth, `UPDATE berth SET name = ${listed(n, (i) => `'a${i}'`, " || ")} WHERE berth_id = 1;`),
  ],
  "|| of columns": [
    4000,
    (n) => pg(berth, `UPDATE berth SET name = ${listed(n, () => "name", " || ")} WHERE berth_id = 1;`),
  ],
  "+ in SET": [4000, (n) => pg(berth, `UPDATE berth SET fee = ${listed(n, (i) => `${i}`, " + ")} WHERE berth_id = 1;`)],
  "+ in WHERE": [4000, (n) => pg(berth, `DELETE FROM berth WHERE fee > ${listed(n, (i) => `${i}`, " + ")};`)],
  "AND terms": [2000, (n) => pg(berth, `DELETE FROM berth WHERE ${listed(n, (i) => `fee <> ${i}`, " AND ")};`)],
  "OR terms": [2000, (n) => pg(berth, `DELETE FROM berth WHERE ${listed(n, (i) => `fee = ${i}`, " OR ")};`)],
  "IN list": [20000, (n) => pg(berth, `DELETE FROM berth WHERE berth_id IN (${listed(n, (i) => `${i}`)});`)],
  "nested parentheses": [500, (n) => pg(berth, `DELETE FROM berth WHERE ${"(".repeat(n)}fee = 1${")".repeat(n)};`)],
  "nested functions": [
    500,
    (n) => pg(berth, `UPDATE berth SET name = ${"trim(".repeat(n)}name${")".repeat(n)} WHERE berth_id = 1;`),
  ],
  "CASE branches": [
    1000,
    (n) => pg(berth, `UPDATE berth SET fee = CASE ${times(n, (i) => `WHEN berth_id = ${i} THEN ${i} `)}ELSE fee END;`),
  ],
  "routine of updates": [
    80,
    (n) =>
      pg(
        `${berth}CREATE PROCEDURE raise() LANGUAGE plpgsql AS $$ BEGIN ${times(n, (i) => `UPDATE berth SET fee = ${i} WHERE berth_id = ${i}; `)}END $$;`,
        "CALL raise();",
      ),
  ],
  "root with children": [
    100,
    (n) =>
      pg(
        `${berth}${times(n, (i) => `CREATE TABLE c${i} (id int PRIMARY KEY, berth_id int REFERENCES berth ON DELETE CASCADE);\n`)}`,
        "DELETE FROM berth WHERE berth_id = 1;",
      ),
  ],
  "chain of cascades": [
    100,
    (n) =>
      pg(
        `${berth}CREATE TABLE c0 (id int PRIMARY KEY REFERENCES berth ON DELETE CASCADE);${times(n, (i) => `CREATE TABLE c${i + 1} (id int PRIMARY KEY REFERENCES c${i} ON DELETE CASCADE);\n`)}`,
        "DELETE FROM berth WHERE berth_id = 1;",
      ),
  ],
  "chain of triggers": [
    100,
    (n) =>
      pg(
        `${berth}CREATE TABLE c0 (id int);${times(n, (i) => `CREATE TABLE c${i + 1} (id int);CREATE FUNCTION f${i}() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO c${i + 1} VALUES (1); RETURN NEW; END $$;CREATE TRIGGER t${i} AFTER INSERT ON c${i} FOR EACH ROW EXECUTE FUNCTION f${i}();\n`)}`,
        "INSERT INTO c0 VALUES (1);",
      ),
  ],
  "triggers on a table": [
    100,
    (n) =>
      pg(
        `${berth}CREATE TABLE log (id int);CREATE FUNCTION f() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO log VALUES (1); RETURN NEW; END $$;${times(n, (i) => `CREATE TRIGGER t${i} AFTER UPDATE ON berth FOR EACH ROW EXECUTE FUNCTION f();\n`)}`,
        "UPDATE berth SET fee = 1 WHERE berth_id = 1;",
      ),
  ],
  "diamonds of cascades": [
    10,
    (n) =>
      pg(
        `CREATE TABLE d0 (id int PRIMARY KEY);${times(n, (i) => `CREATE TABLE l${i} (id int PRIMARY KEY REFERENCES d${i} ON DELETE CASCADE);CREATE TABLE r${i} (id int PRIMARY KEY REFERENCES d${i} ON DELETE CASCADE);CREATE TABLE d${i + 1} (id int PRIMARY KEY, FOREIGN KEY (id) REFERENCES l${i} ON DELETE CASCADE, FOREIGN KEY (id) REFERENCES r${i} ON DELETE CASCADE);\n`)}`,
        "DELETE FROM d0 WHERE id = 1;",
      ),
  ],
  "unclosed quote": [
    10_000,
    (n) => ({ dialect: "postgresql", text: `UPDATE berth SET name = 'open ${times(n, () => "; x")}` }),
  ],
  "unread pieces": [2000, (n) => ({ text: times(n, () => "x y z;\n") })],
  "guards off and on": [
    100,
    (n) =>
      pg(
        `${berth}CREATE FUNCTION f() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RETURN NEW; END $$;CREATE TRIGGER t BEFORE UPDATE ON berth FOR EACH ROW EXECUTE FUNCTION f();`,
        times(
          n,
          (i) =>
            `ALTER TABLE berth DISABLE TRIGGER t;UPDATE berth SET fee = ${i} WHERE berth_id = ${i};ALTER TABLE berth ENABLE TRIGGER t;\n`,
        ),
      ),
  ],
  "ADD COLUMN statements": [
    500,
    (n) =>
      pg(
        berth,
        times(n, (i) => `ALTER TABLE berth ADD COLUMN c${i} int;\n`),
      ),
  ],
  "ADD COLUMN in one": [500, (n) => pg(berth, `ALTER TABLE berth ${listed(n, (i) => `ADD COLUMN c${i} int`)};`)],
  "columns of an UPDATE": [
    500,
    (n) =>
      pg(
        `CREATE TABLE wide (id int PRIMARY KEY, ${listed(n, (i) => `c${i} int`)});`,
        `UPDATE wide SET ${listed(n, (i) => `c${i} = ${i}`)} WHERE id = 1;`,
      ),
  ],
  "columns of an INSERT": [
    500,
    (n) =>
      pg(
        `CREATE TABLE wide (id int PRIMARY KEY, ${listed(n, (i) => `c${i} int`)});`,
        `INSERT INTO wide (id, ${listed(n, (i) => `c${i}`)}) VALUES (1, ${listed(n, (i) => `${i}`)});`,
      ),
  ],
  "columns of a SELECT": [
    500,
    (n) =>
      pg(
        `CREATE TABLE wide (id int PRIMARY KEY, ${listed(n, (i) => `c${i} int`)});CREATE TABLE other (id int PRIMARY KEY, ${listed(n, (i) => `c${i} int`)});`,
        `INSERT INTO wide (id, ${listed(n, (i) => `c${i}`)}) SELECT id, ${listed(n, (i) => `c${i}`)} FROM other WHERE id < 5;`,
      ),
  ],
  joins: [
    50,
    (n) =>
      pg(
        `${berth}${times(n, (i) => `CREATE TABLE j${i} (id int PRIMARY KEY, berth_id int);\n`)}`,
        `UPDATE berth b SET fee = 1 FROM ${listed(n, (i) => `j${i}`)} WHERE ${listed(n, (i) => `j${i}.berth_id = b.berth_id`, " AND ")};`,
      ),
  ],
  CTEs: [
    100,
    (n) =>
      pg(
        berth,
        `WITH ${listed(n, (i) => `q${i} AS (SELECT * FROM ${i === 0 ? "berth" : `q${i - 1}`})`)} DELETE FROM berth WHERE berth_id IN (SELECT berth_id FROM q${n - 1} WHERE fee = 1);`,
      ),
  ],
  "nested views": [
    50,
    (n) =>
      pg(
        `${berth}CREATE VIEW v0 AS SELECT * FROM berth;${times(n, (i) => `CREATE VIEW v${i + 1} AS SELECT * FROM v${i};\n`)}`,
        `DELETE FROM v${n} WHERE berth_id = 1;`,
      ),
  ],
  "accept comments": [
    500,
    (n) => pg(berth, `${times(n, (i) => `-- cautela: accept every-row, reason ${i}\n`)}DELETE FROM berth;`),
  ],
  "accepted statements": [
    500,
    (n) =>
      pg(
        berth,
        times(n, (i) => `-- cautela: accept every-row, reason ${i}\nUPDATE berth SET fee = ${i};\n`),
      ),
  ],
  "every row": [
    1000,
    (n) =>
      pg(
        berth,
        times(n, (i) => `UPDATE berth SET fee = ${i};\n`),
      ),
  ],
  "copies and deletes": [
    300,
    (n) =>
      pg(
        berth,
        times(
          n,
          (i) => `CREATE TABLE copy_${i} AS SELECT * FROM berth WHERE fee < ${i};DELETE FROM berth WHERE fee < ${i};\n`,
        ),
      ),
  ],
  "create and drop": [
    500,
    (n) =>
      pg(
        berth,
        times(n, (i) => `CREATE TABLE s${i} (id int PRIMARY KEY);INSERT INTO s${i} VALUES (1);DROP TABLE s${i};\n`),
      ),
  ],
  "create and drop one": [
    500,
    (n) =>
      pg(
        berth,
        times(n, () => "CREATE TABLE s (id int PRIMARY KEY);INSERT INTO s VALUES (1);DROP TABLE s;\n"),
      ),
  ],
  renames: [
    300,
    (n) =>
      pg(
        "CREATE TABLE s0 (id int);",
        times(n, (i) => `ALTER TABLE s${i} RENAME TO s${i + 1};\n`),
      ),
  ],
  savepoints: [
    500,
    (n) =>
      pg(
        berth,
        `BEGIN;${times(n, (i) => `SAVEPOINT p${i};DELETE FROM berth WHERE berth_id = ${i};ROLLBACK TO p${i};\n`)}COMMIT;`,
      ),
  ],
  "rows inserted and referred": [
    1000,
    (n) =>
      pg(
        `${berth}CREATE TABLE m (id int PRIMARY KEY, berth_id int REFERENCES berth);`,
        times(n, (i) => `INSERT INTO berth VALUES (${i}, 'x', 1);INSERT INTO m VALUES (${i}, ${i});\n`),
      ),
  ],
  "views dropped": [
    200,
    (n) =>
      pg(
        `${berth}${times(n, (i) => `CREATE VIEW v${i} AS SELECT * FROM berth;\n`)}`,
        `${times(n, (i) => `DROP VIEW v${i};\n`)}${times(n, (i) => `CREATE VIEW v${i} AS SELECT * FROM berth;\n`)}`,
      ),
  ],
  "nested blocks": [
    60,
    (n) => ({
      dialect: "tsql",
      ddl: berth,
      text: `${"IF 1 = 1 BEGIN ".repeat(n)}DELETE FROM berth WHERE berth_id = 1;${" END".repeat(n)}`,
    }),
  ],
  "block of updates": [
    200,
    (n) => ({
      dialect: "tsql",
      ddl: berth,
      text: `BEGIN ${times(n, (i) => `UPDATE berth SET fee = ${i} WHERE berth_id = ${i};\n`)} END`,
    }),
  ],
  "GO batches": [
    500,
    (n) => ({
      dialect: "tsql",
      ddl: berth,
      text: times(n, (i) => `UPDATE berth SET fee = ${i} WHERE berth_id = ${i}\nGO\n`),
    }),
  ],
  comments: [2000, (n) => pg(berth, `${times(n, (i) => `-- DELETE FROM berth WHERE berth_id = ${i}\n`)}SELECT 1;`)],
  "line comments apart": [
    1000,
    (n) =>
      pg(
        berth,
        times(n, (i) => `-- row ${i}\nSELECT ${i};\n`),
      ),
  ],
  rehearsal: [
    50,
    (n) =>
      pg(
        berth,
        times(n, (i) => `UPDATE berth SET fee = ${i} WHERE berth_id = ${i};\n`),
        { rehearse: true },
      ),
  ],
  "rehearsal of copies": [
    30,
    (n) =>
      pg(
        berth,
        times(n, (i) => `DELETE FROM berth WHERE fee < ${i};INSERT INTO berth VALUES (${i}, 'a', 1);\n`),
        { rehearse: true },
      ),
  ],
};

/** Compiled before it is measured. */
function warm({ dialect, ddl, text }) {
  for (let round = 0; round < 5; round++)
    review(text, { dialect, catalog: ddl === undefined ? undefined : catalogFromDdl(ddl, { dialect }) });
}

const asked = process.argv.slice(2);
const scale = Number(process.env.SCALE ?? 1);
const rows = [];
for (const [name, [usual, make]] of Object.entries(shapes)) {
  const smallest = usual * scale;
  if (asked.length > 0 && !asked.includes(name)) continue;
  const spent = [];
  let thrown = "";
  warm(make(Math.ceil(smallest / 4)));
  for (const n of [smallest, smallest * 2, smallest * 4]) {
    const { dialect, ddl, text, rehearse: also } = make(n);
    let least = Number.POSITIVE_INFINITY;
    for (let round = 0; round < 3 && thrown === ""; round++) {
      // The catalog keeps what it has worked out, so each round has its own.
      const catalog = ddl === undefined ? undefined : catalogFromDdl(ddl, { dialect });
      const began = process.cpuUsage();
      try {
        const result = review(text, { dialect, catalog });
        if (also) rehearse(result);
      } catch (error) {
        thrown = String(error).slice(0, 60);
      }
      const { user, system } = process.cpuUsage(began);
      least = Math.min(least, (user + system) / 1000);
      if (least > 2000) break;
    }
    spent.push(least);
    if (least > 20_000) break;
  }
  const exponent = Math.log2((spent.at(-1) ?? 0) / spent[0]) / (spent.length - 1);
  rows.push([name, smallest, spent, exponent, thrown]);
  const figures = spent.map((ms) => ms.toFixed(ms < 10 ? 1 : 0)).join(", ");
  console.log(
    `${name.padEnd(28)} ${String(smallest).padStart(6)} x1, x2, x4: ${figures.padEnd(22)} ms  exponent ${exponent.toFixed(2)} ${thrown}`,
  );
}
