import type { DialectId } from "cautela";

// Random schemas with keys, cascades, self-references, partitions, heirs, triggers and awkward names, their rows, and scripts
// that change them.

/** Numbers from a seed: the same at every run. */
export class Chance {
  #state: number;

  constructor(seed: number) {
    this.#state = seed >>> 0;
  }

  /** From 0 to just below 1 (Mulberry32). */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let t = this.#state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  below(n: number): number {
    return Math.floor(this.next() * n);
  }

  of<One>(list: readonly One[]): One {
    return list[this.below(list.length)];
  }

  yes(share: number): boolean {
    return this.next() < share;
  }
}

interface Reference {
  column: string;
  to: Drawn;
  onDelete: string;
  onUpdate: string;
}

/** A table that was drawn. */
interface Drawn {
  name: string;
  key: string[];
  numbers: string[];
  texts: string[];
  /** Types that only some engines have. */
  others: { name: string; type: string; values: string[] }[];
  references: Reference[];
  unique: string | null;
  rows: number;
}

const NAMES = ["barrel", "cellar", "Vine Row", "label", "order", "bottle", "Press"];
const TEXTS = ["'ash'", "'Birch'", "'CEDAR'", "'elm '", "'it''s'", "NULL", "'a\nb'"];

/** A schema with rows, and scripts that change them. */
export interface DrawnWalk {
  ddl: string;
  script: string;
}

export function drawWalk(dialect: DialectId, seed: number): DrawnWalk {
  const chance = new Chance(seed);
  const drawing = new Drawing(dialect, chance);
  return { ddl: drawing.schema(), script: drawing.script() };
}

class Drawing {
  readonly #dialect: DialectId;
  readonly #chance: Chance;
  readonly #tables: Drawn[] = [];
  readonly #late: string[] = [];
  #counted = false;

  constructor(dialect: DialectId, chance: Chance) {
    this.#dialect = dialect;
    this.#chance = chance;
  }

  #q(name: string): string {
    if (/^[a-z_]+$/.test(name) && name !== "order") return name;
    return this.#dialect === "mariadb" ? `\`${name}\`` : `"${name}"`;
  }

  // ------------------------------------------------------------ schema

  schema(): string {
    const chance = this.#chance;
    const parts: string[] = [];
    const count = 2 + chance.below(4);
    const text = this.#dialect === "sqlite" ? "text" : "varchar(20)";
    for (let i = 0; i < count; i++) {
      const name = NAMES[(i + chance.below(2) * 2) % NAMES.length];
      if (this.#tables.some((one) => one.name.toLowerCase() === name.toLowerCase())) continue;
      const table: Drawn = {
        name,
        key: chance.yes(0.12) ? [] : chance.yes(0.2) ? ["part", "number"] : ["id"],
        numbers: ["n", chance.yes(0.3) ? "Qty" : "m"],
        texts: ["t", ...(chance.yes(0.4) ? ["Remark"] : [])],
        others: this.#others(),
        references: [],
        unique: chance.yes(0.25) ? "code" : null,
        rows: 4 + chance.below(6),
      };
      for (const to of this.#tables)
        if (to.key.length === 1 && chance.yes(0.6)) table.references.push(this.#reference(to));
      if (table.key.length === 1 && chance.yes(0.35)) table.references.push(this.#reference(table));
      this.#tables.push(table);
      const lines = [
        ...table.key.map((one) => `${one} integer NOT NULL`),
        ...table.numbers.map((one) => `${this.#q(one)} integer`),
        ...table.texts.map((one) => `${this.#q(one)} ${text}`),
        ...table.others.map((one) => `${one.name} ${one.type}`),
        ...table.references.map((one) => `${one.column} integer`),
        ...(table.unique ? [`${table.unique} integer NOT NULL`] : []),
        ...(table.key.length > 0 ? [`PRIMARY KEY (${table.key.join(", ")})`] : []),
        ...(table.unique ? [`UNIQUE (${table.unique})`] : []),
        ...table.references.map(
          (one) =>
            `FOREIGN KEY (${one.column}) REFERENCES ${this.#q(one.to.name)} (id) ON DELETE ${one.onDelete} ON UPDATE ${one.onUpdate}`,
        ),
      ];
      if (chance.yes(0.2))
        lines.splice(
          table.key.length + 2,
          0,
          `doubled integer GENERATED ALWAYS AS (n * 2) ${this.#dialect === "sqlite" && chance.yes(0.5) ? "VIRTUAL" : "STORED"}`,
        );
      parts.push(...this.#created(table, lines, i === count - 1));
    }
    parts.push(
      "CREATE TABLE change_log (line_id integer PRIMARY KEY, what varchar(40));".replace(
        "line_id integer PRIMARY KEY",
        this.#numbered(),
      ),
    );
    parts.push(
      "CREATE TABLE counter (what varchar(20) NOT NULL PRIMARY KEY, n integer NOT NULL);",
      "INSERT INTO counter VALUES ('a', 1), ('b', 2);",
    );
    for (const table of this.#tables) parts.push(...this.#rows(table));
    for (const table of this.#tables) parts.push(...this.#triggers(table));
    return [...parts, ...this.#late].join("\n");
  }

  /** The table, in parts or with an heir where the engine has such. */
  #created(table: Drawn, lines: readonly string[], last: boolean): string[] {
    const chance = this.#chance;
    const name = this.#q(table.name);
    const plain = `CREATE TABLE ${name} (${lines.join(", ")})`;
    const divided = table.key.length === 1 && table.unique === null && chance.yes(0.2);
    if (this.#dialect === "mariadb")
      return [
        // A partitioned table takes no geometry (MariaDB knowledge base, "Partitioning Limitations").
        divided && last && table.references.length === 0 && !table.others.some(({ type }) => type === "point")
          ? `${plain} PARTITION BY HASH (id) PARTITIONS 2;`
          : `${plain};`,
      ];
    if (this.#dialect !== "postgresql") return [`${plain};`];
    const other = (what: string) => this.#q(`${table.name} ${what}`);
    if (divided)
      return [
        `${plain} PARTITION BY RANGE (id);`,
        `CREATE TABLE ${other("low")} PARTITION OF ${name} FOR VALUES FROM (MINVALUE) TO (4);`,
        `CREATE TABLE ${other("high")} PARTITION OF ${name} FOR VALUES FROM (4) TO (MAXVALUE);`,
      ];
    if (table.key.length !== 1 || table.unique !== null || !chance.yes(0.1)) return [`${plain};`];
    this.#late.push(
      `INSERT INTO ${other("heir")} (id, n, t, extra) VALUES (51, 2, 'ash', 'x'), (52, NULL, 'elm ', 'y');`,
    );
    return [`${plain};`, `CREATE TABLE ${other("heir")} (extra text, PRIMARY KEY (id)) INHERITS (${name});`];
  }

  #numbered(): string {
    if (this.#dialect === "postgresql") return "line_id integer GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY";
    return this.#dialect === "mariadb" ? "line_id integer AUTO_INCREMENT PRIMARY KEY" : "line_id integer PRIMARY KEY";
  }

  #others(): Drawn["others"] {
    const kinds: Partial<Record<DialectId, Drawn["others"]>> = {
      postgresql: [
        { name: "doc", type: "json", values: ["'{\"a\": 1}'", "'[1,  2]'", "NULL"] },
        { name: "amount", type: "numeric", values: ["1.50", "2", "NULL"] },
        { name: "spot", type: "point", values: ["'(1,2)'", "NULL"] },
        { name: "day", type: "date", values: ["'2026-01-02'", "NULL"] },
        { name: "list", type: "integer[]", values: ["'{1,2}'", "NULL"] },
      ],
      mariadb: [
        { name: "doc", type: "json", values: ["'{\"a\": 1}'", "NULL"] },
        { name: "amount", type: "decimal(8,2)", values: ["1.50", "2", "NULL"] },
        { name: "spot", type: "point", values: ["POINT(1,2)", "NULL"] },
        { name: "kind", type: "enum('x','y')", values: ["'x'", "'y'", "NULL"] },
        {
          name: "stamped",
          type: "timestamp NULL DEFAULT NULL ON UPDATE CURRENT_TIMESTAMP",
          values: ["'2026-01-02 03:04:05'", "NULL"],
        },
      ],
      sqlite: [
        { name: "amount", type: "numeric", values: ["1.5", "2", "'x'", "NULL"] },
        { name: "loose", type: "", values: ["1", "'1'", "x'00ff'", "NULL"] },
        { name: "folded", type: "text COLLATE NOCASE", values: ["'Ab'", "'aB'", "NULL"] },
      ],
    };
    return (kinds[this.#dialect] ?? []).filter(() => this.#chance.yes(0.3));
  }

  #reference(to: Drawn): Reference {
    const chance = this.#chance;
    return {
      column: `${to.name.replace(/\W/g, "_").toLowerCase()}_id`,
      to,
      onDelete: chance.of(["CASCADE", "CASCADE", "SET NULL", "NO ACTION"]),
      // SQLite and MariaDB update self-references in ways of their own.
      onUpdate: chance.of(["CASCADE", "NO ACTION"]),
    };
  }

  #rows(table: Drawn): string[] {
    const chance = this.#chance;
    const columns = [
      ...table.key,
      ...table.numbers,
      ...table.texts,
      ...table.others.map((one) => one.name),
      ...table.references.map((one) => one.column),
      ...(table.unique ? [table.unique] : []),
    ];
    const list: string[] = [];
    for (let i = 1; i <= table.rows; i++) {
      const values = [
        ...(table.key.length === 2 ? [String(Math.ceil(i / 2)), String(i)] : table.key.map(() => String(i))),
        ...table.numbers.map(() => (chance.yes(0.15) ? "NULL" : String(chance.below(6)))),
        ...table.texts.map(() => chance.of(TEXTS)),
        ...table.others.map((one) => chance.of(one.values)),
        ...table.references.map(({ to }) => {
          const most = to === table ? i - 1 : to.rows;
          return most === 0 || chance.yes(0.25) ? "NULL" : String(1 + chance.below(most));
        }),
        ...(table.unique ? [String(100 + i)] : []),
      ];
      list.push(`(${values.join(", ")})`);
    }
    return [
      `INSERT INTO ${this.#q(table.name)} (${columns.map((one) => this.#q(one)).join(", ")}) VALUES ${list.join(", ")};`,
    ];
  }

  #triggers(table: Drawn): string[] {
    const chance = this.#chance;
    const list: string[] = [];
    const id = table.name.replace(/\W/g, "_").toLowerCase();
    const event = chance.of(["INSERT", "UPDATE", "DELETE"]);
    if (chance.yes(0.25))
      list.push(this.#trigger(`${id}_told`, "AFTER", event, table, "INSERT INTO change_log (what) VALUES ('told');"));
    if (chance.yes(0.25) && !this.#counted) {
      this.#counted = true;
      list.push(
        this.#trigger(
          `${id}_counted`,
          "AFTER",
          chance.of(["INSERT", "UPDATE", "DELETE"]),
          table,
          "UPDATE counter SET n = n + 1 WHERE what = 'a';",
        ),
      );
    }
    if (chance.yes(0.2) && this.#dialect !== "sqlite") {
      const on = chance.of(["INSERT", "UPDATE"]);
      const body = this.#dialect === "mariadb" ? "SET NEW.t = UPPER(NEW.t);" : "NEW.t := upper(NEW.t);";
      list.push(this.#trigger(`${id}_tidied`, "BEFORE", on, table, body));
    }
    return list;
  }

  #trigger(name: string, timing: string, event: string, table: Drawn, body: string): string {
    const on = `${timing} ${event} ON ${this.#q(table.name)}`;
    switch (this.#dialect) {
      case "postgresql":
        return `CREATE FUNCTION ${name}() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN ${body} RETURN ${event === "DELETE" ? "OLD" : "NEW"}; END $$;\nCREATE TRIGGER ${name} ${on} FOR EACH ROW EXECUTE FUNCTION ${name}();`;
      case "mariadb":
        return `CREATE TRIGGER ${name} ${on} FOR EACH ROW ${body}`;
      default:
        return `CREATE TRIGGER ${name} ${on} BEGIN ${body} END;`;
    }
  }

  // ------------------------------------------------------------ scripts

  script(): string {
    const chance = this.#chance;
    const count = 1 + chance.below(chance.yes(0.5) ? 2 : 5);
    const statements: string[] = [];
    for (let i = 0; i < count; i++) statements.push(this.#statement(i));
    const begin = this.#dialect === "mariadb" ? "START TRANSACTION" : "BEGIN";
    if (chance.yes(0.3)) return `${[begin, ...statements, "COMMIT"].join(";\n")};\n`;
    return `${statements.join(";\n")};\n`;
  }

  #statement(at: number): string {
    const chance = this.#chance;
    const table = chance.of(this.#tables);
    const name = this.#q(table.name);
    switch (chance.below(12)) {
      case 0:
      case 1:
      case 2:
        return `UPDATE ${name} SET ${this.#sets(table)}${this.#where(table)}`;
      case 3:
      case 4:
      case 5:
        return `DELETE FROM ${name}${this.#where(table)}`;
      case 6:
        return this.#joined(table);
      case 7:
        return this.#insert(table);
      case 8:
        return this.#rekeyed(table);
      case 9:
        return this.#limited(table);
      case 10:
        return this.#structure(table, at);
      default:
        return this.#upsert();
    }
  }

  #sets(table: Drawn): string {
    const chance = this.#chance;
    const number = this.#q(chance.of(table.numbers));
    const text = this.#q(chance.of(table.texts));
    const other = table.others.length > 0 ? chance.of(table.others) : null;
    const sets = [
      chance.of([
        `${number} = ${number} + 1`,
        `${number} = 7`,
        `${number} = NULL`,
        `${number} = coalesce(${number}, 0) * 2`,
      ]),
      ...(chance.yes(0.4) ? [`${text} = ${chance.of([`upper(${text})`, "'new'", "NULL", `lower(${text})`])}`] : []),
      ...(other && chance.yes(0.5) ? [`${other.name} = ${chance.of(other.values)}`] : []),
    ];
    return sets.join(", ");
  }

  #where(table: Drawn): string {
    const chance = this.#chance;
    const number = this.#q(chance.of(table.numbers));
    const other = chance.of(this.#tables);
    const key = table.key[0];
    const list = [
      "",
      ` WHERE ${number} > ${chance.below(5)}`,
      ` WHERE ${number} IS NULL OR ${number} IN (1, 2, 3)`,
      ` WHERE ${this.#q(chance.of(table.texts))} = ${chance.of(["'ash'", "'Birch'"])}`,
      ` WHERE NOT (${number} BETWEEN 1 AND 3)`,
      ` WHERE ${number} IN (SELECT ${this.#q(other.numbers[0])} FROM ${this.#q(other.name)} WHERE ${this.#q(other.numbers[1])} > 1)`,
    ];
    if (key) list.push(` WHERE ${key} = ${1 + chance.below(6)}`, ` WHERE ${key} IN (1, 3, 4)`);
    return chance.of(list);
  }

  #joined(table: Drawn): string {
    const chance = this.#chance;
    const other = chance.of(this.#tables.filter((one) => one !== table)) ?? table;
    if (other === table || table.key.length === 0) return `DELETE FROM ${this.#q(table.name)}${this.#where(table)}`;
    const t = this.#q(table.name);
    const o = this.#q(other.name);
    const on = `x.n = ${t}.n`;
    const more = chance.yes(0.5) ? ` AND x.${this.#q(other.numbers[1])} > 1` : "";
    const deletes = chance.yes(0.5);
    if (this.#dialect === "mariadb")
      return deletes
        ? `DELETE ${t} FROM ${t} JOIN ${o} x ON ${on}${more}`
        : chance.yes(0.4) && other.key.length > 0
          ? `UPDATE ${t} JOIN ${o} x ON ${on} SET ${t}.t = 'both', x.t = 'both' WHERE ${t}.n > 0${more}`
          : `UPDATE ${t} JOIN ${o} x ON ${on} SET ${t}.t = 'joined' WHERE ${t}.n > 0${more}`;
    if (this.#dialect === "sqlite")
      return deletes
        ? `DELETE FROM ${t} WHERE EXISTS (SELECT 1 FROM ${o} x WHERE ${on}${more})`
        : `UPDATE ${t} SET t = 'joined' FROM ${o} x WHERE ${on}${more}`;
    return deletes
      ? `DELETE FROM ${t} USING ${o} x WHERE ${on}${more}`
      : `UPDATE ${t} SET t = 'joined' FROM ${o} AS x WHERE ${on}${more}`;
  }

  #insert(table: Drawn): string {
    const chance = this.#chance;
    const columns = [...table.key, "n", "t", ...(table.unique ? [table.unique] : [])]
      .map((one) => this.#q(one))
      .join(", ");
    const key = table.key.map((one) => `${one} + 50`);
    if (chance.yes(0.5))
      return `INSERT INTO ${this.#q(table.name)} (${columns}) SELECT ${[...key, "n", "'copied'", ...(table.unique ? [`${table.unique} + 1000`] : [])].join(", ")} FROM ${this.#q(table.name)}${this.#where(table)}`;
    const values = [
      ...table.key.map(() => String(60 + chance.below(5))),
      "1",
      "'added'",
      ...(table.unique ? [String(2000 + chance.below(50))] : []),
    ];
    return `INSERT INTO ${this.#q(table.name)} (${columns}) VALUES (${values.join(", ")})`;
  }

  #rekeyed(table: Drawn): string {
    if (table.key.length !== 1) return `UPDATE ${this.#q(table.name)} SET n = 0`;
    return this.#chance.yes(0.5)
      ? `UPDATE ${this.#q(table.name)} SET id = id + 100`
      : `UPDATE ${this.#q(table.name)} SET id = 99, n = 5 WHERE id = ${1 + this.#chance.below(4)}`;
  }

  #limited(table: Drawn): string {
    const name = this.#q(table.name);
    if (table.key.length !== 1) return `DELETE FROM ${name} WHERE n = 1`;
    if (this.#dialect === "mariadb")
      return this.#chance.of([
        `DELETE FROM ${name} LIMIT 2`,
        `UPDATE ${name} SET n = 9 ORDER BY n LIMIT 2`,
        `DELETE FROM ${name} WHERE RAND() < 0.4`,
      ]);
    return this.#chance.of([
      `DELETE FROM ${name} WHERE id IN (SELECT id FROM ${name} LIMIT 2)`,
      `UPDATE ${name} SET n = 9 WHERE id IN (SELECT id FROM ${name} ORDER BY n LIMIT 2)`,
      `UPDATE ${name} SET t = 'drawn' WHERE ${this.#dialect === "sqlite" ? "abs(random()) % 2 = 0" : "random() < 0.5"}`,
    ]);
  }

  #structure(table: Drawn, at: number): string {
    const chance = this.#chance;
    const name = this.#q(table.name);
    return chance.of([
      `ALTER TABLE ${name} ADD COLUMN extra_${at} integer`,
      `CREATE TABLE made_${at} AS SELECT ${table.key.length > 0 ? table.key[0] : "n"} AS k, n FROM ${name}${this.#where(table)}`,
      `CREATE INDEX index_${at} ON ${name} (n)`,
    ]);
  }

  #upsert(): string {
    const rows = "('a', 5), ('c', 6)";
    return this.#dialect === "mariadb"
      ? `INSERT INTO counter VALUES ${rows} ON DUPLICATE KEY UPDATE n = counter.n + 3`
      : `INSERT INTO counter VALUES ${rows} ON CONFLICT (what) DO UPDATE SET n = counter.n + 3`;
  }
}
