import type { DialectId } from "cautela";
import { Chance } from "./generated-walks.ts";

// Schemas as people grow them: tables in several schemas and over each other, partitions, heirs, keys that cascade, triggers,
// rules, and views over all of these, drawn from a grammar; and statements that change what was drawn.

interface Relation {
  /** As it is written: bare where the search path finds it. */
  name: string;
  columns: readonly string[];
  object: "table" | "view";
}

/** What was drawn: DDL with the rows, a statement an entry, and the changes to try on it. */
export interface DrawnSchema {
  ddl: string[];
  changes: string[];
}

/**
 * Draws a schema. What an engine refuses of it is left out by the caller, who asks it.
 *
 * @example drawSchema("postgresql", 7).changes[0] // "UPDATE dock.berth SET a = 5 WHERE id = 2"
 */
export function drawSchema(dialect: DialectId, seed: number): DrawnSchema {
  return new SchemaDrawing(dialect, new Chance(seed)).draw();
}

const TABLE_NAMES = ["berth", "crew", "slip", "boat", "tide"];
const COLUMNS = ["id", "p", "a", "b"];
const ACTIONS = [
  "",
  "",
  " ON DELETE CASCADE",
  " ON DELETE SET NULL",
  " ON DELETE CASCADE ON UPDATE CASCADE",
  " ON UPDATE CASCADE",
];

class SchemaDrawing {
  readonly #dialect: DialectId;
  readonly #chance: Chance;
  readonly #ddl: string[] = [];
  readonly #relations: Relation[] = [];
  readonly #isPostgres: boolean;
  readonly #isMaria: boolean;
  #number = 0;

  constructor(dialect: DialectId, chance: Chance) {
    this.#dialect = dialect;
    this.#chance = chance;
    this.#isPostgres = dialect === "postgresql";
    this.#isMaria = dialect === "mariadb";
  }

  draw(): DrawnSchema {
    const chance = this.#chance;
    if (this.#isPostgres)
      this.#ddl.push(
        "CREATE SCHEMA dock",
        "CREATE SCHEMA quay",
        `SET search_path = ${chance.of(["public", "dock, public", "quay, dock", "nowhere, quay, public"])}`,
      );
    this.#ddl.push("CREATE TABLE journal (what varchar(20), ref integer)");
    for (let i = 0; i < 3 + chance.below(3); i++) this.#table();
    if (this.#isPostgres && chance.yes(0.5)) this.#partitioned();
    if (this.#isPostgres && chance.yes(0.3)) this.#heir();
    const tables = [...this.#relations];
    for (const { name } of tables) this.#rows(name);
    for (let i = 0; i < 2 + chance.below(5); i++) this.#view();
    for (let i = 0; i < chance.below(5); i++) this.#trigger(chance.of(tables));
    for (let i = 0; i < chance.below(3); i++) this.#aside(chance.of(this.#relations));
    return { ddl: this.#ddl, changes: Array.from({ length: 14 }, () => this.#change()) };
  }

  /** A name of its own for what has no schema. */
  #fresh(prefix: string): string {
    return `${prefix}${this.#number++}`;
  }

  #tables(): Relation[] {
    return this.#relations.filter(({ object }) => object === "table");
  }

  // ------------------------------------------------------------ tables

  #table(): void {
    const chance = this.#chance;
    const bare = chance.of(TABLE_NAMES);
    const place = this.#isPostgres ? chance.of(["", "", "dock.", "quay.", "public."]) : "";
    const temporary = chance.yes(0.12) ? (this.#dialect === "sqlite" ? "TEMP " : "TEMPORARY ") : "";
    const name = temporary === "" ? place + bare : bare;
    const parents = this.#tables();
    const parent = parents.length > 0 && chance.yes(0.7) ? chance.of(parents).name : null;
    const key = parent === null ? "" : `, FOREIGN KEY (p) REFERENCES ${parent} (id)${chance.of(ACTIONS)}`;
    this.#ddl.push(
      `CREATE ${temporary}TABLE ${name} (id integer PRIMARY KEY, p integer, a integer DEFAULT 1, b varchar(20)${key})`,
    );
    this.#relations.push({ name, columns: COLUMNS, object: "table" });
  }

  #partitioned(): void {
    const chance = this.#chance;
    const name = chance.of(["", "dock."]) + this.#fresh("lane");
    const parent = chance.of(this.#tables()).name;
    const key = chance.yes(0.5) ? `, FOREIGN KEY (p) REFERENCES ${parent} (id) ON DELETE CASCADE` : "";
    const below = chance.yes(0.4);
    this.#ddl.push(
      `CREATE TABLE ${name} (id integer PRIMARY KEY, p integer, a integer DEFAULT 1, b varchar(20)${key}) PARTITION BY RANGE (id)`,
      `CREATE TABLE ${name}_low PARTITION OF ${name} FOR VALUES FROM (MINVALUE) TO (3)`,
      `CREATE TABLE ${name}_high PARTITION OF ${name} DEFAULT${below ? " PARTITION BY RANGE (id)" : ""}`,
    );
    if (below) this.#ddl.push(`CREATE TABLE ${name}_top PARTITION OF ${name}_high DEFAULT`);
    for (const leaf of ["", "_low", "_high"])
      this.#relations.push({ name: name + leaf, columns: COLUMNS, object: "table" });
  }

  #heir(): void {
    const name = this.#fresh("heir");
    this.#ddl.push(`CREATE TABLE ${name} (extra integer) INHERITS (${this.#chance.of(this.#tables()).name})`);
    this.#relations.push({ name, columns: COLUMNS, object: "table" });
  }

  #rows(table: string): void {
    for (let id = 1; id <= 4; id++)
      this.#ddl.push(
        `INSERT INTO ${table} (id, p, a, b) VALUES (${id}, ${this.#chance.of(["1", "2", "NULL"])}, ${id * 2}, 'b${id}')`,
      );
  }

  // ------------------------------------------------------------ views

  #view(): void {
    const chance = this.#chance;
    const name = (this.#isPostgres ? chance.of(["", "", "quay."]) : "") + this.#fresh("v");
    const { query, columns } = this.#query(2);
    const check = chance.yes(0.1) && this.#dialect !== "sqlite" ? " WITH CHECK OPTION" : "";
    const renamed = chance.yes(0.15);
    const names = renamed ? columns.map((_, i) => `n${i}`) : columns;
    const algorithm = this.#isMaria && chance.yes(0.1) ? "ALGORITHM = TEMPTABLE " : "";
    this.#ddl.push(`CREATE ${algorithm}VIEW ${name}${renamed ? ` (${names.join(", ")})` : ""} AS ${query}${check}`);
    this.#relations.push({ name, columns: names, object: "view" });
  }

  /** A SELECT whose columns have names of their own. */
  #query(depth: number): { query: string; columns: string[] } {
    const chance = this.#chance;
    const first = this.#source("x", depth);
    const sources = [first];
    let from = `${first.text} x`;
    if (chance.yes(0.3)) {
      const second = this.#source("y", depth);
      sources.push(second);
      const on = `x.${chance.of(first.columns)} = y.${chance.of(second.columns)}`;
      from += chance.yes(0.15)
        ? `, ${second.text} y`
        : ` ${chance.of(["JOIN", "JOIN", "LEFT JOIN"])} ${second.text} y ON ${on}`;
    }
    if (sources.length === 1 && chance.yes(0.12))
      return { query: `SELECT * FROM ${first.text} x`, columns: [...first.columns] };
    const items: string[] = [];
    const columns: string[] = [];
    for (const [i, source] of sources.entries())
      for (const column of source.columns) {
        if (i > 0 && chance.yes(0.6)) continue;
        if (i === 0 && columns.length > 0 && chance.yes(0.15)) continue;
        const alias = columns.includes(column) || chance.yes(0.1) ? `${column}${columns.length}` : column;
        if (columns.includes(alias)) continue;
        items.push(`${source.alias}.${column}${alias === column ? "" : ` AS ${alias}`}`);
        columns.push(alias);
      }
    if (chance.yes(0.3)) {
      items.push(`${this.#expression(first)} AS e`);
      columns.push("e");
    }
    const distinct = chance.yes(0.06) ? "DISTINCT " : "";
    const where = chance.yes(0.45) ? ` WHERE ${this.#condition(first)}` : "";
    const tail = chance.yes(0.12) ? chance.of([" LIMIT 3", ` ORDER BY 1`, " ORDER BY 1 LIMIT 2"]) : "";
    const select = `SELECT ${distinct}${items.join(", ")} FROM ${from}${where}${tail}`;
    if (tail === "" && chance.yes(0.05)) return { query: `${select} UNION ALL ${select}`, columns };
    if (tail === "" && chance.yes(0.05))
      return {
        query: `SELECT x.${first.columns[0]}, count(*) AS n FROM ${from}${where} GROUP BY x.${first.columns[0]}`,
        columns: [first.columns[0], "n"],
      };
    if (!this.#isMaria && chance.yes(0.05)) return { query: `WITH w AS (${select}) SELECT * FROM w`, columns };
    return { query: select, columns };
  }

  #source(alias: string, depth: number): { text: string; alias: string; columns: readonly string[] } {
    const chance = this.#chance;
    if (depth > 0 && chance.yes(0.1)) {
      const { query, columns } = this.#query(depth - 1);
      return { text: `(${query})`, alias, columns };
    }
    const views = this.#relations.filter(({ object }) => object === "view");
    const relation = views.length > 0 && chance.yes(0.4) ? chance.of(views) : chance.of(this.#relations);
    return { text: relation.name, alias, columns: relation.columns };
  }

  #expression({ alias, columns }: { alias: string; columns: readonly string[] }): string {
    const chance = this.#chance;
    const column = `${alias}.${chance.of(columns)}`;
    const other = chance.of(this.#relations);
    const list = [
      "7",
      `coalesce(${column}, ${column})`,
      `(${column})`,
      `CASE WHEN ${column} IS NULL THEN 1 ELSE 2 END`,
      `(SELECT max(z.${chance.of(other.columns)}) FROM ${other.name} z)`,
      `row_number() OVER (ORDER BY ${column})`,
      "count(*)",
    ];
    if (this.#isPostgres) list.push(`${column}::text`, "now()", "generate_series(1, 2)");
    if (this.#isMaria) list.push("rand()", "now()", `if(${column} IS NULL, 1, 2)`);
    return chance.of(list);
  }

  #condition({ alias, columns }: { alias: string; columns: readonly string[] }): string {
    const chance = this.#chance;
    const column = `${alias}.${chance.of(columns)}`;
    const other = chance.of(this.#relations);
    const inner = chance.of(other.columns);
    return chance.of([
      `${column} IS NOT NULL`,
      `${column} IS NOT NULL`,
      `EXISTS (SELECT 1 FROM ${other.name} z WHERE z.${inner} IS NOT NULL)`,
      `EXISTS (SELECT 1 FROM ${other.name} z WHERE z.${inner} = ${column})`,
      `${column} = (SELECT max(z.${inner}) FROM ${other.name} z)`,
    ]);
  }

  // ------------------------------------------------------------ code

  /** What a trigger does to another table. */
  #act(row: string | null): string {
    const chance = this.#chance;
    const { name } = chance.of(this.#tables());
    const which = row === null ? "1" : `${row}.id`;
    return chance.of([
      `INSERT INTO journal (what, ref) VALUES ('${name}', ${which})`,
      `INSERT INTO journal (what, ref) VALUES ('${name}', ${which})`,
      `UPDATE ${name} SET a = a + 1 WHERE id = ${which}`,
      `DELETE FROM ${name} WHERE p = ${which}`,
    ]);
  }

  #trigger(table: Relation): void {
    const chance = this.#chance;
    const event = chance.of(["INSERT", "UPDATE", "DELETE"]);
    const row = event === "DELETE" ? "OLD" : "NEW";
    const name = this.#fresh("t");
    if (this.#isMaria) {
      const moment = chance.of(["BEFORE", "AFTER"]);
      this.#ddl.push(`CREATE TRIGGER ${name} ${moment} ${event} ON ${table.name} FOR EACH ROW ${this.#act(row)}`);
      return;
    }
    const of = event === "UPDATE" && chance.yes(0.4) ? " OF a" : "";
    const when = chance.yes(0.3) ? ` WHEN (${row}.a > ${chance.of(["0", "5", "900"])})` : "";
    if (this.#dialect === "sqlite") {
      const moment = chance.of(["BEFORE", "AFTER"]);
      this.#ddl.push(
        `CREATE TRIGGER ${name} ${moment} ${event}${of} ON ${table.name}${when} BEGIN ${this.#act(row)}; END`,
      );
      return;
    }
    const each = chance.yes(0.75);
    const before = each && chance.yes(0.3);
    const back = before ? chance.of([row, row, row, "NULL"]) : "NULL";
    this.#ddl.push(
      `CREATE FUNCTION ${name}() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF pg_trigger_depth() < 5 THEN ${this.#act(each ? row : null)}; END IF; RETURN ${back}; END $$`,
      `CREATE TRIGGER ${name} ${before ? "BEFORE" : "AFTER"} ${event}${of} ON ${table.name} FOR EACH ${each ? "ROW" : "STATEMENT"}${each ? when : ""} EXECUTE FUNCTION ${name}()`,
    );
  }

  /** An INSTEAD OF trigger or a rule on a table or a view. */
  #aside(on: Relation): void {
    const chance = this.#chance;
    const event = chance.of(["INSERT", "UPDATE", "DELETE"]);
    const name = this.#fresh("s");
    const act = `INSERT INTO journal (what, ref) VALUES ('aside', 1)`;
    if (this.#dialect === "sqlite" && on.object === "view")
      this.#ddl.push(`CREATE TRIGGER ${name} INSTEAD OF ${event} ON ${on.name} BEGIN ${act}; END`);
    if (!this.#isPostgres) return;
    if (on.object === "view" && chance.yes(0.5)) {
      this.#ddl.push(
        `CREATE FUNCTION ${name}() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN ${act}; RETURN ${event === "DELETE" ? "OLD" : "NEW"}; END $$`,
        `CREATE TRIGGER ${name} INSTEAD OF ${event} ON ${on.name} FOR EACH ROW EXECUTE FUNCTION ${name}()`,
      );
      return;
    }
    const how = chance.of(["ALSO", "INSTEAD"]);
    const what = chance.of([act, act, "NOTHING"]);
    this.#ddl.push(`CREATE RULE ${name} AS ON ${event} TO ${on.name} DO ${how} ${what}`);
  }

  // ------------------------------------------------------------ changes

  #change(): string {
    const chance = this.#chance;
    const relation = chance.yes(0.5) ? chance.of(this.#relations) : chance.of(this.#relations.slice(-6));
    const { name, columns } = relation;
    const column = chance.of(columns);
    const value = column === "b" ? "'new'" : chance.of(["5", "9", column, `${column} + 10`]);
    const filter = chance.of(["", "", ` WHERE ${columns[0]} = 2`, ` WHERE ${columns[0]} > 1`]);
    const only = this.#isPostgres && relation.object === "table" && chance.yes(0.15) ? "ONLY " : "";
    const second = chance.of(this.#relations);
    const list: string[] = [
      `UPDATE ${only}${name} SET ${column} = ${value}${filter}`,
      `UPDATE ${only}${name} SET ${column} = ${value}${filter}`,
      `DELETE FROM ${only}${name}${filter}`,
      `DELETE FROM ${only}${name}${filter}`,
      `INSERT INTO ${name} (${columns.slice(0, 2).join(", ")}) VALUES (${columns
        .slice(0, 2)
        .map((one) => (one === "b" ? "'n'" : one === "p" ? "1" : "70"))
        .join(", ")})`,
      `INSERT INTO ${name} (${columns[0]}) SELECT ${second.columns[0]} FROM ${second.name} WHERE 1 = 0`,
    ];
    if (this.#isPostgres)
      list.push(
        `WITH gone AS (DELETE FROM ${name}${filter} RETURNING 1) SELECT count(*) FROM gone`,
        `WITH w AS (UPDATE ${name} SET ${column} = ${value}${filter} RETURNING 1) INSERT INTO journal (ref) SELECT 3 FROM w`,
        `UPDATE ${name} t SET ${column} = ${value.replace(column, `t.${column}`)} FROM ${second.name} s WHERE s.${second.columns[0]} = 2`,
        `DELETE FROM ${name} t USING ${second.name} s WHERE s.${second.columns[0]} IS NOT NULL`,
        `MERGE INTO ${name} t USING (SELECT 2 AS k) s ON t.${columns[0]} = s.k WHEN MATCHED THEN UPDATE SET ${column} = ${value.replace(column, `t.${column}`)} WHEN NOT MATCHED THEN DO NOTHING`,
        `TRUNCATE ${only}${name}${chance.of(["", " CASCADE"])}`,
      );
    if (this.#isMaria)
      list.push(
        `UPDATE ${name} t JOIN ${second.name} s ON s.${second.columns[0]} IS NOT NULL SET t.${column} = ${value.replace(column, `t.${column}`)}`,
        `DELETE t FROM ${name} t JOIN ${second.name} s ON s.${second.columns[0]} IS NOT NULL`,
        `REPLACE INTO ${name} (${columns[0]}) VALUES (2)`,
      );
    if (this.#dialect === "sqlite") list.push(`REPLACE INTO ${name} (${columns[0]}) VALUES (2)`);
    return chance.of(list);
  }
}
