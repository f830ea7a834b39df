import { writeFileSync } from "node:fs";
import { type DialectId, review, type Trace, trace, traceMermaid, traceText } from "cautela";
import { loadCatalog } from "./catalog-source.ts";
import { Failure } from "./failure.ts";
import { readText, writeText } from "./files.ts";
import { columns, terminalInk } from "./ink.ts";

export interface TraceFlags {
  dialect?: DialectId;
  catalog?: string[];
  statement?: number;
  format: "text" | "json" | "mermaid";
  output?: string;
}

/** `cautela trace`: what each statement of a script writes besides what it names. */
export async function traceCommand(path: string, flags: TraceFlags): Promise<number> {
  const loaded = await loadCatalog(flags.catalog ?? [], flags.dialect);
  for (const problem of loaded?.problems ?? []) console.error(`cautela: ${problem}`);
  if (!loaded) console.error("cautela: no catalog was given, so triggers, keys and views are not known (--catalog)");
  const { text } = readText(path);
  const result = review(text, {
    dialect: flags.dialect,
    catalog: loaded?.catalog,
    path: path === "-" ? "standard input" : path,
  });
  if (flags.statement !== undefined && flags.statement > result.statementCount)
    throw new Failure(`${result.path} has ${result.statementCount} statements, and no statement ${flags.statement}`);
  const graph = trace(result, flags.statement === undefined ? {} : { statement: flags.statement - 1 });
  const written = form(graph, flags);
  if (flags.output !== undefined) writeText(flags.output, written);
  else writeFileSync(1, written);
  return 0;
}

function form(graph: Trace, { format, output }: TraceFlags): string {
  if (format === "json") return `${JSON.stringify(graph, null, 2)}\n`;
  if (format === "mermaid") return traceMermaid(graph);
  return output === undefined
    ? traceText(graph, { width: columns(process.stdout), ink: terminalInk(process.stdout) })
    : traceText(graph);
}
