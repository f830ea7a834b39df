import type { Resolution } from "../analysis/names/resolution.ts";
import type { NodeIndex } from "../analysis/statement/node-index.ts";
import type { Column, Table } from "../catalog/model.ts";
import type { Draft } from "../hazards/hazard.ts";
import type { Ident, Statement } from "../sql/nodes/tree.ts";
import { inEveryForm } from "./draft-forms.ts";

/** Names by what they compare as: as the statement writes them, or else as their definitions do. */
export interface Spellings {
  words: ReadonlyMap<string, string>;
  /** Those that are no single word: `Unit Price`. */
  phrases: ReadonlyMap<string, string>;
}

/** How the names in sight of a statement are spelled, where that is not how they compare. What tables hold is looked up once. */
export class Speller {
  readonly #ofTables = new WeakMap<Table, readonly string[]>();

  of(tree: Statement, names: Resolution | null, found: NodeIndex, altered: Table | undefined): Spellings {
    const words = new Map<string, string>();
    const phrases = new Map<string, string>();
    const take = (spelled: string | null | undefined): void => {
      const folded = spelled?.toLowerCase();
      if (!spelled || !folded || folded === spelled) return;
      const spellings = /\W/.test(folded) ? phrases : words;
      if (!spellings.has(folded)) spellings.set(folded, spelled);
    };
    for (const { path } of found.columns) for (const { text } of path) take(text);
    for (const { text } of written(tree)) take(text);
    if (altered) for (const spelled of this.#table(altered)) take(spelled);
    for (const { relations } of names?.scopes.values() ?? [])
      for (const { source, table, columns } of relations) {
        if (source && "alias" in source && source.alias) take(source.alias.text);
        if (source?.kind === "table") for (const { text } of source.name.parts) take(text);
        take(table?.written?.[table.written.length - 1]);
        if (table) for (const spelled of this.#table(table)) take(spelled);
        else for (const { column } of columns ?? []) take(ownSpelling(column));
      }
    return { words, phrases };
  }

  /** The columns of a table that are spelled otherwise than they compare. */
  #table(table: Table): readonly string[] {
    let own = this.#ofTables.get(table);
    if (!own) {
      own = table.columns.map(ownSpelling).filter((name) => name !== null && name !== name.toLowerCase()) as string[];
      this.#ofTables.set(table, own);
    }
    return own;
  }
}

/** The names that a statement gives besides those of its expressions and sources. */
function written(tree: Statement): readonly Ident[] {
  switch (tree.kind) {
    case "alter-table":
      return tree.actions.flatMap((action) =>
        "name" in action && action.name ? [action.name] : "column" in action ? [action.column.name] : [],
      );
    case "alter-trigger":
    case "drop":
      return (tree.names ?? []).flatMap(({ parts }) => parts);
    case "create-routine":
    case "create-view":
    case "create-index":
      return tree.name?.parts ?? [];
    default:
      return [];
  }
}

/** How a column is spelled: a name in capital letters alone is how Oracle folds it, and nobody's own. */
function ownSpelling(column: Column | null | undefined): string | null {
  if (!column) return null;
  return column.spelling ?? (column.name === column.name.toUpperCase() ? null : column.name);
}

/** A draft that names things as they are spelled: what is compared in any case is shown as people write it. */
export function respelled(draft: Draft, spellings: Spellings): Draft {
  if (spellings.words.size === 0 && spellings.phrases.size === 0) return draft;
  const of = (text: string): string => respelledText(text, spellings);
  return inEveryForm(draft, (form) => ({
    ...form,
    message: of(form.message),
    because: form.because.map(of),
    remedy: of(form.remedy),
  }));
}

/** Only what stands between backquotes is code, but for its texts; the rest is English, where `name` and `status` are words. */
function respelledText(text: string, { words, phrases }: Spellings): string {
  return text
    .split("`")
    .map((part, i) => {
      if (i % 2 === 0) return part;
      let own = part.replace(/'[^']*'|[@:]?[a-z_][\w$]*/g, (word) => words.get(word) ?? word);
      for (const [folded, spelled] of phrases) own = own.replaceAll(folded, () => spelled);
      return own;
    })
    .join("`");
}
