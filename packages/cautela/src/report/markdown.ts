import { reachWords } from "../hazards/wording.ts";
import {
  blocksByWeight,
  type Finding,
  heaviestFirst,
  type ReviewedScript,
  type StatementReview,
} from "../review/result.ts";
import { dialects } from "../sql/dialects/index.ts";
import { visible } from "../text/visible.ts";
import { counted } from "./layout.ts";
import { codeBlock, escapedMarkdown, messageMarkdown } from "./markdown-text.ts";
import { MARKS } from "./marks.ts";
import { answerText, placesText, scriptName, totalsOf, VERDICT_WORDS } from "./totals.ts";

/** A comment may be no longer than this, in characters; review pages take some more. */
const MOST = 58_000;

/** The heaviest findings that are shown in full. */
const FULL = 8;

/** Scripts that the table names. */
const SCRIPTS = 40;

/** Lines of a statement that are shown, and the length of each. */
const LINES = 6;
const WIDTH = 160;

/** A finding with the script in which it stands. */
interface Found {
  review: ReviewedScript;
  finding: Finding;
}

/**
 * Reviews as Markdown for a comment on a change: the verdict, the heaviest findings with their statements and their reach in
 * words, the rest folded. Never longer than 58,000 characters; what is left out is counted.
 */
export function markdownReport(reviews: readonly ReviewedScript[]): string {
  const found: Found[] = reviews.flatMap((review) =>
    heaviestFirst(review.findings).map((finding) => ({ review, finding })),
  );
  const open = found.filter(({ finding }) => finding.accepted === null);
  const blocks = weightyBlocks(reviews);
  const text = new BoundedText(MOST);
  text.add(`${head(reviews)}\n`);
  if (reviews.length > 1) text.add(table(reviews));
  const several = reviews.length > 1;
  const countFrom = (from: number): number =>
    blocks.slice(from).reduce((sum, { findings }) => sum + findings.length, 0);
  blocks.slice(0, FULL).forEach((block, i) => void text.add(inFull(block, several), countFrom(i)));
  const rest = blocks.slice(FULL).flatMap(({ review, findings }) => findings.map((finding) => ({ review, finding })));
  text.fold(
    "more to answer",
    rest.map((one) => line(one, several)),
  );
  text.fold(
    "note",
    open.filter(isOf("note")).map((one) => line(one, several)),
    "notes",
  );
  const accepted = found.filter(({ finding }) => finding.accepted !== null);
  text.fold(
    "accepted",
    accepted.map((one) => line(one, several)),
  );
  text.fold("answer", answers(reviews, several), "answers");
  text.fold("not judged", unchecked(reviews, several));
  return text.toString();
}

function isOf(weight: Finding["weight"]): (found: Found) => boolean {
  return ({ finding }) => finding.weight === weight;
}

/** What stops or asks, of one statement each. */
interface Block {
  review: ReviewedScript;
  findings: Finding[];
}

/** The heaviest first, and as heavy ones in the order of the scripts. */
function weightyBlocks(reviews: readonly ReviewedScript[]): Block[] {
  const blocks = reviews.flatMap((review) =>
    blocksByWeight(review.findings.filter(({ accepted, weight }) => accepted === null && weight !== "note")).map(
      (findings) => ({ review, findings }),
    ),
  );
  const isStop = ({ findings: [first] }: Block): boolean => first.weight === "stop";
  return [...blocks.filter(isStop), ...blocks.filter((block) => !isStop(block))];
}

function head(reviews: readonly ReviewedScript[]): string {
  const totals = totalsOf(reviews);
  const counts = (["stop", "ask", "note"] as const)
    .filter((weight) => totals[weight] > 0)
    .map((weight) => `${MARKS[weight]} ${totals[weight]} ${weight}`);
  const more = [
    ...(totals.accepted > 0 ? [`${totals.accepted} accepted`] : []),
    ...(totals.known > 0 ? [`${totals.known} in the baseline`] : []),
    ...(totals.unchecked > 0 ? [`${totals.unchecked} unchecked`] : []),
  ];
  const said = [...(counts.length > 0 ? counts : ["nothing found"]), ...more].join(", ");
  const [only] = reviews;
  const what =
    reviews.length === 1
      ? `${escapedMarkdown(shownPath(only))} (${dialects[only.dialect].title}, ${counted(only.statementCount, "statement")})`
      : `${counted(reviews.length, "script")}, ${counted(totals.statements, "statement")}`;
  return `## ${MARKS[totals.verdict]} ${VERDICT_WORDS[totals.verdict]}\n\n${what}: ${said}.`;
}

function table(reviews: readonly ReviewedScript[]): string {
  // Of many the first heavy ones are named.
  const heavy = reviews.filter(({ verdict }) => verdict !== "clear");
  const named = reviews.length <= SCRIPTS ? reviews : heavy.slice(0, SCRIPTS);
  if (named.length === 0) return "";
  const rows = named.map((review) => {
    const { stop, ask, note } = totalsOf([review]);
    const cell = (count: number): string => (count === 0 ? "" : String(count));
    return `| ${escapedMarkdown(shownPath(review))} | ${MARKS[review.verdict]} ${review.verdict} | ${cell(stop)} | ${cell(ask)} | ${cell(note)} |`;
  });
  const left = reviews.length - named.length;
  const more = left > 0 ? `\n${counted(left, "script")} more${heavy.length <= SCRIPTS ? ", all clear" : ""}.\n` : "";
  return `| script | verdict | stop | ask | note |\n| --- | --- | --: | --: | --: |\n${rows.join("\n")}\n${more}`;
}

/** The statement with the heaviest of what was found in full, and the others a line each. */
function inFull({ review, findings: [finding, ...others] }: Block, several: boolean): string {
  const { hazard, weight, message, because, remedy, statement } = finding;
  const own = review.statements.find(({ index }) => index === statement);
  const also = finding.places.length > 0 ? `, also on ${placesText(finding)}` : "";
  const parts = [
    `### ${MARKS[weight]} ${hazard}: ${several ? `${escapedMarkdown(shownPath(review))}, ` : ""}line ${finding.line}${also}`,
    messageMarkdown(cutTo(message, 900)),
  ];
  const excerpt = review.excerpts.get(statement);
  if (excerpt) parts.push(codeBlock(excerptOf(excerpt), "sql"));
  if (own) {
    const reach = reachOf(own);
    if (reach !== "") parts.push(reach);
  }
  const reasons = because.slice(0, 8).map((reason) => `- ${messageMarkdown(cutTo(reason, 400))}`);
  if (because.length > 8) reasons.push(`- and ${because.length - 8} more`);
  if (reasons.length > 0) parts.push(reasons.join("\n"));
  if (remedy !== "") parts.push(`**Instead:** ${messageMarkdown(cutTo(remedy, 900))}`);
  if (others.length > 0)
    parts.push(`Also:\n\n${others.map((one) => line({ review, finding: one }, several, statement)).join("\n")}`);
  return `${parts.join("\n\n")}\n`;
}

function reachOf({ reach, target, kind }: StatementReview): string {
  if (!reach) return "";
  const what = kind === "insert" ? "Inserts" : "Reach";
  const into = target === null ? "" : ` ${kind === "insert" ? "into" : "of"} ${messageMarkdown(`\`${target}\``)}`;
  return `${what}: ${reachWords(reach)}${into}.`;
}

/** A finding in one line; its place is left out where it stands under its statement. */
function line({ review, finding }: Found, several: boolean, under: number | null = null): string {
  const { hazard, weight, message, accepted } = finding;
  const place =
    under === finding.statement
      ? ""
      : `, ${several ? `${escapedMarkdown(shownPath(review))}, ` : ""}line ${finding.line}`;
  const also = finding.places.length > 0 ? ` (also on ${placesText(finding)})` : "";
  const reason = accepted === null ? "" : ` Accepted: ${messageMarkdown(cutTo(accepted, 200))}.`;
  return `- ${MARKS[weight]} ${hazard}${place}${also}: ${messageMarkdown(cutTo(message, 300))}${reason}`;
}

/** What comments of the scripts say. */
function answers(reviews: readonly ReviewedScript[], several: boolean): string[] {
  return reviews.flatMap((review) =>
    review.answers.map((answer) => {
      const place = several ? `${escapedMarkdown(shownPath(review))}, ` : "";
      return `- ${place}line ${answer.line}: ${messageMarkdown(cutTo(answerText(answer), 300))}`;
    }),
  );
}

function unchecked(reviews: readonly ReviewedScript[], several: boolean): string[] {
  return reviews.flatMap((review) =>
    review.unchecked.map(({ missing, lines }) => {
      const place = several ? `${escapedMarkdown(shownPath(review))}, ` : "";
      return `- ${place}line ${lines.slice(0, 6).join(", ")}${lines.length > 6 ? " …" : ""}: ${messageMarkdown(cutTo(missing, 300))}`;
    }),
  );
}

function excerptOf(excerpt: string): string {
  const lines = visible(excerpt, true).trimEnd().split("\n");
  const shown = lines.slice(0, LINES).map((text) => cutTo(text, WIDTH));
  return [...shown, ...(lines.length > LINES ? [`-- … ${counted(lines.length - LINES, "more line")}`] : [])].join("\n");
}

function shownPath(review: ReviewedScript): string {
  return cutTo(scriptName(review), 200);
}

function cutTo(text: string, most: number): string {
  return text.length > most ? `${text.slice(0, most - 1)}…` : text;
}

/** Text that stays below a length; what does not fit is counted. */
class BoundedText {
  readonly #parts: string[] = [];
  readonly #most: number;
  #length = 0;
  #left = 0;

  constructor(most: number) {
    this.#most = most;
  }

  /** Takes a part, unless it does not fit; `left` findings are then left out. */
  add(part: string, left = 0): boolean {
    if (part === "") return true;
    if (this.#left > 0 || this.#length + part.length + RESERVE > this.#most) {
      this.#left ||= left;
      return false;
    }
    this.#parts.push(part);
    this.#length += part.length + 1;
    return true;
  }

  /** Folds lines under a heading that counts them; those that do not fit are left out and counted. */
  fold(what: string, lines: readonly string[], many = what): void {
    if (lines.length === 0) return;
    const title = `${lines.length} ${lines.length === 1 ? what : many}`;
    const room = this.#most - this.#length - RESERVE - title.length;
    const kept: string[] = [];
    let used = 0;
    for (const one of lines) {
      used += one.length + 1;
      if (used > room) break;
      kept.push(one);
    }
    if (kept.length < lines.length) kept.push(`- and ${lines.length - kept.length} more`);
    const part = `<details>\n<summary>${title}</summary>\n\n${kept.join("\n")}\n\n</details>\n`;
    this.#parts.push(part);
    this.#length += part.length + 1;
  }

  toString(): string {
    const more = this.#left > 0 ? `\n${this.#left} more did not fit into this comment.\n` : "";
    return `${this.#parts.join("\n")}${more}`;
  }
}

/** Room for the folded parts' own marks. */
const RESERVE = 700;
