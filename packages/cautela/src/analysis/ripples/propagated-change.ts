import type { RelationObject } from "../../catalog/catalog.ts";
import type { Reach } from "../changes/reach.ts";
import type { RowChange } from "../changes/row-change.ts";
import type { ConstantValue } from "../conditions/conditions.ts";
import type { FiredBy } from "./guards.ts";
import type { RippleHow, Spread } from "./ripple.ts";

/** How one place is reached. */
export interface Step {
  how: RippleHow;
  name: string;
  reason: string;
  certain: boolean;
  definition: string;
}

/** A change on its way through triggers and keys. */
export interface PropagatedChange
  extends Pick<RowChange, "action" | "columns" | "values" | "cascades" | "only" | "replaced" | "manner"> {
  relation: RelationObject;
  spread: Spread;
  /** How often the statement runs that makes this change: a statement trigger fires once each time. */
  times: Spread;
  /** Triggers fire here (not for the cascades of mysql). */
  fires: boolean;
  /** No row can be met: only statement triggers fire. */
  rowless: boolean;
  /** The change of the statement itself, as long as these are its own rows. */
  change?: RowChange["change"];
  /** It comes from a table of which this one is a partition, or from which it inherits. */
  below?: boolean;
  /** A row may go to another partition: it is deleted from one and inserted into the other. */
  moves?: boolean;
}

export const NO_VALUES: ReadonlyMap<string, ConstantValue> = new Map();

/** What a change looks like to the conditions of triggers; columns that earlier triggers rewrote may differ too. */
export function firedBy(wave: PropagatedChange, rewritten: readonly string[] = []): FiredBy {
  if (rewritten.length === 0) return { event: wave.action, columns: wave.columns, values: wave.values, depth: 0 };
  const values = new Map(wave.values);
  for (const column of rewritten) values.delete(column);
  return {
    event: wave.action,
    columns: wave.columns === null ? null : [...wave.columns, ...rewritten],
    values,
    depth: 0,
  };
}

/** The rows that a statement in code writes, when the code runs this many times. */
export function spreadOf(reach: Reach, times: Spread): Spread {
  if (reach.bound === "every") return "every";
  return reach.bound === "one" && times !== "every" ? times : "some";
}
