import type { Finding } from "cautela";
import { type KeyboardEvent, useEffect, useRef } from "react";
import type { Answer } from "./messages.ts";
import { ReachBar } from "./reach-bar.tsx";
import { WeightMark } from "./weight-mark.tsx";

interface FindingsProps {
  answer: Answer;
  /** The index of the finding that is shown in the source, in `answer.findings`. */
  chosen: number | null;
  onChoose(index: number): void;
}

/** What was found, the heaviest first. Arrow keys move, Enter shows the place. */
export function Findings({ answer, chosen, onChoose }: FindingsProps) {
  const list = useRef<HTMLOListElement>(null);

  useEffect(() => {
    if (chosen !== null) list.current?.children[chosen]?.scrollIntoView({ block: "nearest" });
  }, [chosen]);

  function onKey(event: KeyboardEvent<HTMLOListElement>): void {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step === 0) return;
    const buttons = [...(list.current?.querySelectorAll("button") ?? [])];
    const next = buttons[buttons.indexOf(document.activeElement as HTMLButtonElement) + step];
    next?.focus();
    event.preventDefault();
  }

  if (answer.findings.length === 0) {
    return (
      <div className="nothing">
        <WeightMark weight="clear" size={18} />
        <p>
          Nothing was found in{" "}
          {answer.statements.length === 1 ? "this statement" : `these ${answer.statements.length} statements`}.
        </p>
      </div>
    );
  }
  return (
    <ol className="findings" ref={list} onKeyDown={onKey}>
      {answer.findings.map((finding, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a finding has no other identity than its place in the list.
        <li key={i} className={finding.weight}>
          <button type="button" aria-current={chosen === i} onClick={() => onChoose(i)}>
            <span className="finding-head">
              <WeightMark weight={finding.weight} />
              <strong>{finding.weight}</strong>
              <code>{finding.hazard}</code>
              <span className="place">line {finding.line}</span>
            </span>
            <span className="message">{sentences(finding.message)}</span>
            {finding.places.length > 0 && <span className="faint">{alsoOn(finding)}</span>}
            {firstOfStatement(answer.findings, i) && <Reached answer={answer} finding={finding} />}
            <span className="because">
              {finding.because.map((reason) => (
                <span key={reason}>{sentences(reason)}</span>
              ))}
            </span>
            {finding.remedy !== "" && <span className="remedy">{sentences(finding.remedy)}</span>}
          </button>
        </li>
      ))}
    </ol>
  );
}

function Reached({ answer, finding }: { answer: Answer; finding: Finding }) {
  const { reach, target } = answer.statements[finding.statement];
  return reach ? <ReachBar reach={reach} target={target} /> : null;
}

function firstOfStatement(findings: readonly Finding[], i: number): boolean {
  return i === 0 || findings[i - 1].statement !== findings[i].statement;
}

/** The further lines of a finding; of many the first ones and their number. */
function alsoOn({ places }: Finding): string {
  const lines = [...new Set(places.map(({ line }) => line))];
  const more = lines.length > 6 ? ` and ${lines.length - 6} more` : "";
  return `also on ${lines.length === 1 ? "line" : "lines"} ${lines.slice(0, 6).join(", ")}${more}`;
}

/** Names between backquotes are shown as code. */
function sentences(text: string) {
  return text.split("`").map((part, i) =>
    // biome-ignore lint/suspicious/noArrayIndexKey: the parts of one fixed sentence.
    i % 2 === 1 ? <code key={i}>{part}</code> : <span key={i}>{part}</span>,
  );
}
