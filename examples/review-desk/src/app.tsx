import { type DialectId, dialectIds, dialects } from "cautela";
import { decodeText, visible } from "cautela/tools";
import { type DragEvent, type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { CatalogPanel } from "./catalog-panel.tsx";
import { demoCatalog, demos } from "./demos.ts";
import { Editor, type Jump, type Marked } from "./editor.tsx";
import { Findings } from "./findings.tsx";
import type { Answer } from "./messages.ts";
import { RehearsalView } from "./rehearsal.tsx";
import { Ripples } from "./ripples.tsx";
import { useReview } from "./use-review.ts";
import { WeightMark } from "./weight-mark.tsx";

const SHOWN_FIRST = "postgresql/08-friday-evening";
const FIRST = demos.find(({ dialect, name }) => `${dialect}/${name}` === SHOWN_FIRST) ?? demos[0];

type Theme = "system" | "light" | "dark";

/** What is shown beside the script. */
const VIEWS = ["findings", "ripples", "rehearsal"] as const;
type View = (typeof VIEWS)[number];

/** The review desk: a script on the left, what was found in it on the right. */
export function App() {
  const [text, setText] = useState(FIRST.text);
  const [title, setTitle] = useState(`${FIRST.dialect}/${FIRST.name}`);
  const [dialect, setDialect] = useState<DialectId>(FIRST.dialect);
  const [catalog, setCatalog] = useState<string[]>(() => demoCatalog(FIRST.dialect));
  const [chosen, setChosen] = useState<number | null>(null);
  const [view, setView] = useState<View>("findings");
  const [current, setCurrent] = useState<number | null>(null);
  const [jump, setJump] = useState<Jump | null>(null);
  const [panel, setPanel] = useState(false);
  const [theme, setTheme] = useState<Theme>("system");
  const [dragging, setDragging] = useState(false);
  const [notice, setNotice] = useState("");
  const { answer, failure, rehearsal } = useReview(text, dialect, catalog, view === "rehearsal");
  const picker = useRef<HTMLInputElement>(null);
  const pickFor = useRef<"script" | "catalog">("script");

  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);

  const marks = useMemo(() => (answer ? markedStatements(answer) : []), [answer]);

  const choose = useCallback(
    (index: number) => {
      const finding = answer?.findings[index];
      if (!answer || !finding) return;
      const { start, end } = answer.statements[finding.statement];
      setChosen(index);
      setCurrent(finding.statement);
      setJump({ start, end });
    },
    [answer],
  );

  /** Another statement is looked at: the editor goes along. */
  function visit(index: number): void {
    const statement = answer?.statements[index];
    if (!statement) return;
    setCurrent(index);
    setJump({ start: statement.start, end: statement.end });
  }

  function step(by: 1 | -1): void {
    const count = answer?.findings.length ?? 0;
    if (count > 0) choose(chosen === null ? (by === 1 ? 0 : count - 1) : (chosen + by + count) % count);
  }

  /** The cursor stands in a statement: its first finding becomes the chosen one. */
  function followCursor(offset: number): void {
    const statement = answer?.statements.find(({ start, end }) => start <= offset && offset <= end);
    setCurrent(statement?.index ?? null);
    const found = statement ? findingOf(answer, statement.index) : -1;
    const now = chosen === null ? undefined : answer?.findings[chosen];
    if (found < 0) setChosen(null);
    else if (!now || !isOf(now, statement?.index)) setChosen(found);
  }

  function openDemo(key: string): void {
    const demo = demos.find((one) => `${one.dialect}/${one.name}` === key);
    if (!demo) return;
    setText(demo.text);
    setTitle(key);
    setDialect(demo.dialect);
    setCatalog(demoCatalog(demo.dialect));
    setChosen(null);
    setNotice("");
  }

  async function openFiles(files: readonly File[], as: "script" | "catalog"): Promise<void> {
    const texts = await Promise.all(
      files.map(async (file) => {
        const decoded = decodeText(new Uint8Array(await file.arrayBuffer()));
        if (decoded.invalidLine !== null)
          setNotice(`${file.name}: line ${decoded.invalidLine} is not UTF-8; the file is read as Latin-1`);
        return decoded.text;
      }),
    );
    if (as === "catalog") setCatalog(texts);
    else if (texts.length > 0) {
      setText(texts.join("\n"));
      setTitle(files.map((file) => file.name).join(", "));
      setChosen(null);
    }
  }

  function onDrop(event: DragEvent<HTMLElement>): void {
    event.preventDefault();
    setDragging(false);
    void openFiles([...event.dataTransfer.files], panel ? "catalog" : "script");
  }

  function pick(what: "script" | "catalog"): void {
    pickFor.current = what;
    picker.current?.click();
  }

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: files may be dropped anywhere on the page.
    <div
      className={dragging ? "desk dragging" : "desk"}
      onDragOver={(event) => {
        event.preventDefault();
        setDragging(true);
      }}
      onDragLeave={() => setDragging(false)}
      onDrop={onDrop}
    >
      <header className="bar">
        <h1>
          <WeightMark weight="ask" size={16} /> Cautela
        </h1>
        <span className="title" title={visible(title)}>
          {visible(title)}
        </span>
        <span className="spring" />
        <label>
          Script{" "}
          <select
            value={demos.some((demo) => `${demo.dialect}/${demo.name}` === title) ? title : ""}
            onChange={(event) => openDemo(event.target.value)}
          >
            <option value="">own script</option>
            {dialectIds.map((id) => (
              <optgroup key={id} label={dialects[id].title}>
                {demos
                  .filter((demo) => demo.dialect === id)
                  .map((demo) => (
                    <option key={demo.name} value={`${id}/${demo.name}`}>
                      {demo.name}
                    </option>
                  ))}
              </optgroup>
            ))}
          </select>
        </label>
        <button type="button" onClick={() => pick("script")}>
          Open a file
        </button>
        <label>
          Dialect{" "}
          <select value={dialect} onChange={(event) => setDialect(event.target.value as DialectId)}>
            {dialectIds.map((id) => (
              <option key={id} value={id}>
                {dialects[id].title}
              </option>
            ))}
          </select>
        </label>
        <button type="button" aria-pressed={panel} onClick={() => setPanel(!panel)}>
          Catalog{answer && answer.tables > 0 ? ` (${answer.tables})` : ""}
        </button>
        <label>
          Colours{" "}
          <select value={theme} onChange={(event) => setTheme(event.target.value as Theme)}>
            <option value="system">as the system</option>
            <option value="light">light</option>
            <option value="dark">dark</option>
          </select>
        </label>
      </header>
      <main>
        <section className="script" aria-label="Script">
          {panel ? (
            <CatalogPanel
              key={catalog.length > 1 ? "files" : "text"}
              text={catalog.join("\n")}
              tables={answer?.tables ?? 0}
              entries={answer?.entries ?? []}
              onText={(ddl) => setCatalog(ddl.trim() === "" ? [] : [ddl])}
              onFile={() => pick("catalog")}
              onClose={() => setPanel(false)}
            />
          ) : (
            <Editor
              text={text}
              dialect={dialect}
              marks={marks}
              jump={jump}
              onChange={setText}
              onCursor={followCursor}
              onMark={(statement) => choose(findingOf(answer, statement))}
              onStep={step}
            />
          )}
        </section>
        <section className="review" aria-label="Review" aria-live="polite">
          {failure !== null && (
            <div className="nothing" role="alert">
              <WeightMark weight="stop" size={18} />
              <p>This script could not be reviewed, so there is no verdict: {visible(failure)}</p>
            </div>
          )}
          {answer && (
            <>
              <Verdict answer={answer}>
                <span className="spring" />
                <span className="tabs" role="tablist" aria-label="What is shown">
                  {VIEWS.map((one) => (
                    <button
                      key={one}
                      type="button"
                      role="tab"
                      aria-selected={view === one}
                      onClick={() => setView(one)}
                    >
                      {one}
                    </button>
                  ))}
                </span>
              </Verdict>
              {view === "findings" && (
                <>
                  <Findings answer={answer} chosen={chosen} onChoose={choose} />
                  <UncheckedList answer={answer} />
                </>
              )}
              {view === "rehearsal" && <RehearsalView rehearsal={rehearsal} statement={current} onStatement={visit} />}
              {view === "ripples" && <Ripples answer={answer} statement={current} onStatement={visit} />}
            </>
          )}
        </section>
      </main>
      <footer className="bar">
        {notice !== "" ? (
          <span className="notice">{visible(notice)}</span>
        ) : (
          <span>F8 and Shift F8 step through the findings; a script can be dropped on the page.</span>
        )}
        <span className="spring" />
        {answer && (
          <span>reviewed in {answer.milliseconds < 1 ? "less than 1" : Math.round(answer.milliseconds)} ms</span>
        )}
      </footer>
      <input
        ref={picker}
        type="file"
        hidden
        multiple
        accept=".sql,.ddl,.txt,.pks,.pkb"
        aria-label="Open files"
        onChange={(event) => {
          void openFiles([...(event.target.files ?? [])], pickFor.current);
          event.target.value = "";
        }}
      />
    </div>
  );
}

function markedStatements(answer: Answer): Marked[] {
  const seen = new Set<number>();
  const marks: Marked[] = [];
  for (const finding of answer.findings)
    for (const { statement } of [finding, ...finding.places]) {
      if (seen.has(statement)) continue;
      seen.add(statement);
      const { start, end, verdict } = answer.statements[statement];
      marks.push({ start, end, verdict, index: statement });
    }
  return marks.sort((a, b) => a.start - b.start);
}

/** Whether a finding is told of a statement, there or at a further place. */
function isOf({ statement, places }: Answer["findings"][number], index: number | undefined): boolean {
  return statement === index || places.some((place) => place.statement === index);
}

/** The first finding of a statement: one that stands there, else one that is told elsewhere; -1: none. */
function findingOf(answer: Answer | null, index: number): number {
  const own = answer?.findings.findIndex((finding) => finding.statement === index) ?? -1;
  return own >= 0 ? own : (answer?.findings.findIndex((finding) => isOf(finding, index)) ?? -1);
}

function Verdict({ answer, children }: { answer: Answer; children: ReactNode }) {
  const count = (weight: string) => answer.findings.filter((finding) => finding.weight === weight).length;
  const parts = (["stop", "ask", "note"] as const)
    .filter((weight) => count(weight) > 0)
    .map((weight) => `${count(weight)} ${weight}`);
  const statements = answer.statements.length;
  return (
    <header className={`verdict ${answer.verdict}`} data-testid="verdict">
      <WeightMark weight={answer.verdict} size={18} />
      <strong>{answer.verdict}</strong>
      <span className="faint">
        {parts.length > 0 ? `${parts.join(", ")} in ` : ""}
        {statements === 1 ? "1 statement" : `${statements} statements`}
        {answer.unjudged === "" ? "" : `; not judged: ${answer.unjudged}`}
      </span>
      {children}
    </header>
  );
}

function UncheckedList({ answer }: { answer: Answer }) {
  if (answer.unchecked.length === 0) return null;
  return (
    <section className="unchecked">
      <h2>Unchecked</h2>
      <ul>
        {answer.unchecked.map(({ missing, hazards, lines }) => (
          <li key={`${missing} ${hazards.join(" ")}`}>
            {missing}{" "}
            <span className="faint">
              (line {lines.slice(0, 6).join(", ")}
              {lines.length > 6 ? ` and ${lines.length - 6} more` : ""})
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
