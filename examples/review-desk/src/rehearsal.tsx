import type { Phase, Rehearsal, RehearsalSheet } from "cautela";
import { PHASES, rehearsalPhase, terminated, visible } from "cautela/tools";
import { useEffect, useState } from "react";

interface RehearsalProps {
  rehearsal: Rehearsal | null;
  /** The statement in which the cursor stands. */
  statement: number | null;
  onStatement(index: number): void;
}

const TITLES: Record<Phase, string> = {
  before: "Before",
  change: "Change",
  after: "After",
  restore: "Restore",
};

/** The queries to run by hand for one statement, phase by phase. */
export function RehearsalView({ rehearsal, statement, onStatement }: RehearsalProps) {
  const [phase, setPhase] = useState<Phase>("before");
  if (!rehearsal) return <p className="nothing">The rehearsal is being written.</p>;
  // What the script only sets or reads stands in the change as it is, and needs no sheet of its own.
  const sheets = rehearsal.sheets.filter(writes);
  const found = sheets.findIndex((one) => one.statement === statement);
  const at = found < 0 ? 0 : found;
  const sheet = sheets[at];
  if (!sheet) return <p className="nothing">No statement of this script changes rows.</p>;
  const queries = sheet.queries.filter((query) => query.phase === phase);
  return (
    <div className="rehearsal">
      <div className="tools">
        <label>
          Statement{" "}
          <select value={at} onChange={(event) => onStatement(sheets[Number(event.target.value)].statement)}>
            {sheets.map((one, i) => (
              <option key={`${one.statement} ${one.target}`} value={i}>
                line {one.line}: {one.kind} {visible(one.target)}
              </option>
            ))}
          </select>
        </label>
        {sheet.expected && (
          <span className="faint">
            expected: {sheet.expected.atMost ? "at most " : ""}
            {sheet.expected.rows} {sheet.expected.rows === 1 ? "row" : "rows"}
          </span>
        )}
      </div>
      <div className="tools">
        <span className="tabs" role="tablist" aria-label="Phase">
          {PHASES.map((one) => (
            <button key={one} type="button" role="tab" aria-selected={phase === one} onClick={() => setPhase(one)}>
              {TITLES[one]} ({sheet.queries.filter((query) => query.phase === one).length})
            </button>
          ))}
        </span>
        <span className="spring" />
        <CopyButton label="Copy the phase for the whole script" text={rehearsalPhase(rehearsal, phase) ?? ""} />
      </div>
      {phase === "before" && sheet.reasons.length > 0 && (
        <ul className="reasons">
          {sheet.reasons.map((reason) => (
            <li key={reason}>{visible(reason)}</li>
          ))}
        </ul>
      )}
      {queries.map(({ title, sql }) => (
        <section key={`${title} ${sql}`} className="query">
          <header>
            <h2>{visible(title)}</h2>
            <CopyButton label="Copy" text={terminated(sql, rehearsal.dialect)} />
          </header>
          <pre>{visible(terminated(sql, rehearsal.dialect), true)}</pre>
        </section>
      ))}
      {queries.length === 0 && <p className="faint">Nothing was written for this phase.</p>}
    </div>
  );
}

function writes({ queries, reasons }: RehearsalSheet): boolean {
  return reasons.length > 0 || queries.some(({ purpose }) => purpose !== "script");
}

function CopyButton({ label, text }: { label: string; text: string }) {
  const [done, setDone] = useState(false);
  useEffect(() => {
    if (!done) return;
    const timer = setTimeout(() => setDone(false), 1500);
    return () => clearTimeout(timer);
  }, [done]);
  return (
    <button
      type="button"
      disabled={text === ""}
      onClick={() => {
        void navigator.clipboard.writeText(text).then(() => setDone(true));
      }}
    >
      {done ? "Copied" : label}
    </button>
  );
}
