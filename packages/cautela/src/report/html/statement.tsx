import type { Rehearsal, RehearsalSheet } from "../../rehearsal/rehearsal.ts";
import { PHASES } from "../../rehearsal/rehearsal.ts";
import { type Finding, heaviestFirst, type StatementReview } from "../../review/result.ts";
import type { StatementTrace } from "../../review/trace.ts";
import { inOneLine, visible } from "../../text/visible.ts";
import { counted } from "../layout.ts";
import { PHASE_HEADINGS, terminated } from "../rehearsal-text.ts";
import { hazardPage, placesText } from "../totals.ts";
import { hasRipples, RipplePicture } from "./drawing.tsx";
import { Message, ReachBar, WeightMark } from "./marks.tsx";

/** A statement with all that is known of it. */
export interface StatementParts {
  statement: StatementReview;
  findings: readonly Finding[];
  /** Its source, from the beginning of its first line; empty where it was not kept. */
  excerpt: string;
  trace: StatementTrace | null;
  sheet: RehearsalSheet | null;
  rehearsal: Rehearsal | null;
}

/** Lines of a statement that are shown, and the length of each. */
const LINES = 40;
const WIDTH = 500;

/** Queries of a statement's rehearsal that are shown. */
const QUERIES = 60;

/** One statement: its source, its reach, what was found, what it also writes, its rehearsal. */
export function StatementPart({ statement, findings, excerpt, trace, sheet, rehearsal }: StatementParts) {
  const { line, kind, target, reach } = statement;
  const ripples = trace !== null && hasRipples(trace);
  return (
    <article class={findings.length === 0 ? "plain" : undefined}>
      <header>
        <h3>
          line {line}: {inOneLine(kind)}
          {target === null ? "" : ` ${inOneLine(target)}`}
        </h3>
        {reach && <ReachBar reach={reach} target={target} inserts={kind === "insert"} />}
      </header>
      {excerpt !== "" && findings.length > 0 && <Source excerpt={excerpt} />}
      {heaviestFirst(findings).map((finding) => (
        <FindingPart finding={finding} />
      ))}
      {ripples &&
        (findings.length > 0 ? (
          <>
            <h4>What it also writes</h4>
            <RipplePicture trace={trace} />
          </>
        ) : (
          <details>
            <summary>What it also writes</summary>
            <RipplePicture trace={trace} />
          </details>
        ))}
      {sheet && rehearsal && <SheetPart sheet={sheet} rehearsal={rehearsal} />}
    </article>
  );
}

function Source({ excerpt }: { excerpt: string }) {
  const lines = visible(excerpt, true).trimEnd().split("\n");
  const shown = lines
    .slice(0, LINES)
    .map((text) => (text.length > WIDTH ? `${text.slice(0, WIDTH)}…` : text))
    .join("\n");
  const left = lines.length - LINES;
  return <pre>{left > 0 ? `${shown}\n… ${counted(left, "more line")}` : shown}</pre>;
}

/** One finding, with its reasons; what has been answered is short. */
export function FindingPart({ finding }: { finding: Finding }) {
  const { weight, hazard, message, because, remedy, accepted, places, fix } = finding;
  return (
    <div class="finding">
      <WeightMark weight={weight} />
      <p>
        <span class={weight}>{weight}</span>{" "}
        <a class="name" href={hazardPage(hazard)}>
          {hazard}
        </a>
        {accepted !== null && <span class="label"> accepted: {inOneLine(accepted)}</span>}
        {places.length > 0 && <span class="label"> also on {placesText(finding)}</span>}
      </p>
      <p>
        <Message text={message} />
      </p>
      {accepted === null && (
        <>
          {because.length > 0 && (
            <ul class="because">
              {because.map((reason) => (
                <li>
                  <Message text={reason} />
                </li>
              ))}
            </ul>
          )}
          {remedy !== "" && (
            <p>
              <span class="label">instead: </span>
              <Message text={remedy} />
            </p>
          )}
          {fix && (
            <p>
              <span class="label">exact change: </span>
              <Message text={fix.title} />
            </p>
          )}
        </>
      )}
    </div>
  );
}

function SheetPart({ sheet, rehearsal }: { sheet: RehearsalSheet; rehearsal: Rehearsal }) {
  const { queries, reasons } = sheet;
  if (queries.length === 0 && reasons.length === 0) return null;
  const shown = queries.slice(0, QUERIES);
  return (
    <details>
      <summary>Rehearsal: {counted(queries.length, "query", "queries")} to run by hand</summary>
      {reasons.map((reason) => (
        <p class="faint">
          <Message text={reason} />
        </p>
      ))}
      {PHASES.map((phase) => {
        const own = shown.filter((query) => query.phase === phase);
        if (own.length === 0) return null;
        const text = own.map(
          ({ title, sql }) =>
            `${title === "" ? "" : `-- ${inOneLine(title)}\n`}${visible(terminated(sql, rehearsal.dialect), true)}`,
        );
        return (
          <>
            <h4>{PHASE_HEADINGS[phase]}</h4>
            <pre>{text.join("\n\n")}</pre>
          </>
        );
      })}
      {queries.length > QUERIES && (
        <p class="faint">
          {counted(queries.length - QUERIES, "more query", "more queries")}: <code>cautela rehearse</code> writes them
          all.
        </p>
      )}
    </details>
  );
}
