import { reachWords } from "../hazards/wording.ts";
import {
  type Answer,
  blocksByWeight,
  type Finding,
  heavier,
  type ReviewedScript,
  type StatementReview,
  type Verdict,
} from "../review/result.ts";
import { dialects } from "../sql/dialects/index.ts";
import { inOneLine } from "../text/visible.ts";
import { counted, cut, plainStyle, type Role, rule, type Style, TextLayout } from "./layout.ts";
import { MARKS, reachBar } from "./marks.ts";
import { answerText, placesText, scriptName, totalsOf } from "./totals.ts";
import { unjudgedWords } from "./unjudged.ts";

export interface TextOptions {
  /** Columns to fill; 80 if left out, never less than 40. */
  width?: number;
  style?: Style;
  /** Everything that was found, in full; if left out, of each statement the heaviest in full and the others a line each. */
  full?: boolean;
}

const SOURCE_LINES = { short: 6, full: 12 };

/**
 * The review of one or more scripts as text for a terminal or a log: a line for each script, what was found with the
 * heaviest first, and the notes of the script together at its end.
 */
export function textReport(reviews: readonly ReviewedScript[], options: TextOptions = {}): string {
  const width = Math.max(40, options.width ?? 80);
  const layout = new TextLayout(width, options.style ?? plainStyle);
  for (const one of reviews) scriptReport(one, layout, options.full ?? false);
  if (reviews.length > 1) closing(reviews, layout);
  return layout.text();
}

function scriptReport(review: ReviewedScript, layout: TextLayout, full: boolean): void {
  const { style } = layout;
  layout.gap();
  const title = dialects[review.dialect].title;
  const guessed = review.dialectReason === "" ? "" : ` (${review.dialectReason})`;
  const facts = `${title}, ${counted(review.statementCount, "statement")}: `;
  layout.wrapped(`${style("strong", scriptName(review))}  ${style("dim", facts)}${summary([review], layout)}`, 2);
  if (guessed !== "") layout.paragraph("", `read as ${title}${guessed}; --dialect says otherwise`, "dim");
  const reviewed = new Map(review.statements.map((statement) => [statement.index, statement]));
  const notes: Finding[] = [];
  for (const findings of blocksByWeight(review.findings)) {
    const statement = reviewed.get(findings[0].statement);
    if (!full && findings.every(isMinor)) notes.push(...findings);
    else if (statement) statementReport(review, statement, findings, layout, full);
    // What is found of a script without a statement, such as an empty one that should undo another.
    else for (const finding of findings) findingReport(finding, layout, true);
  }
  if (notes.length + review.answers.length > 0) notesReport(notes, review.answers, layout);
  if (review.unchecked.length > 0) uncheckedReport(review, layout, full);
}

/** What is worth knowing and no more, or has been answered. */
function isMinor({ weight, accepted }: Finding): boolean {
  return weight === "note" || accepted !== null;
}

/** The notes of a script and what its comments answer, a line each. */
function notesReport(notes: readonly Finding[], answers: readonly Answer[], layout: TextLayout): void {
  layout.line();
  layout.line(rule(notes.length > 0 ? " notes " : " answers ", layout));
  for (const finding of [...notes].sort((a, b) => a.line - b.line))
    lineReport(finding, layout, `line ${finding.line} `);
  for (const answer of answers)
    layout.line(layout.style("dim", cut(`· line ${answer.line} ${inOneLine(answerText(answer))}`, layout.width)));
}

/** A finding in one line. */
function lineReport(finding: Finding, layout: TextLayout, place = ""): void {
  const { style } = layout;
  const role: Role = finding.accepted === null ? finding.weight : "dim";
  const said = finding.accepted === null ? finding.message : `accepted: ${finding.accepted}`;
  const more = finding.places.length > 0 ? ` (and ${placesText(finding)})` : "";
  const head = `${MARKS[finding.weight]} ${place}${finding.hazard}  `;
  const text = cut(`${head}${inOneLine(said)}${more}`, layout.width);
  layout.line(`${style(role, text.slice(0, head.length))}${style("dim", text.slice(head.length))}`);
}

function statementReport(
  review: ReviewedScript,
  statement: StatementReview,
  findings: Finding[],
  layout: TextLayout,
  full: boolean,
): void {
  const { style } = layout;
  layout.line();
  layout.line(rule(` line ${statement.line}, column ${statement.column} `, layout));
  source(review, statement, findings, layout, full ? SOURCE_LINES.full : SOURCE_LINES.short);
  if (statement.reach) {
    const tableRows = statement.reach.bound === "every" ? (statement.reach.rows ?? null) : null;
    const bar = reachBar(statement.reach, tableRows);
    const role: Role =
      statement.reach.bound === "every" || statement.reach.bound === "multiplied" ? statement.verdict : "dim";
    // What an INSERT reaches are the rows that it brings, not those that are there.
    const inserts = statement.kind === "insert";
    const target = statement.target ? ` ${inserts ? "into" : "of"} ${inOneLine(statement.target)}` : "";
    layout.wrapped(
      `      ${style(role, bar)} ${style("dim", `${inserts ? "inserts" : "reach"}: ${reachWords(statement.reach)}${target}`)}`,
      19,
    );
  }
  if (full) {
    for (const finding of findings) findingReport(finding, layout, true);
    return;
  }
  const [heaviest, ...others] = findings;
  findingReport(heaviest, layout, false);
  for (const finding of others) lineReport(finding, layout);
}

/** The lines of a statement, each with its number and, in the margin, the weight of what was found. */
function source(
  review: ReviewedScript,
  statement: StatementReview,
  findings: Finding[],
  layout: TextLayout,
  most: number,
): void {
  const { style } = layout;
  const worst = findings.reduce<Verdict>((verdict, finding) => heavier(verdict, finding.weight), "clear");
  const lines = (review.excerpts.get(statement.index) ?? "").split("\n");
  const shown = lines.length > most ? lines.slice(0, most - 1) : lines;
  shown.forEach((line, i) => {
    const number = String(statement.line + i).padStart(4);
    const text = cut(line.replace(/\r$/, "").replaceAll("\t", "  "), layout.width - 7);
    layout.line(
      `${style(worst === "clear" ? "dim" : worst, i === 0 ? MARKS[worst] : "│")}${style("dim", number)} ${style("code", text)}`,
    );
  });
  if (shown.length < lines.length)
    layout.line(style("dim", `     … ${counted(lines.length - shown.length, "more line")}`));
}

function findingReport(finding: Finding, layout: TextLayout, spaced: boolean): void {
  const { style } = layout;
  const role: Role = finding.accepted === null ? finding.weight : "dim";
  if (spaced) layout.line();
  const label = `${MARKS[finding.weight]} ${finding.weight.padEnd(4)} ${finding.hazard}`;
  layout.line(`${style(role, label)}${finding.accepted === null ? "" : style("dim", "  accepted")}`);
  layout.paragraph("  ", finding.message, finding.accepted === null ? "strong" : "dim");
  if (finding.places.length > 0) layout.paragraph("  also on   ", placesText(finding));
  if (finding.accepted !== null) {
    layout.paragraph("  accepted  ", finding.accepted);
    return;
  }
  finding.because.forEach((reason, i) => {
    layout.paragraph(i === 0 ? "  because   " : "            ", reason);
  });
  if (finding.remedy !== "") layout.paragraph("  instead   ", finding.remedy);
}

function uncheckedReport(review: ReviewedScript, layout: TextLayout, full: boolean): void {
  layout.line();
  layout.line(rule(" unchecked ", layout));
  const shown = full ? review.unchecked : review.unchecked.slice(0, UNCHECKED);
  for (const { missing, lines } of shown) {
    const more = lines.length > 6 ? ` and ${lines.length - 6} more` : "";
    const places = `${lines.slice(0, 6).join(", ")}${more}`;
    layout.paragraph("  ", `${missing} (line ${places})`);
  }
  const left = review.unchecked.length - shown.length;
  if (left > 0) layout.line(layout.style("dim", `  … and ${left} more (--full)`));
}

const UNCHECKED = 4;

/** The verdict of scripts, with what was found and what was not judged, in one line. */
function summary(reviews: readonly ReviewedScript[], { style }: TextLayout): string {
  const { verdict, accepted, known, unchecked, ...totals } = totalsOf(reviews);
  const parts = (["stop", "ask", "note"] as const)
    .filter((weight) => totals[weight] > 0)
    .map((weight) => style(weight, `${MARKS[weight]} ${totals[weight]} ${weight}`));
  if (parts.length === 0) parts.push(style("clear", "nothing found"));
  if (accepted > 0) parts.push(style("dim", `${accepted} accepted`));
  if (known > 0) parts.push(style("dim", `${known} in the baseline`));
  if (unchecked > 0) parts.push(style("dim", `${unchecked} unchecked`));
  const left = unjudgedWords(reviews);
  const rest = left === "" ? "" : style("dim", `; not judged: ${left}`);
  return `${style(verdict, verdict)}, ${parts.join(", ")}${rest}`;
}

function closing(reviews: readonly ReviewedScript[], layout: TextLayout): void {
  const statements = reviews.reduce((sum, one) => sum + one.statementCount, 0);
  layout.gap();
  layout.wrapped(`${reviews.length} scripts, ${counted(statements, "statement")}: ${summary(reviews, layout)}`, 2);
}
