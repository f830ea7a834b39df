/// <reference lib="webworker" />
import { Catalog, catalogFromDdl, type Finding, heaviestFirst, rehearse, review, trace } from "cautela";
import { catalogEntries } from "./catalog-entries.ts";
import type { Answer, Request } from "./messages.ts";

// The catalog is built anew only when its text or the dialect changes, not at every key.
let builtFrom = "";
let built: Catalog | undefined;

function catalogOf({ catalog, dialect }: Request): Catalog | undefined {
  if (catalog.length === 0) return undefined;
  const key = [dialect, ...catalog].join("\u0000");
  if (key !== builtFrom) {
    built = new Catalog(dialect);
    for (const text of catalog) built = catalogFromDdl(text, { dialect, onto: built });
    builtFrom = key;
  }
  return built;
}

self.addEventListener("message", (event: MessageEvent<Request>) => {
  const request = event.data;
  const began = performance.now();
  const before = builtFrom;
  const catalog = catalogOf(request);
  const result = review(request.text, { dialect: request.dialect, catalog });
  const answer: Answer = {
    id: request.id,
    verdict: result.verdict,
    statements: result.statements.map((one, i) => ({ ...one, start: result.read[i].start, end: result.read[i].end })),
    findings: byStatement(result.findings),
    unchecked: result.unchecked,
    traces: trace(result).statements,
    sheets: rehearse(result, { date: new Date().toISOString().slice(0, 10).replaceAll("-", "") }).sheets,
    tables: catalog?.size ?? 0,
    entries: catalog ? (builtFrom === before ? null : catalogEntries(catalog)) : [],
    milliseconds: performance.now() - began,
  };
  self.postMessage(answer);
});

/** In the order of the script, and within a statement the heaviest first. */
function byStatement(findings: readonly Finding[]): Finding[] {
  const groups = new Map<number, Finding[]>();
  for (const finding of findings) groups.set(finding.statement, [...(groups.get(finding.statement) ?? []), finding]);
  return [...groups.values()].flatMap(heaviestFirst);
}
