import type { Dependence, Hazard } from "../hazards/hazard.ts";
import { hazards } from "../hazards/register.ts";

/** What a list of hazards declares of them, worked out once for all reviews that look for them. */
export class Declarations {
  readonly hazards: readonly Hazard[];
  /** Their places in the list: the order in which they are told where they stand at one place. */
  readonly rank: ReadonlyMap<string, number>;
  /** The hazards that one takes in, because it says the same. */
  readonly subsumed: ReadonlyMap<string, readonly string[]>;
  /** Those that may turn up at a statement after it was reviewed. */
  readonly late: ReadonlySet<string>;
  /** Those that are not decided where something is missing; without a catalog no name is decided either. */
  readonly depending: Readonly<Record<Dependence, readonly string[]>>;

  constructor(list: readonly Hazard[]) {
    const on = (what: Dependence): string[] =>
      list.filter(({ depends }) => depends?.includes(what)).map(({ id }) => id);
    this.hazards = list;
    this.rank = new Map(list.map(({ id }, i) => [id, i]));
    this.subsumed = new Map(list.flatMap(({ id, subsumes }) => (subsumes ? [[id, subsumes]] : [])));
    this.late = new Set(list.filter(({ finish, speaksLater }) => finish || speaksLater).map(({ id }) => id));
    const names = on("names");
    this.depending = { catalog: [...names, ...on("catalog")], names, ripples: on("ripples"), code: on("code") };
  }
}

/** Of the hazards that every review looks for, unless it is given others. */
export const declared = new Declarations(hazards);
