import type { Span } from "../../sql/nodes/tree.ts";

/** What an author has said in a comment of the script. */
export type Annotation = Span &
  (
    | { what: "accept"; hazard: string; reason: string }
    | { what: "dialect"; dialect: string }
    | { what: "expect" | "backup" | "install" | "unknown"; text: string }
  );

/** Reads `-- cautela: …` comments; anything else gives null. */
export function annotation(comment: string, span: Span): Annotation | null {
  const match = /^(?:--|#|\/\*)\s*cautela\s*:\s*([\s\S]*?)(?:\*\/)?$/i.exec(comment);
  if (!match) return null;
  const text = match[1].trim();
  const word = /^[a-z]+/i.exec(text)?.[0].toLowerCase() ?? "";
  const rest = text.slice(word.length).trim();
  const { start, end } = span;
  if (word === "accept") {
    const comma = rest.indexOf(",");
    const hazard = (comma < 0 ? rest : rest.slice(0, comma)).trim();
    return { what: "accept", hazard, reason: comma < 0 ? "" : rest.slice(comma + 1).trim(), start, end };
  }
  if (word === "dialect") return { what: "dialect", dialect: rest.toLowerCase(), start, end };
  if (word === "expect" || word === "backup" || word === "install") return { what: word, text: rest, start, end };
  return { what: "unknown", text, start, end };
}
