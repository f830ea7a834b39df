import { type Band, bandOf, overlap, type Step, stepped } from "../conditions/bands.ts";
import type { ConstantValue } from "../conditions/conditions.ts";
import { equalFact, type FilterFact, implied, leavesOut, shownFixed } from "../conditions/filter-facts.ts";
import type { PastChange } from "./history.ts";

// What an earlier change of the same table has done to the rows that a filter asks for: it has taken them, or brought others in.

/** An earlier change after which no row meets a filter. */
export interface Overtaken {
  readonly by: PastChange;
  /** The column that has another value now; null: the rows were deleted. */
  readonly column: string | null;
}

/**
 * The change that has met every row of a filter, and has deleted it or given it a value that the filter does not admit; null: such
 * rows may be there.
 *
 * @example
 * // DELETE FROM stay WHERE left_on IS NOT NULL;   UPDATE stay SET fee = 0 WHERE left_on IS NOT NULL AND berth = 4
 */
export function overtaken(own: readonly FilterFact[], past: readonly PastChange[]): Overtaken | null {
  if (own.length === 0) return null;
  const asked = columnsOf(own);
  for (let i = past.length - 1; i >= 0; i--) {
    const by = past[i];
    if (by.looped || by.perhaps || by.action === "truncate") return null;
    const touches = asked.has("") || keysIn(by.assigned, asked);
    if (by.action === "update" && !touches) continue;
    const facts = factsOf(by);
    // What another table is asked for may have changed.
    const all = facts !== null && facts.length > 0 && facts.every((one) => columnOf(one) !== "" && implied(one, own));
    if (by.action === "delete") {
      if (all) return { by, column: null };
      continue;
    }
    if (all) {
      for (const [column, written] of by.set)
        if (own.some((fact) => ruledOut(fact, column, written))) return { by, column };
      for (const [column, step] of by.steps) {
        const [there, here] = [bandOf(facts, column), bandOf(own, column)];
        if (there && here && !overlap(stepped(there, step), here)) return { by, column };
      }
    }
    // What it moved may have come from elsewhere.
    return null;
  }
  return null;
}

function keysIn(map: ReadonlyMap<string, unknown>, set: ReadonlySet<string>): boolean {
  for (const key of map.keys()) if (set.has(key)) return true;
  return false;
}

/** Rows that an earlier change has moved to where a filter finds them, and would not have found them before. */
export interface MovedInto {
  readonly by: PastChange;
  readonly column: string;
  readonly step: Step;
}

/**
 * The change whose rows an UPDATE of the same column meets a second time, because the first has moved them; null: there is none.
 *
 * @example
 * // UPDATE berth SET fee = fee * 1.1 WHERE fee < 100;   UPDATE berth SET fee = fee * 1.05 WHERE fee >= 100
 */
export function movedInto(
  own: readonly FilterFact[],
  steps: ReadonlyMap<string, Step>,
  past: readonly PastChange[],
): MovedInto | null {
  for (const [column, next] of steps) {
    const here = bandOf(own, column);
    // What lies outside a limit is set to it.
    if (!here || (next.op === "=" && (next.by === here.low || next.by === here.high))) continue;
    for (let i = past.length - 1; i >= 0; i--) {
      const by = past[i];
      const step = by.steps.get(column);
      if (!by.assigned.has(column)) continue;
      const facts = step && !by.looped && !by.perhaps && by.action === "update" ? factsOf(by) : null;
      const there = facts ? bandOf(facts, column) : null;
      if (!step || !facts || !there) break;
      // Of two values the order of the statements is told elsewhere.
      if (isOne(there) && isOne(here)) break;
      const now = stepped(there, step);
      // Out of the way by a thousand, and back again.
      const back = step.op === "+" && next.op === "+" && step.by * next.by < 0;
      const elsewhere = [...by.set].some(
        ([name, value]) => name !== column && own.some((fact) => ruledOut(fact, name, value)),
      );
      if (!back && !elsewhere && !overlap(there, here) && overlap(now, here) && mayMeet(facts, own, column))
        return { by, column, step };
      break;
    }
  }
  return null;
}

function isOne({ low, high }: Band): boolean {
  return low === high;
}

/** Whether a row can meet two filters, as far as columns other than one are compared with constants. */
function mayMeet(facts: readonly FilterFact[], own: readonly FilterFact[], but: string): boolean {
  for (const { column, values } of facts) {
    if (column === null || column === but || !values) continue;
    for (const other of own)
      if (other.column === column && other.values && !other.values.some((value) => values.includes(value)))
        return false;
  }
  return true;
}

/** The filter of a past change as facts; null: it is not known. */
function factsOf({ facts, where }: PastChange): readonly FilterFact[] | null {
  if (facts || !where) return facts;
  return [...where].flatMap(([column, value]) => equalFact(column, value) ?? []);
}

/** Whether a condition is not true of a value. */
function ruledOut(fact: FilterFact, column: string, value: ConstantValue): boolean {
  if (fact.any) return fact.any.every((branch) => branch.some((one) => ruledOut(one, column, value)));
  if (value.type === "null") return fact.column === column || fact.key === `(${column} is not null)`;
  if (fact.key === `(${column} is null)`) return true;
  const shown = fact.column === column ? shownFixed(value) : null;
  return shown !== null && leavesOut(fact, shown);
}

/** The columns that a filter asks for; an empty name where a condition is not about one column alone. */
function columnsOf(facts: readonly FilterFact[]): ReadonlySet<string> {
  return new Set(
    facts.flatMap(({ any, ...fact }) => any?.flatMap((branch) => [...columnsOf(branch)]) ?? columnOf(fact)),
  );
}

function columnOf({ column, key }: Pick<FilterFact, "column" | "key">): string {
  return column ?? /^\((\w+) is (?:not )?null\)$/.exec(key)?.[1] ?? "";
}
