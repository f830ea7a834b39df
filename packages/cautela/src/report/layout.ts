import stringWidth from "fast-string-width";
import { wrapAnsi } from "fast-wrap-ansi";
import { grouped } from "../hazards/wording.ts";
import { inOneLine, visible } from "../text/visible.ts";

/** What a piece of text is, so that a terminal can colour it. */
export type Role = "stop" | "ask" | "note" | "clear" | "strong" | "dim" | "code";

/** Paints a piece of text; the plain one leaves it as it is. */
export type Style = (role: Role, text: string) => string;

export const plainStyle: Style = (_role, text) => text;

/** Lines of text, wrapped to a width. */
export class TextLayout {
  readonly width: number;
  readonly style: Style;
  readonly #lines: string[] = [];

  constructor(width: number, style: Style) {
    this.width = width;
    this.style = style;
  }

  line(text = ""): void {
    this.#lines.push(text);
  }

  /** One blank line, whatever stands before. */
  gap(): void {
    if (this.#lines.length > 0 && this.#lines[this.#lines.length - 1] !== "") this.line();
  }

  /** A paragraph after a label; the lines that follow are indented as far. */
  paragraph(label: string, text: string, role?: Role): void {
    const indent = stringWidth(label);
    const lines = wrap(inOneLine(text), this.width - indent);
    lines.forEach((line, i) => {
      const painted = role ? this.style(role, line) : line;
      this.line((i === 0 ? this.style("dim", label) : " ".repeat(indent)) + painted);
    });
  }

  /** A line that may hold colours, wrapped; what goes on is indented. */
  wrapped(text: string, indent: number): void {
    if (stringWidth(text) <= this.width) {
      this.line(text);
      return;
    }
    const blanks = /^ */.exec(text)?.[0].length ?? 0;
    const lines = wrap(text.slice(blanks), this.width - Math.max(indent, blanks));
    lines.forEach((line, i) => {
      this.line(" ".repeat(i === 0 ? blanks : indent) + line);
    });
  }

  text(): string {
    return `${this.#lines.join("\n")}\n`;
  }
}

/** Lines of at most `width` columns; a word that is longer has a line of its own. */
export function wrap(text: string, width: number): string[] {
  return wrapAnsi(text, Math.max(1, width)).split("\n");
}

/** A line across the layout with a label in it. */
export function rule(label: string, layout: TextLayout): string {
  const left = "──";
  return layout.style("dim", left + label + "─".repeat(Math.max(0, layout.width - left.length - stringWidth(label))));
}

/** A line of at most `width` columns. */
export function cut(line: string, width: number): string {
  const text = visible(line);
  if (stringWidth(text) <= width) return text;
  let kept = "";
  let columns = 0;
  for (const character of text) {
    columns += stringWidth(character);
    if (columns > width - 1) break;
    kept += character;
  }
  return `${kept}…`;
}

/** "3 statements", "1 statement". */
export function counted(count: number, what: string, many = `${what}s`): string {
  return `${grouped(count)} ${count === 1 ? what : many}`;
}
