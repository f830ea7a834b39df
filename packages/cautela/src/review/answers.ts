import { annotation } from "../analysis/script/annotations.ts";
import type { ReadStatement } from "../sql/reading/script.ts";
import type { LineMap } from "../text/lines.ts";
import type { Slice } from "../text/slice.ts";
import type { Answer } from "./result.ts";

/** How many answers of a script are kept. */
const KEPT = 2000;

/** What the comments of a script answer besides the findings that they accept, gathered statement by statement. */
export class Answers {
  readonly list: Answer[] = [];

  note({ comments }: ReadStatement, slice: Slice, lines: Pick<LineMap, "at">, statement: number): void {
    for (const { start, end } of comments) {
      if (this.list.length >= KEPT) return;
      const said = annotation(slice(start, end), { start, end });
      if (said === null || said.what === "accept" || said.what === "unknown") continue;
      const text = said.what === "dialect" ? said.dialect : said.text;
      this.list.push({ what: said.what, text, statement, line: lines.at(start).line });
    }
  }
}
