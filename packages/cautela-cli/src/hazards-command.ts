import { type Hazard, hazards } from "cautela";
import { Failure } from "./failure.ts";
import { columns, terminalInk } from "./ink.ts";

const MARKS = { stop: "■", ask: "◧", note: "□" } as const;

/** `cautela hazards [ID]`: the list, or one hazard's page. */
export function hazardsCommand(id: string | undefined): number {
  if (id === undefined) list();
  else {
    const hazard = hazards.find((one) => one.id === id);
    if (!hazard) throw new Failure(`there is no hazard ${id}; cautela hazards lists them`);
    page(hazard);
  }
  return 0;
}

function list(): void {
  const ink = terminalInk(process.stdout);
  const width = Math.max(...hazards.map((hazard) => hazard.id.length));
  let family = "";
  for (const hazard of hazards) {
    if (hazard.family !== family) {
      if (family !== "") console.log();
      family = hazard.family;
      console.log(ink("dim", family));
    }
    const mark = ink(hazard.weight, `${MARKS[hazard.weight]} ${hazard.weight.padEnd(4)}`);
    console.log(`${mark}  ${hazard.id.padEnd(width)}  ${hazard.title}`);
  }
}

function page(hazard: Hazard): void {
  const ink = terminalInk(process.stdout);
  const width = columns(process.stdout);
  console.log(
    `${ink(hazard.weight, `${MARKS[hazard.weight]} ${hazard.weight}`)}  ${ink("strong", hazard.id)}  ${hazard.title}`,
  );
  console.log();
  console.log(wrapped(hazard.explanation, width));
  console.log();
  console.log(ink("dim", `dangerous (${hazard.example.dialect})`));
  console.log(indented(hazard.example.dangerous));
  console.log();
  console.log(ink("dim", "sound"));
  console.log(indented(hazard.example.sound));
  console.log();
  console.log(wrapped(hazard.remedy, width));
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
