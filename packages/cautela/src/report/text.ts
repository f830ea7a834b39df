import { reachWords } from "../hazards/wording.ts";
import {
  type Finding,
  heavier,
  heaviestFirst,
  type Review,
  type StatementReview,
  type Verdict,
} from "../review/result.ts";
import { dialects } from "../sql/dialects/index.ts";
import { inOneLine } from "../text/visible.ts";
import { counted, cut, plainStyle, type Role, rule, type Style, TextLayout } from "./layout.ts";
import { MARKS, reachBar } from "./marks.ts";

export interface TextOptions {
  /** Columns to fill; 80 if left out, never less than 40. */
  width?: number;
  style?: Style;
}

const SOURCE_LINES = 12;

/** The review of one or more scripts as text for a terminal or a log. */
export function textReport(reviews: readonly Review[], options: TextOptions = {}): string {
  const width = Math.max(40, options.width ?? 80);
  const layout = new TextLayout(width, options.style ?? plainStyle);
  for (const one of reviews) scriptReport(one, layout);
  closing(reviews, layout);
  return layout.text();
}

function scriptReport(review: Review, layout: TextLayout): void {
  const { style } = layout;
  const count = review.statementCount;
  const facts = `${dialects[review.dialect].title}, ${counted(count, "statement")}, `;
  layout.line(
    `${style("strong", inOneLine(review.path || "script"))}  ${style("dim", facts)}${style(review.verdict, review.verdict)}`,
  );
  if (review.dialectReason !== "") {
    layout.paragraph(
      "",
      `read as ${dialects[review.dialect].title}: ${review.dialectReason}; --dialect says otherwise`,
      "dim",
    );
  }
  const byStatement = new Map<number, Finding[]>();
  for (const finding of review.findings) {
    const list = byStatement.get(finding.statement);
    if (list) list.push(finding);
    else byStatement.set(finding.statement, [finding]);
  }
  const reviewed = new Map(review.statements.map((statement) => [statement.index, statement]));
  for (const [index, findings] of byStatement) {
    const statement = reviewed.get(index);
    if (statement) statementReport(review, statement, findings, layout);
  }
  if (review.unchecked.length > 0) uncheckedReport(review, layout);
  if (review.findings.length > 0 || review.unchecked.length > 0) layout.gap();
}

function statementReport(review: Review, statement: StatementReview, findings: Finding[], layout: TextLayout): void {
  const { style } = layout;
  layout.line();
  layout.line(rule(` line ${statement.line}, column ${statement.column} `, layout));
  source(review, statement, findings, layout);
  if (statement.reach) {
    const tableRows = statement.reach.bound === "every" ? (statement.reach.rows ?? null) : null;
    const bar = reachBar(statement.reach, tableRows);
    const role: Role =
      statement.reach.bound === "every" || statement.reach.bound === "multiplied" ? statement.verdict : "dim";
    // What an INSERT reaches are the rows that it brings, not those that are there.
    const inserts = statement.kind === "insert";
    const target = statement.target ? ` ${inserts ? "into" : "of"} ${inOneLine(statement.target)}` : "";
    layout.line(
      `      ${style(role, bar)} ${style("dim", `${inserts ? "inserts" : "reach"}: ${reachWords(statement.reach)}${target}`)}`,
    );
  }
  for (const finding of heaviestFirst(findings)) findingReport(finding, layout);
}

/** The lines of a statement, each with its number and, in the margin, the weight of what was found. */
function source(review: Review, statement: StatementReview, findings: Finding[], layout: TextLayout): void {
  const { style } = layout;
  const worst = findings.reduce<Verdict>((verdict, finding) => heavier(verdict, finding.weight), "clear");
  const lines = (review.excerpts.get(statement.index) ?? "").split("\n");
  const shown = lines.length > SOURCE_LINES ? lines.slice(0, SOURCE_LINES - 1) : lines;
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

function findingReport(finding: Finding, layout: TextLayout): void {
  const { style } = layout;
  const role: Role = finding.accepted === null ? finding.weight : "dim";
  layout.line();
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

/** "lines 10, 14–72 (63 places)": at most so many are named. */
function placesText({ places }: Finding): string {
  const lines = [...new Set(places.map(({ line }) => line))];
  const named = lines.slice(0, NAMED_PLACES).join(", ");
  const many =
    lines.length > NAMED_PLACES ? `${named} … ${lines[lines.length - 1]} (${counted(lines.length, "line")})` : named;
  return `${lines.length === 1 ? "line" : "lines"} ${many}`;
}

const NAMED_PLACES = 5;

function uncheckedReport(review: Review, layout: TextLayout): void {
  layout.line();
  layout.line(rule(" unchecked ", layout));
  for (const { missing, lines } of review.unchecked) {
    const more = lines.length > 6 ? ` and ${lines.length - 6} more` : "";
    const places = `${lines.slice(0, 6).join(", ")}${more}`;
    layout.paragraph("  ", `${missing} (line ${places})`);
  }
}

function closing(reviews: readonly Review[], layout: TextLayout): void {
  const { style } = layout;
  const totals = { stop: 0, ask: 0, note: 0 };
  let accepted = 0;
  let unchecked = 0;
  let statements = 0;
  let verdict: Verdict = "clear";
  for (const one of reviews) {
    verdict = heavier(verdict, one.verdict);
    statements += one.statementCount;
    for (const { statements: at } of one.unchecked) unchecked += at.length;
    for (const finding of one.findings) {
      if (finding.accepted === null) totals[finding.weight]++;
      else accepted++;
    }
  }
  const parts = (["stop", "ask", "note"] as const)
    .filter((weight) => totals[weight] > 0)
    .map((weight) => style(weight, `${MARKS[weight]} ${totals[weight]} ${weight}`));
  if (parts.length === 0) parts.push(style("clear", "nothing found"));
  if (accepted > 0) parts.push(style("dim", `${accepted} accepted`));
  if (unchecked > 0) parts.push(style("dim", `${unchecked} unchecked`));
  layout.gap();
  const where = reviews.length > 1 ? ` in ${reviews.length} scripts` : "";
  layout.line(`${style(verdict, verdict)}: ${parts.join(", ")}; ${counted(statements, "statement")}${where}`);
}
