import { mkdirSync } from "node:fs";
import { basename, join } from "node:path";
import { type Rehearsal, rehearsalMarkdown, rehearsalText, rehearse } from "cautela";
import { PHASES, rehearsalPhase, visible } from "cautela/tools";
import { Failure } from "./failure.ts";
import { keepEarlier, print, writeText } from "./output.ts";
import { inputs, oneStatement, reviewedScript, type ScriptFlags } from "./reviewed-script.ts";
import { compactDay } from "./today.ts";

export interface RehearseFlags extends ScriptFlags {
  date?: string;
  format: "text" | "json" | "markdown";
  output?: string;
}

/** `cautela rehearse`: writes the queries that a careful person runs before and after a change. */
export async function rehearseCommand(path: string, flags: RehearseFlags): Promise<number> {
  const review = await reviewedScript(path, flags);
  const date = flags.date ?? compactDay(undefined);
  const rehearsal = rehearse(review, { date, ...oneStatement(flags) });
  if (flags.output !== undefined && flags.format === "text") await writePhases(rehearsal, flags.output, path, flags);
  else if (flags.output !== undefined) writeText(flags.output, form(rehearsal, flags.format), inputs(path, flags));
  else await print(shown(form(rehearsal, flags.format)));
  return 0;
}

function form(rehearsal: Rehearsal, format: RehearseFlags["format"]): string {
  if (format === "json") return `${JSON.stringify(rehearsal, null, 2)}\n`;
  return format === "markdown" ? rehearsalMarkdown(rehearsal) : rehearsalText(rehearsal);
}

/** On a terminal what would act on it is shown instead; anywhere else the text is SQL to the letter. */
function shown(text: string): string {
  return process.stdout.isTTY ? visible(text, true) : text;
}

/** One file for each phase: `04-clear.1-before.sql` and so on. What an earlier rehearsal has left there is kept beside. */
async function writePhases(rehearsal: Rehearsal, folder: string, path: string, flags: RehearseFlags): Promise<void> {
  const name = path === "-" ? "script" : basename(path).replace(/\.sql$/i, "");
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    throw new Failure(`cannot make the folder ${folder}: ${error instanceof Error ? error.message : String(error)}`);
  }
  for (const [i, phase] of PHASES.entries()) {
    const text = rehearsalPhase(rehearsal, phase);
    const file = join(folder, `${name}.${i + 1}-${phase}.sql`);
    const kept = keepEarlier(file, text, inputs(path, flags));
    if (kept !== null) console.error(`cautela: ${visible(file)} of an earlier rehearsal is kept as ${visible(kept)}`);
    if (text === null) continue;
    writeText(file, text, inputs(path, flags));
    await print(`${visible(file)}\n`);
  }
  if (rehearsal.sheets.length === 0) await print("No statement of this script changes rows.\n");
}
