import { type Trace, trace, traceMermaid, traceText } from "cautela";
import { print, writeText } from "./output.ts";
import { inputs, oneStatement, reviewedScript, type ScriptFlags } from "./reviewed-script.ts";
import { columns, terminalStyle } from "./style.ts";

export interface TraceFlags extends ScriptFlags {
  format: "text" | "json" | "mermaid";
  output?: string;
}

/** `cautela trace`: what each statement of a script writes besides what it names. */
export async function traceCommand(path: string, flags: TraceFlags): Promise<number> {
  const result = await reviewedScript(path, flags);
  const graph = trace(result, oneStatement(flags));
  const written = form(graph, flags);
  if (flags.output !== undefined) writeText(flags.output, written, inputs(path, flags));
  else await print(written);
  return 0;
}

function form(graph: Trace, { format, output }: TraceFlags): string {
  if (format === "json") return `${JSON.stringify(graph, null, 2)}\n`;
  if (format === "mermaid") return traceMermaid(graph);
  return output === undefined
    ? traceText(graph, { width: columns(process.stdout), style: terminalStyle(process.stdout) })
    : traceText(graph);
}
