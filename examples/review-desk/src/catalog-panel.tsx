import { useMemo, useState } from "react";
import type { CatalogEntry } from "./catalog-entries.ts";

interface CatalogPanelProps {
  text: string;
  tables: number;
  entries: CatalogEntry[];
  onText(text: string): void;
  onFile(): void;
  onClose(): void;
}

/** What the database holds: its objects to be searched, and the DDL they come from. */
export function CatalogPanel({ text, tables, entries, onText, onFile, onClose }: CatalogPanelProps) {
  const [draft, setDraft] = useState(text);
  const [typing, setTyping] = useState(entries.length === 0);
  const [wanted, setWanted] = useState("");
  const shown = useMemo(() => matching(entries, wanted), [entries, wanted]);
  return (
    <section className="catalog" aria-label="Catalog">
      <header>
        <h2>Catalog</h2>
        <span className="faint">{tables === 1 ? "1 table" : `${tables} tables`} known</span>
        <span className="spring" />
        <button type="button" aria-pressed={typing} onClick={() => setTyping(!typing)}>
          {typing ? "Objects" : "DDL"}
        </button>
        <button type="button" onClick={onFile}>
          Open a file
        </button>
        <button type="button" onClick={onClose}>
          Done
        </button>
      </header>
      {typing ? (
        <textarea
          aria-label="DDL of the database"
          spellCheck={false}
          value={draft}
          placeholder="CREATE TABLE …"
          onChange={(event) => {
            setDraft(event.target.value);
            onText(event.target.value);
          }}
        />
      ) : (
        <div className="objects">
          <input
            type="search"
            aria-label="Search the catalog"
            placeholder="a table, a column, a word of a trigger"
            value={wanted}
            onChange={(event) => setWanted(event.target.value)}
          />
          <ul>
            {shown.map((entry) => (
              <li key={`${entry.kind} ${entry.name} ${entry.facts}`}>
                <details open={wanted !== "" && shown.length <= 6}>
                  <summary>
                    <span className="kind">{entry.kind}</span> <strong>{entry.name}</strong>{" "}
                    <span className="faint">{entry.facts}</span>
                  </summary>
                  <dl>
                    {entry.rows.map((row, i) => (
                      // Two checks may read the same.
                      // biome-ignore lint/suspicious/noArrayIndexKey: the list never changes its order
                      <div key={i}>
                        <dt>{row.name}</dt>
                        <dd>{row.detail}</dd>
                      </div>
                    ))}
                  </dl>
                  {entry.text !== "" && <pre>{entry.text}</pre>}
                </details>
              </li>
            ))}
          </ul>
          {shown.length === 0 && <p className="faint">Nothing in the catalog has “{wanted}” in it.</p>}
        </div>
      )}
    </section>
  );
}

/** The entries in which every word occurs: in a name, a column, a body. */
function matching(entries: CatalogEntry[], wanted: string): CatalogEntry[] {
  const words = wanted
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== "");
  if (words.length === 0) return entries;
  return entries.filter((entry) => {
    const text =
      `${entry.kind} ${entry.name} ${entry.facts} ${entry.rows.map((row) => `${row.name} ${row.detail}`).join(" ")} ${entry.text}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
}
