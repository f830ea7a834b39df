import { type Hazard, hazards } from "cautela";
import { Failure } from "./failure.ts";
import { columns, terminalInk } from "./ink.ts";
import { print } from "./output.ts";

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
  const ink = terminalInk(process.stdout);
  const width = Math.max(...hazards.map((hazard) => hazard.id.length));
  let family = "";
  for (const hazard of hazards) {
    if (hazard.family !== family) {
      if (family !== "") lines.push("");
      family = hazard.family;
      lines.push(ink("dim", family));
    }
    const mark = ink(hazard.weight, `${MARKS[hazard.weight]} ${hazard.weight.padEnd(4)}`);
    lines.push(`${mark}  ${hazard.id.padEnd(width)}  ${hazard.title}`);
  }
  return `${lines.join("\n")}\n`;
}

function page(hazard: Hazard): string {
  const ink = terminalInk(process.stdout);
  const width = columns(process.stdout);
  const lines = [
    `${ink(hazard.weight, `${MARKS[hazard.weight]} ${hazard.weight}`)}  ${ink("strong", hazard.id)}  ${hazard.title}`,
    "",
    wrapped(hazard.explanation, width),
    "",
    ink("dim", `dangerous (${hazard.example.dialect})`),
    indented(hazard.example.dangerous),
    "",
    ink("dim", "sound"),
    indented(hazard.example.sound),
    "",
    wrapped(hazard.remedy, width),
  ];
  return `${lines.join("\n")}\n`;
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
