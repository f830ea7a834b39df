import { readFileSync } from "node:fs";
import { catalogFromDdl, type DialectId, review, type StatementTrace, trace } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { type Engine, openEngines, statementsOf } from "./databases.ts";
import { changes } from "./generated-changes.ts";

// Which tables a statement writes is the engine's to say: the tables are compared before and after, and
// everything that really changed must have been predicted.

const schema = (dialect: string): [string, string] => {
  const text = readFileSync(new URL(`ripples/${dialect}.sql`, import.meta.url), "utf8");
  const [ddl, statements] = text.split("-- statements\n");
  return [ddl, statements];
};

/** The places that are reached for sure, and one row at a time: what is after them must really change. */
function sure({ nodes, edges }: StatementTrace): Set<string> {
  const reached = new Set([0]);
  for (let grown = true; grown; ) {
    grown = false;
    for (const edge of edges) {
      if (!edge.certain || !reached.has(edge.from) || reached.has(edge.to)) continue;
      const node = nodes[edge.to];
      // A filter in a trigger's body may meet no row, and a key nobody may refer to.
      if (edge.how !== "statement" && (node.action !== "insert" || edge.how === "cascade")) continue;
      reached.add(edge.to);
      grown = true;
    }
  }
  return new Set(nodes.filter(({ id, written }) => written && reached.has(id)).map(({ name }) => bare(name)));
}

/** How many rows of a table are other ones than before. */
function rowsChanged(before: readonly string[], after: readonly string[]): number {
  const missing = (from: readonly string[], others: readonly string[]): number => {
    const left = new Map<string, number>();
    for (const row of others) left.set(row, (left.get(row) ?? 0) + 1);
    let count = 0;
    for (const row of from) {
      const rest = left.get(row) ?? 0;
      if (rest === 0) count++;
      else left.set(row, rest - 1);
    }
    return count;
  };
  return Math.max(missing(before, after), missing(after, before));
}

/** At most how many rows of a table can change, as the trace says. */
function boundOf(table: string, { nodes }: StatementTrace): number {
  let sum = 0;
  for (const { name, written, reach } of nodes) {
    if (!written || bare(name) !== table) continue;
    if (reach.bound === "one" || reach.bound === "few") sum += reach.rows ?? 1;
    else if (reach.bound !== "none") return Number.POSITIVE_INFINITY;
  }
  return sum;
}

const bare = (name: string): string => name.slice(name.lastIndexOf(".") + 1);

/** The rows of each table, each as text; a parent without the tables that inherit from it. */
async function contents(engine: Engine): Promise<string[][]> {
  const all: string[][] = [];
  for (const table of engine.tables) {
    const rows = await engine.rows(`SELECT * FROM ${engine.only}${table}`);
    all.push(rows.map((row) => JSON.stringify(row)));
  }
  return all;
}

async function compare(
  engine: Engine,
  sql: string,
  predict: (sql: string) => StatementTrace,
): Promise<{ refused: boolean }> {
  await engine.begin();
  try {
    const before = await contents(engine);
    let error = "";
    await engine.run(sql).catch((problem: unknown) => {
      error = String(problem);
    });
    const graph = predict(sql);
    if (error !== "") {
      const known = graph.notes.some(({ kind }) => ["refuses", "held", "sealed", "loop", "opaque"].includes(kind));
      expect(known, `${sql}: ${error}`).toBe(true);
      return { refused: true };
    }
    const after = await contents(engine);
    const changed = engine.tables.map((_, i) => rowsChanged(before[i], after[i]));
    const really = engine.tables.filter((_, i) => changed[i] > 0);
    const predicted = graph.nodes.filter(({ written }) => written).map(({ name }) => bare(name));
    expect(predicted, sql).toEqual(expect.arrayContaining(really));
    // And no more rows than the bounds of the places in the table say together.
    for (const [i, table] of engine.tables.entries())
      expect(changed[i], `${sql}: rows of ${table}`).toBeLessThanOrEqual(boundOf(table, graph));
    const swallowed = graph.notes.some(({ kind }) => kind === "swallows");
    const target = graph.nodes.find(({ written }) => written);
    if (really.length > 0 && target && really.includes(bare(target.name)) && !swallowed)
      for (const table of sure(graph)) expect(really, `${sql}: ${table} for sure`).toContain(table);
    return { refused: false };
  } finally {
    await engine.rollback();
  }
}

function predictor(ddl: string, dialect: DialectId): (sql: string) => StatementTrace {
  const catalog = catalogFromDdl(ddl, { dialect });
  const settings = dialect === "sqlite" ? { foreign_keys: "on" } : undefined;
  return (sql) => trace(review(sql, { dialect, catalog, policy: { settings } }), { statement: 0 }).statements[0];
}

const engines = await openEngines();

describe.each(engines)("on %s every table that is really written is predicted", async (dialect, open) => {
  const [ddl, statements] = schema(dialect);
  const engine = await open(ddl);
  const predict = predictor(ddl, dialect);
  afterAll(() => engine.close());

  test("hand-written statements over triggers, cascades, views and routines", async () => {
    for (const sql of statementsOf(statements, dialect)) {
      const { refused } = await compare(engine, sql, predict);
      expect([sql, refused]).toEqual([sql, false]);
    }
  });

  test("generated changes", async () => {
    await fc.assert(
      fc.asyncProperty(changes, async (sql) => {
        await compare(engine, sql, predict);
      }),
      { numRuns: 120 },
    );
  });
});
