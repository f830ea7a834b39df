import { readdirSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { fileURLToPath } from "node:url";
import Ajv from "ajv/dist/2020.js";
import {
  catalogFromDdl,
  type DialectId,
  dialectIds,
  type Review,
  readScript,
  rehearsalMarkdown,
  rehearsalText,
  rehearse,
  review,
  trace,
  traceMermaid,
  traceText,
} from "cautela";
import { privilegesOf, reviewDocument } from "cautela/tools";
import fc from "fast-check";
import { describe, expect, test } from "vitest";

// Whatever a script holds and however it is broken: nothing throws, what is said has its place, and the parts agree.

const demo = (name: string) => readFileSync(fileURLToPath(new URL(`../../../demo/${name}`, import.meta.url)), "utf8");
const valid = new Ajv({ allErrors: true }).compile(createRequire(import.meta.url)("cautela/review.schema.json"));

/** Statements of the demo and of ordinary scripts, each with its text. */
function statementsOf(dialect: DialectId): string[] {
  const scripts = readdirSync(fileURLToPath(new URL(`../../../demo/scripts/${dialect}`, import.meta.url)));
  const file = dialect === "mariadb" ? "mysql" : dialect;
  const texts = [
    ...scripts.map((name) => demo(`scripts/${dialect}/${name}`)),
    readFileSync(new URL(`quiet/${file}.sql`, import.meta.url), "utf8"),
  ];
  return texts.flatMap((text) =>
    readScript(text, { dialect })
      .statements.filter(({ kind }) => kind !== "directive" && kind !== "unread")
      .map(({ start, end }) => text.slice(start, end)),
  );
}

/** What must hold of any review. */
function agrees(result: Review, text: string): void {
  const lines = text.split("\n").length;
  const order = ["clear", "note", "ask", "stop"];
  const heaviest = result.findings
    .filter(({ accepted }) => accepted === null)
    .reduce((worst, { weight }) => Math.max(worst, order.indexOf(weight)), 0);
  expect(result.verdict).toBe(order[heaviest]);
  for (const finding of result.findings) {
    expect(finding.line).toBeGreaterThan(0);
    expect(finding.endLine).toBeLessThanOrEqual(lines);
    expect(finding.statement).toBeLessThan(result.statementCount);
    expect(finding.message).not.toMatch(/undefined|NaN|\[object/);
    expect([...finding.because, finding.remedy].join("\n")).not.toMatch(/undefined|NaN|\[object/);
    expect(result.excerpts.get(finding.statement)).not.toBe(undefined);
  }
  valid(reviewDocument([result]));
  expect(valid.errors).toBeNull();
  const graphs = trace(result);
  for (const { nodes, edges, notes } of graphs.statements) {
    for (const { from, to } of edges) expect(Math.max(from, to)).toBeLessThan(nodes.length);
    for (const { node } of notes) expect(node).toBeLessThan(nodes.length);
  }
  expect(traceText(graphs) + traceMermaid(graphs)).not.toMatch(/undefined|NaN|\[object/);
  // Every table that the result lists as written stands in the graph.
  for (const { index, writes } of result.statements) {
    const graph = graphs.statements.find(({ statement }) => statement === index);
    for (const { table, action } of writes)
      if (action !== "create") expect(graph?.nodes.map(({ name }) => name)).toContain(table);
  }
}

describe.each(dialectIds)("%s", (dialect) => {
  const catalog = catalogFromDdl(demo(`data/${dialect}.sql`), {
    dialect,
    onto: catalogFromDdl(demo(`schema/${dialect}.sql`), { dialect }),
  });
  const pool = statementsOf(dialect);
  const end = dialect === "plsql" || dialect === "tsql" ? "\n;\n" : ";\n";

  test("scripts of any statements in any order", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...pool), { maxLength: 12 }), fc.boolean(), (parts, known) => {
        const text = parts.join(end);
        const result = review(text, { dialect, ...(known ? { catalog } : {}) });
        agrees(result, text);
        const rehearsal = rehearse(result, { date: "20261125" });
        const written = rehearsalText(rehearsal);
        expect(written + rehearsalMarkdown(rehearsal)).not.toMatch(/undefined|NaN|\[object/);
        const unread = readScript(written, { dialect }).statements.filter(({ kind }) => kind === "unread");
        expect(unread.map(({ start, end: to }) => written.slice(start, to))).toEqual([]);
        for (const { tree } of result.read) privilegesOf(tree, known ? catalog : null);
      }),
      { numRuns: 60 },
    );
  });

  test("scripts with holes in them", () => {
    const holed = fc
      .tuple(fc.array(fc.constantFrom(...pool), { minLength: 1, maxLength: 4 }), fc.array(fc.nat(), { maxLength: 6 }))
      .map(([parts, holes]) => {
        let text = parts.join(end);
        for (const hole of holes) {
          const at = hole % text.length;
          text = text.slice(0, at) + text.slice(at + 1 + (hole % 7));
        }
        return text;
      });
    fc.assert(
      fc.property(holed, (text) => {
        const result = review(text, { dialect, catalog });
        agrees(result, text);
        rehearsalText(rehearse(result));
      }),
      { numRuns: 120 },
    );
  });
});
