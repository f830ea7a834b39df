import { privilegesOf } from "../analysis/privileges.ts";
import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import type { Catalog } from "../catalog/catalog.ts";
import type { Review } from "../result.ts";
import { dialects } from "../sql/dialects/index.ts";
import { CopyNames } from "./copy-names.ts";
import { harm } from "./harmless.ts";
import type { Rehearsal, RehearsalSheet } from "./rehearsal.ts";
import { sheetsOf } from "./sheets.ts";
import { SqlWriter } from "./sql-writer.ts";

export interface RehearseOptions {
  /** One statement of the script, by its index. */
  statement?: number;
  /** The day that goes into the names of copies, as it is to be written: `20261125`. */
  date?: string;
  /** Counts stop behind so many rows; without it they count all. Not for tsql, plsql and jet. */
  countUpTo?: number;
}

/**
 * Writes the rehearsal of each changing statement of a review: count, preview with old and new values, control figures,
 * copies, the guarded change, the checks afterwards, the restore. Pure; nothing is run.
 *
 * @example
 * rehearse(review(script, { catalog }), { date: "20261125" }).sheets[0].queries
 */
export function rehearse(review: Review, options: RehearseOptions = {}): Rehearsal {
  const writer = new SqlWriter(dialects[review.dialect], options.countUpTo ?? null);
  const names = new CopyNames(review.policy, options.date ?? "");
  const sheets: RehearsalSheet[] = [];
  const touched = new Map<string, number>();
  for (const statement of review.statements) {
    const source = review.sources.get(statement.index);
    if (!source) continue;
    const fired = review.ripples.get(statement.index) ?? [];
    const made = sheetsOf(statement, source, fired, writer, names);
    for (const sheet of made) {
      sheet.privileges = privilegesOf(source.tree, review.catalog, named(fired) ?? sheet.target);
      if (review.catalog) takeOutHarm(sheet, review.catalog);
      // Queries that are run before the whole script meet rows as they are before its first statement.
      const earlier = touched.get(sheet.target);
      if (earlier !== undefined && earlier !== statement.line)
        sheet.reasons.push(`line ${earlier} writes ${sheet.target} before: its figures hold only once that has run`);
    }
    for (const { table } of statement.writes) if (!touched.has(table)) touched.set(table, statement.line);
    // Names of copies are given out in the order of the script, whichever statement is asked for.
    if (options.statement === undefined || options.statement === statement.index) sheets.push(...made);
  }
  return { format: "cautela.rehearsal", version: 1, path: review.path, dialect: review.dialect, sheets };
}

/** The view that a statement names: the rights to it are asked for, not those to the table behind it. */
function named(fired: readonly FiredRipple[]): string | null {
  const root = fired.find(({ ripple }) => ripple.nodes[0].object === "view")?.ripple.nodes[0];
  return root?.name ?? null;
}

/** Nothing that is run beforehand may write, whatever functions the statement calls. */
function takeOutHarm(sheet: RehearsalSheet, catalog: Catalog): void {
  const looks = sheet.queries.filter(({ purpose }) => purpose === "count" || purpose === "preview");
  for (const { sql } of looks) {
    const why = harm(sql, catalog);
    if (why === null) continue;
    if (!/ (?:may|could) write/.test(why)) {
      const said = `${why}: make sure that it only reads before you run the queries`;
      if (!sheet.reasons.includes(said)) sheet.reasons.push(said);
      continue;
    }
    sheet.queries = sheet.queries.filter(({ phase }) => phase === "change");
    sheet.reasons.push(`${why}, so no query was written that would call it beforehand`);
    return;
  }
}
