import { type Hazard, hazards } from "cautela";
import { Failure } from "./failure.ts";
import { print } from "./output.ts";
import { columns, terminalStyle } from "./style.ts";

const MARKS = { stop: "■", ask: "◧", note: "□" } as const;

/** `cautela hazards [ID]`: the list, or one hazard's page. */
export async function hazardsCommand(id: string | undefined): Promise<number> {
  if (id === undefined) await print(list());
  else {
    const hazard = hazards.find((one) => one.id === id);
    if (!hazard) throw new Failure(`there is no hazard ${id}; cautela hazards lists them`);
    await print(page(hazard));
  }
  return 0;
}

function list(): string {
  const lines: string[] = [];
  const style = terminalStyle(process.stdout);
  const width = Math.max(...hazards.map((hazard) => hazard.id.length));
  let family = "";
  for (const hazard of hazards) {
    if (hazard.family !== family) {
      if (family !== "") lines.push("");
      family = hazard.family;
      lines.push(style("dim", family));
    }
    const mark = style(hazard.weight, `${MARKS[hazard.weight]} ${hazard.weight.padEnd(4)}`);
    lines.push(`${mark}  ${hazard.id.padEnd(width)}  ${hazard.title}`);
  }
  return `${lines.join("\n")}\n`;
}

function page(hazard: Hazard): string {
  const style = terminalStyle(process.stdout);
  const width = columns(process.stdout);
  const lines = [
    `${style(hazard.weight, `${MARKS[hazard.weight]} ${hazard.weight}`)}  ${style("strong", hazard.id)}  ${hazard.title}`,
    "",
    wrapped(hazard.explanation, width),
    ...besideOf(hazard).flatMap(([what, text]) => ["", style("dim", what), indented(text)]),
    "",
    style("dim", `dangerous (${hazard.example.dialect})`),
    indented(hazard.example.dangerous),
    "",
    style("dim", "sound"),
    indented(hazard.example.sound),
    "",
    wrapped(hazard.remedy, width),
  ];
  return `${lines.join("\n")}\n`;
}

/** What goes with the example besides the script: a policy, a date, another script. */
function besideOf({ example: { policy, date, beside } }: Hazard): [string, string][] {
  return [
    ...(policy ? [["with the policy", JSON.stringify(policy, null, 2)] as [string, string]] : []),
    ...(date ? [["on", date] as [string, string]] : []),
    ...(beside?.rewritten ? [["of the script is known", beside.rewritten] as [string, string]] : []),
    ...(beside?.undoes ? [["as the undo of", beside.undoes] as [string, string]] : []),
  ];
}

function indented(text: string): string {
  return text.replace(/^/gm, "  ");
}

function wrapped(text: string, width: number): string {
  let line = "";
  const lines: string[] = [];
  for (const word of text.split(" ")) {
    if (line !== "" && line.length + 1 + word.length > width) {
      lines.push(line);
      line = "";
    }
    line = line === "" ? word : `${line} ${word}`;
  }
  return [...lines, line].join("\n");
}
