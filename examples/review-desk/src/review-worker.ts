/// <reference lib="webworker" />
import { Catalog, catalogFromDdl, type Review, review, trace } from "cautela";
import { blocksByWeight, rehearseStepwise, unjudgedWords, visible } from "cautela/tools";
import { catalogEntries } from "./catalog-entries.ts";
import type { Answer, Failure, RehearsalRequest, Rehearsed, Request } from "./messages.ts";

/** The review that the page has, for its rehearsal. */
let last: { id: number; result: Review } | null = null;
/** The newest request that has not been answered: those before it are dropped. */
let waiting: Request | null = null;

/** The worker writes for so long, in milliseconds, before it looks whether something new has come. */
const SLICE = 25;

// The catalog is built again only when its text or the dialect changes, not at every key.
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

self.addEventListener("message", ({ data }: MessageEvent<Request | RehearsalRequest>) => {
  if ("rehearse" in data) {
    void rehearsed(data.rehearse).then(undefined, (error) => failed(data.rehearse, error));
    return;
  }
  const first = waiting === null;
  waiting = data;
  // What has come in the meantime is delivered before.
  if (first) setTimeout(answer, 0);
});

function answer(): void {
  const request = waiting;
  waiting = null;
  if (!request) return;
  last = null;
  try {
    self.postMessage(answerTo(request));
  } catch (error) {
    failed(request.id, error);
  }
}

function failed(id: number, error: unknown): void {
  const failure: Failure = { id, failure: error instanceof Error ? error.message : String(error) };
  self.postMessage(failure);
  // Whether the page has the catalog is not known any more.
  builtFrom = "";
}

/** Writes the rehearsal of the last review, as long as it is the last. */
async function rehearsed(id: number): Promise<void> {
  if (last?.id !== id) return;
  const date = new Date().toISOString().slice(0, 10).replaceAll("-", "");
  const steps = rehearseStepwise(last.result, { date });
  while (waiting === null && last?.id === id) {
    const until = performance.now() + SLICE;
    while (performance.now() < until) {
      const step = steps.next();
      if (!step.done) continue;
      const message: Rehearsed = { id, rehearsal: step.value };
      self.postMessage(message);
      return;
    }
    await new Promise((resolve) => setTimeout(resolve, 0));
  }
}

function answerTo(request: Request): Answer {
  const began = performance.now();
  const before = builtFrom;
  const catalog = catalogOf(request);
  const result = review(request.text, { dialect: request.dialect, catalog });
  last = { id: request.id, result };
  const { statements, findings, unchecked, traces, entries } = shown({
    statements: result.statements.map((one, i) => ({ ...one, start: result.read[i].start, end: result.read[i].end })),
    findings: blocksByWeight(result.findings).flat(),
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
    unjudged: unjudgedWords([result]),
    traces,
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
