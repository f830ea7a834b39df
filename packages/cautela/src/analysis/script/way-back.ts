import { implied } from "../conditions/filter-facts.ts";
import type { Copy, Destruction } from "./copies.ts";
import type { Timeline } from "./timeline.ts";

/** What would bring back what a statement destroys. */
export type WayBack =
  /** A copy covers it, or it is kept elsewhere. */
  | { kind: "kept"; why: string }
  /** The transaction is rolled back, or left open for somebody to look. */
  | { kind: "trial"; why: string }
  /** There is a copy, and it does not cover what is lost. */
  | { kind: "thin"; copy: Copy; why: string }
  | { kind: "none" };

const judged = new WeakMap<Destruction, WayBack>();

/** Judges the way back of one destruction, when the whole script is known; found once for all hazards that ask. */
export function wayBack(lost: Destruction, timeline: Timeline): WayBack {
  const known = judged.get(lost);
  if (known) return known;
  const found = judge(lost, timeline);
  judged.set(lost, found);
  return found;
}

function judge(lost: Destruction, timeline: Timeline): WayBack {
  if (lost.declared !== null) return { kind: "kept", why: lost.declared };
  if (lost.undone) return { kind: "trial", why: "the script rolls back to a savepoint before it" };
  if (lost.span?.end === "rollback") return { kind: "trial", why: "the transaction is rolled back at its end" };
  let thin: { copy: Copy; why: string } | null = null;
  const own = timeline.copies.of(lost.key);
  for (let i = 0; i < own.length; i++) {
    const copy = own[i];
    if (copy.undone && copy.undone.statement < lost.at.statement) continue;
    if (copy.became && copy.of === lost.key && copy.became.statement < lost.at.statement) continue;
    const late = copy.place >= lost.copies;
    // What is dropped again has served another end.
    if (late && (thin !== null || i !== own.length - 1 || copy.gone || servesLater(copy, lost, timeline))) continue;
    const why = late ? "it is made after the rows are gone" : shortfall(copy, lost, copy.columns, !isMeant(copy, lost));
    // A list of some columns of a table that is not known keeps what nobody can tell.
    const told =
      copy.columns === null || copy.into || lost.columns !== null || lost.table !== null || isMeant(copy, lost);
    if (why === null && told) return { kind: "kept", why: `\`${copy.shown}\` keeps a copy` };
    // What another script has copied was made for its own changes.
    if (
      why === null ||
      copy.earlier ||
      !isMeant(copy, lost) ||
      (copy.filterText !== lost.filterText && hasItsOwn(copy, timeline))
    )
      continue;
    // It is filled by the next statement, and that is the copy.
    if (copy.structureOnly && own.some((one) => one.name === copy.name && !one.structureOnly)) continue;
    // The copy that comes nearest is the one to mention: the last before, or else one after.
    if (!late || (thin === null && i === own.length - 1)) thin = { copy, why };
  }
  if (lost.span?.end === "open")
    return { kind: "trial", why: "the transaction is still open at the end of the script" };
  return thin ? { kind: "thin", ...thin } : { kind: "none" };
}

/** Whether a copy that comes too late for one change was made for a later one. */
function servesLater(copy: Copy, { key }: Destruction, { destructions, altered }: Timeline): boolean {
  if ((altered.get(key) ?? -1) > copy.at.statement) return true;
  const known = serving.get(copy);
  if (known !== undefined) return known;
  // An archive goes with the DELETE after it, however well the two agree.
  const serves = destructions.some(
    (one) =>
      one.key === key &&
      one.copies > copy.place &&
      ((copy.into !== null && one.action === "delete") || shortfall(copy, one) === null),
  );
  serving.set(copy, serves);
  return serves;
}

const serving = new WeakMap<Copy, boolean>();

/** Whether a copy of some rows was made for another change, which meets just these: a move, or a correction of its own. */
function hasItsOwn(copy: Copy, { destructions }: Timeline): boolean {
  if (copy.filterText === "") return false;
  const known = owned.get(copy);
  if (known !== undefined) return known;
  const own = destructions.some(
    ({ key, copies, filterText }) => key === copy.of && copies > copy.place && filterText === copy.filterText,
  );
  owned.set(copy, own);
  return own;
}

const owned = new WeakMap<Copy, boolean>();

/** Whether a copy was made for the way back, see `isMeantFor`. A table that is rebuilt takes all rows along. */
function isMeant(copy: Copy, lost: Destruction): boolean {
  return (lost.action === "drop" && copy.filterText === "") || copy.isMeantFor(lost.shown);
}

/** What a copy lacks of what a statement destroys; null: nothing. */
export function shortfall(copy: Copy, lost: Destruction, columns = copy.columns, brief = false): string | null {
  if (copy.structureOnly) return "it has the columns and no rows";
  // Rows that are picked from the copy are in it, however it was filled.
  const picked = lost.among.includes(copy.name);
  if (copy.uncertain && !picked) return copy.uncertain;
  if (columns) {
    const missing = missingColumns(copy, lost, columns);
    // Nobody will read the reason.
    if (brief && missing.length > 0) return "";
    if (missing.length > 0) return `it lacks ${missing.map((one) => `\`${one}\``).join(", ")}`;
    const key = lost.table?.primaryKey?.columns ?? [];
    const without = key.filter((column) => !columns.includes(column.toLowerCase()));
    if (without.length > 0) return `it lacks the key ${without.map((one) => `\`${one}\``).join(", ")}`;
  }
  if (copy.filter && !picked) {
    // What every condition of the copy asks for the change asks for as well: the copy's rows are at least its rows.
    if (copy.filter.some((fact) => !implied(fact, lost.filter ?? [])))
      return copy.filterText === ""
        ? "it holds only rows that its join finds"
        : `it holds only rows where ${copy.filterText}`;
  }
  return null;
}

/** The columns of what a statement destroys that a copy does not hold. */
export function missingColumns(copy: Copy, lost: Destruction, columns: readonly string[]): string[] {
  const needed =
    lost.columns ?? lost.table?.columns.filter(({ generated }) => !generated).map(({ name }) => name.toLowerCase());
  // A table that is rebuilt may hold a column in another form.
  const held = lost.action === "drop" ? [...columns, ...copy.derived] : columns;
  return needed?.filter((column) => !held.includes(column)) ?? [];
}

/** Where a copy that covered something was lost again before the end; null where it is still there. */
export function lostCopy(lost: Destruction, timeline: Timeline): Copy | null {
  let last: Copy | null = null;
  for (const copy of timeline.copies.of(lost.key)) {
    if (
      copy.place >= lost.copies ||
      copy.undone ||
      (copy.became && copy.of === lost.key) ||
      !isMeant(copy, lost) ||
      shortfall(copy, lost) !== null
    )
      continue;
    if (copy.gone === null) return null;
    last = copy;
  }
  return last;
}
