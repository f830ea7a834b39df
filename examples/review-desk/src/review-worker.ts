/// <reference lib="webworker" />
import { Catalog, catalogFromDdl, type Finding, heaviestFirst, rehearse, review, trace, visible } from "cautela";
import { catalogEntries } from "./catalog-entries.ts";
import type { Answer, Failure, Request } from "./messages.ts";

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
  try {
    self.postMessage(answerTo(request));
  } catch (error) {
    const failure: Failure = { id: request.id, failure: error instanceof Error ? error.message : String(error) };
    self.postMessage(failure);
    // Whether the page has the catalog is not known any more.
    builtFrom = "";
  }
});

function answerTo(request: Request): Answer {
  const began = performance.now();
  const before = builtFrom;
  const catalog = catalogOf(request);
  const result = review(request.text, { dialect: request.dialect, catalog });
  const { statements, findings, unchecked, traces, entries } = shown({
    statements: result.statements.map((one, i) => ({ ...one, start: result.read[i].start, end: result.read[i].end })),
    findings: byStatement(result.findings),
    unchecked: result.unchecked,
    traces: trace(result).statements,
    entries: catalog ? (builtFrom === before ? null : catalogEntries(catalog)) : [],
  });
  return {
    id: request.id,
    verdict: result.verdict,
    statements,
    findings,
    unchecked,
    traces,
    rehearsal: rehearse(result, { date: new Date().toISOString().slice(0, 10).replaceAll("-", "") }),
    tables: catalog?.size ?? 0,
    entries,
    milliseconds: performance.now() - began,
  };
}

/** Every text with stand-ins for what a page would act on and not show, such as marks that turn the direction of writing. */
function shown<T>(value: T): T {
  if (typeof value === "string") return visible(value, true) as T;
  if (Array.isArray(value)) return value.map(shown) as T;
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, shown(one)])) as T;
}

/** In the order of the script, and within a statement the heaviest first. */
function byStatement(findings: readonly Finding[]): Finding[] {
  const groups = new Map<number, Finding[]>();
  for (const finding of findings) groups.set(finding.statement, [...(groups.get(finding.statement) ?? []), finding]);
  return [...groups.values()].flatMap(heaviestFirst);
}
