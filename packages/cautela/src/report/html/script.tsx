import type { Finding, ReviewedScript } from "../../review/result.ts";
import { dialects } from "../../sql/dialects/index.ts";
import { inOneLine } from "../../text/visible.ts";
import { counted } from "../layout.ts";
import type { ReportedScript } from "../reported.ts";
import { answerText, scriptName, totalsOf } from "../totals.ts";
import { unjudgedWords } from "../unjudged.ts";
import { Message, WeightMark } from "./marks.tsx";
import { FindingPart, StatementPart } from "./statement.tsx";

/** Scripts that the table names, and unchecked places of each that are listed. */
const NAMED = 3000;
const UNCHECKED = 100;

/** All scripts with their verdicts. */
export function ScriptTable({ scripts }: { scripts: readonly ReviewedScript[] }) {
  return (
    <div class="wide">
      <table>
        <thead>
          <tr>
            <th>script</th>
            <th class="optional">dialect</th>
            <th class="number optional">statements</th>
            <th>verdict</th>
            <th class="number">stop</th>
            <th class="number">ask</th>
            <th class="number">note</th>
          </tr>
        </thead>
        <tbody>
          {scripts.slice(0, NAMED).map((script, i) => {
            const { stop, ask, note } = totalsOf([script]);
            return (
              <tr>
                <td>{isQuiet(script) ? scriptName(script) : <a href={`#script-${i + 1}`}>{scriptName(script)}</a>}</td>
                <td class="optional">{dialects[script.dialect].title}</td>
                <td class="number optional">{script.statementCount}</td>
                <td class="verdict">
                  <WeightMark weight={script.verdict} /> {script.verdict}
                </td>
                {[stop, ask, note].map((count) => (
                  <td class="number">{count === 0 ? "" : count}</td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
      {scripts.length > NAMED && <p class="faint">{counted(scripts.length - NAMED, "script")} more</p>}
    </div>
  );
}

/** A script of which nothing is to be said: in a page of several it is only named. */
function isQuiet({ statements, findings, known, unchecked }: ReviewedScript): boolean {
  return statements.length === 0 && findings.length === 0 && known.length === 0 && unchecked.length === 0;
}

/** One script, statement by statement; at most `most` of them in full, those with findings first. */
export function ScriptSection({ script, number, most }: { script: ReportedScript; number: number; most: number }) {
  if (isQuiet(script)) return null;
  const { findings, traces, rehearsal, unchecked, known, answers } = script;
  const byStatement = new Map<number, Finding[]>();
  for (const finding of findings)
    for (const { statement } of [finding, ...finding.places]) {
      const list = byStatement.get(statement);
      if (statement !== finding.statement) {
        // At its further places it is not told again.
        if (!list) byStatement.set(statement, []);
      } else if (list) list.push(finding);
      else byStatement.set(statement, [finding]);
    }
  const tracesOf = new Map(traces.map((trace) => [trace.statement, trace]));
  const sheets = new Map(rehearsal?.sheets.map((sheet) => [sheet.statement, sheet]));
  const telling = script.statements.filter(
    ({ index, reach }) => byStatement.get(index)?.length || reach !== null || tracesOf.has(index),
  );
  const shown = new Set(
    telling.length <= most
      ? telling
      : [...telling]
          .sort((a, b) => (byStatement.get(b.index)?.length ?? 0) - (byStatement.get(a.index)?.length ?? 0))
          .slice(0, most),
  );
  const placed = new Set(script.statements.map(({ index }) => index));
  const left = telling.length - shown.size;
  const rest = script.statementCount - telling.length;
  const unjudged = unjudgedWords([script]);
  return (
    <section id={`script-${number}`}>
      <h2>{scriptName(script)}</h2>
      <p class="counts faint">
        <span>
          <WeightMark weight={script.verdict} /> {script.verdict}
        </span>
        <span>{dialects[script.dialect].title}</span>
        {script.dialectReason !== "" && <span>read so: {inOneLine(script.dialectReason)}</span>}
        <span>{counted(script.statementCount, "statement")}</span>
      </p>
      {findings
        .filter(({ statement }) => !placed.has(statement))
        .map((finding) => (
          <FindingPart finding={finding} />
        ))}
      {telling
        .filter((statement) => shown.has(statement))
        .map((statement) => (
          <StatementPart
            statement={statement}
            findings={byStatement.get(statement.index) ?? []}
            excerpt={script.excerpts.get(statement.index) ?? ""}
            trace={tracesOf.get(statement.index) ?? null}
            sheet={sheets.get(statement.index) ?? null}
            rehearsal={rehearsal}
          />
        ))}
      {left > 0 && <p class="faint">{counted(left, "statement")} more are not shown on this page.</p>}
      {rest > 0 && (
        <p class="faint">
          {counted(rest, "statement")} without findings that {rest === 1 ? "changes" : "change"} no rows
        </p>
      )}
      {answers.length > 0 && (
        <>
          <h4>Answers in the script</h4>
          <ul class="because">
            {answers.slice(0, UNCHECKED).map((answer) => (
              <li>
                line {answer.line}: {inOneLine(answerText(answer))}
              </li>
            ))}
            {answers.length > UNCHECKED && <li>and {answers.length - UNCHECKED} more</li>}
          </ul>
        </>
      )}
      {unjudged !== "" && <p class="faint">Not judged: {unjudged}.</p>}
      {unchecked.length > 0 && (
        <>
          <h4>Unchecked</h4>
          <ul class="because">
            {unchecked.slice(0, UNCHECKED).map(({ missing, lines }) => (
              <li>
                <Message text={missing} /> (line {lines.slice(0, 6).join(", ")}
                {lines.length > 6 ? ` and ${lines.length - 6} more` : ""})
              </li>
            ))}
            {unchecked.length > UNCHECKED && <li>and {unchecked.length - UNCHECKED} more</li>}
          </ul>
        </>
      )}
      {known.length > 0 && (
        <details>
          <summary>{counted(known.length, "finding")} in the baseline</summary>
          {known.slice(0, UNCHECKED).map((finding) => (
            <p>
              <WeightMark weight={finding.weight} /> line {finding.line} {finding.hazard}:{" "}
              <Message text={finding.message} />
            </p>
          ))}
          {known.length > UNCHECKED && <p>and {known.length - UNCHECKED} more</p>}
        </details>
      )}
    </section>
  );
}
