import { type UndoneScript, undoGaps } from "../analysis/script/undo-gaps.ts";
import type { Catalog } from "../catalog/catalog.ts";
import { catalogFromDdl } from "../catalog/ddl/from-ddl.ts";
import { fewLayers } from "../catalog/layers.ts";
import type { Hazard } from "../hazards/hazard.ts";
import { alreadyThere } from "../hazards/order/already-there.ts";
import { undoGap } from "../hazards/recovery/undo-gap.ts";
import { hazards } from "../hazards/register.ts";
import type { Policy } from "../policy/policy.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import { dialects } from "../sql/dialects/index.ts";
import { directions } from "../sql/reading/directions.ts";
import type { ReviewOptions } from "./options.ts";
import type { Review } from "./result.ts";
import type { Earlier } from "./session.ts";
import { setDialects } from "./set-dialects.ts";
import { ReviewStream, type SetPlace } from "./stream.ts";

/** A script of a change set. */
export interface ChangeSetScript {
  text: string;
  path?: string;
  dialect?: DialectId;
  /** The team's rules for it; those of the whole set if left out. */
  policy?: Policy;
  /** It has probably run already, and was changed since: what is known of that, for `rewritten-script`. */
  rewritten?: string;
  /** It has run already: it is not reviewed, only its DDL goes into the catalog. */
  ran?: boolean;
  /**
   * The script that takes it back; it is judged as that, and does not run. A script that holds both directions, under comments
   * of a line that say `up` and `down`, is parted without that; both parts have its path.
   */
  undo?: { text: string; path: string };
}

export interface ChangeSetOptions {
  catalog?: Catalog;
  policy?: Policy;
  /** The day or the moment at which the scripts are to run, see `ReviewOptions`. */
  date?: string;
  hazards?: readonly Hazard[];
  /** Which statements the results list, see `ReviewOptions`. */
  keep?: "all" | "found";
  /** Is told of each script before it is reviewed. */
  begins?(path: string): void;
}

/**
 * Reviews several scripts in order; each finds the database as the ones before it have left it, and what they have done is
 * remembered: copies, new columns, values that were written. Each runs in a session of its own. A script that takes another
 * back follows it in the result: it is judged by what it does not bring back (`undo-gap`), and whether it can be run.
 *
 * @example
 * const [, second] = reviewChangeSet([
 *   { path: "01.sql", text: "CREATE TABLE mooring_before AS SELECT * FROM mooring;" },
 *   { path: "02.sql", text: "DELETE FROM mooring WHERE status = 'left';" },
 * ], { catalog });
 * second.verdict // "clear": the first script keeps a copy
 */
export function reviewChangeSet(scripts: readonly ChangeSetScript[], options: ChangeSetOptions = {}): Review[] {
  const reviews: (Review | ReviewStream)[] = [];
  // What one script leaves off, a later one may put back; the others need not be held in memory until then.
  for (const stream of streamed(scripts, options)) reviews.push(stream.waits ? stream : stream.result());
  return reviews.map((one) => (one instanceof ReviewStream ? one.result() : one));
}

/** Scripts of one language, which run on one database. */
interface Lane {
  earlier: Earlier | null;
  catalog: Catalog | undefined;
  /** The tables that its first script makes, where only that has run; null before it. */
  first: number | null;
}

function* streamed(scripts: readonly ChangeSetScript[], options: ChangeSetOptions): IterableIterator<ReviewStream> {
  const { begins, ...common } = options;
  const guesses = setDialects(
    scripts.map(({ text, undo, ran, ...own }) => ({ text, path: own.path, options: { ...common, ...own } })),
  );
  // Scripts in another language run on another database.
  const lanes = new Map<DialectId, Lane>();
  for (const [i, { text: whole, undo: beside, ran, ...own }] of scripts.entries()) {
    begins?.(own.path ?? "");
    const guess = guesses[i];
    const { dialect } = guess;
    // A script may hold both what is done and what takes it back.
    const parts = beside ? null : directions(whole, dialects[dialect]);
    const text = parts?.up ?? whole;
    const undo = beside ?? (parts ? { text: parts.down, path: own.path ?? "" } : undefined);
    const lane = lanes.get(dialect) ?? { earlier: null, catalog: options.catalog, first: null };
    lanes.set(dialect, lane);
    const { earlier, catalog } = lane;
    // What a script takes back is held against all that the other does.
    const chosen = { ...common, ...own, catalog, ...(undo ? { keep: "all" as const } : {}) };
    if (ran) {
      // What has run long ago was not made by this change set: only the catalog goes on.
      const onto = earlier ? earlier.catalog : catalog;
      if (onto && onto.dialect !== dialect) continue;
      const next = fewLayers(catalogFromDdl(text, { dialect, path: own.path, onto }), options.catalog ?? null);
      if (earlier) lane.earlier = { ...earlier, catalog: next };
      else lane.catalog = next;
      continue;
    }
    const stream = begun(text, chosen, { earlier, guess }, options.catalog, lane.first ?? 0);
    // Of the first script alone it counts whether it is a whole schema.
    lane.first = lane.first === null ? stream.made.tables : 0;
    const { left } = stream;
    const undoOf = undo ? undoing(undo, stream, left, chosen) : null;
    yield stream;
    if (undoOf) yield undoOf;
    lane.earlier = { ...left, catalog: fewLayers(left.catalog, catalog ?? null) };
  }
}

/** From this share of what a script makes on it is made again, and not by mistake. */
const AGAIN = 2 / 3;

/** A script that begins with so many tables is a whole schema. */
const WHOLE = 3;

/**
 * The review of a script after the others. Where it makes again most of the tables that they have made, it stands not after them
 * but in their place: a whole schema beside the scripts that lead to it, or the first of these after a whole schema (`first`:
 * the tables that the one script before it makes). It is reviewed on what the database holds without them, as are those that
 * follow it.
 */
function begun(
  text: string,
  options: ReviewOptions,
  place: SetPlace,
  catalog: Catalog | undefined,
  first: number,
): ReviewStream {
  const stream = new ReviewStream(options, place);
  stream.push(text, true);
  if (!place.earlier) return stream;
  const { tables, tablesRefused, structure, structureRefused } = stream.made;
  const isWhole = tablesRefused >= 2 && tablesRefused >= tables * AGAIN;
  // A column that is added twice is a mistake all the same.
  const followsWhole = first >= WHOLE && tablesRefused >= 1 && structureRefused >= structure * AGAIN;
  if (!isWhole && !followsWhole) return stream;
  const anew = new ReviewStream({ ...options, catalog }, { guess: place.guess });
  anew.push(text, true);
  if (isWhole ? tablesRefused - anew.made.tablesRefused < 2 : anew.made.structureRefused > 0) return stream;
  anew.lacks(
    "it makes again what scripts before it have made, so it was reviewed as a beginning of its own, without them",
    [alreadyThere.id],
  );
  return anew;
}

/** The review of a script that takes another back: what that has made is its own. */
function undoing(
  { text, path }: { text: string; path: string },
  undone: ReviewStream,
  left: Earlier,
  { rewritten: _, ...options }: Omit<ChangeSetOptions, "begins"> & Omit<ChangeSetScript, "text">,
): ReviewStream {
  const looked = (options.hazards ?? hazards).filter(isOfUndo);
  const stream = new ReviewStream(
    { ...options, path, dialect: left.dialect, hazards: looked },
    { earlier: left, undo: true },
  );
  stream.push(text, true);
  const end = stream.left;
  const script: UndoneScript = {
    before: left.before,
    after: left.catalog,
    statements: left.read.map(({ tree }) => tree),
  };
  const gaps = undoGaps(
    script,
    end.read.map(({ tree }) => tree),
    end.catalog,
    dialects[end.dialect],
  );
  stream.stands({ undoes: { path: left.path, ...gaps } });
  if (gaps.structure.length === 0) undone.stands({ undoneBy: path });
  return stream;
}

/** What is looked for in a script that takes another back: that it loses what the other has brought is what it is for. */
function isOfUndo({ id, family }: Hazard): boolean {
  return id === undoGap.id || !["recovery", "ripples", "order"].includes(family);
}
