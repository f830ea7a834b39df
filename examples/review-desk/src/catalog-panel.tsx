import { useState } from "react";

interface CatalogPanelProps {
  text: string;
  tables: number;
  onText(text: string): void;
  onFile(): void;
  onClose(): void;
}

/** The structure of the database, as DDL that can be typed, pasted, dropped or opened. */
export function CatalogPanel({ text, tables, onText, onFile, onClose }: CatalogPanelProps) {
  const [draft, setDraft] = useState(text);
  return (
    <section className="catalog" aria-label="Catalog">
      <header>
        <h2>Catalog</h2>
        <span className="faint">{tables === 1 ? "1 table" : `${tables} tables`} known from this DDL</span>
        <span className="spring" />
        <button type="button" onClick={onFile}>
          Open a file
        </button>
        <button type="button" onClick={onClose}>
          Done
        </button>
      </header>
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
    </section>
  );
}
