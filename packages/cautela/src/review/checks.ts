import type { Draft, FinishContext, HazardContext, Weight } from "../hazards/hazard.ts";
import { listOf } from "../policy/patterns.ts";
import type { Policy, PolicyWeight } from "../policy/policy.ts";
import type { Statement } from "../sql/nodes/tree.ts";
import type { Declarations } from "./declarations.ts";

/** A hazard as one review looks for it. */
export interface Check {
  id: string;
  /** The weight that the policy gives it, whatever a finding says; null where it says nothing. */
  fixed: Weight | null;
  /** The weights that the policy gives it for some tables; the last that means a table counts. */
  forTables: readonly TableWeight[];
  /** Its usual weight. */
  usual: Weight;
  /** It speaks of lasting loss, see `Hazard.lasting`. */
  lasting: boolean;
  needs: number;
  kinds: readonly Statement["kind"][] | null;
  run(context: HazardContext): Draft[];
  finish: ((context: FinishContext) => Draft[]) | null;
}

/** The weight of a hazard in statements that change some tables. */
export interface TableWeight {
  tables: readonly string[];
  weight: PolicyWeight;
}

/** The hazards that a review looks for under its policy, found by what a statement is and what it holds. */
export class Checks {
  readonly #all: readonly Check[];
  readonly #byKind = new Map<Statement["kind"], Map<number, readonly Check[]>>();

  constructor({ hazards }: Declarations, policy: Policy) {
    const all: Check[] = [];
    for (const { id, weight, needs, statements, onRequest, lasting, check, finish } of hazards) {
      const said = policy.weights?.[id];
      const forTables = (policy.rules ?? []).flatMap(({ tables, weights }) =>
        weights?.[id] !== undefined ? [{ tables: listOf(tables ?? "*"), weight: weights[id] }] : [],
      );
      const off = said === "off" || (onRequest && said === undefined);
      if (off && forTables.every(({ weight }) => weight === "off")) continue;
      // All of one shape, so that the loop over them runs fast.
      all.push({
        id,
        fixed: said === "off" ? null : (said ?? null),
        forTables: off ? [{ tables: ["*"], weight: "off" }, ...forTables] : forTables,
        usual: weight,
        lasting: lasting ?? false,
        needs: needs ?? 0,
        kinds: statements ?? null,
        run: check ?? NOTHING,
        finish: finish ?? null,
      });
    }
    this.#all = all;
  }

  /** The hazards that can occur in a statement of a kind that holds these `Trait`s. */
  of(kind: Statement["kind"], traits: number): readonly Check[] {
    let byTraits = this.#byKind.get(kind);
    if (!byTraits) {
      byTraits = new Map();
      this.#byKind.set(kind, byTraits);
    }
    let list = byTraits.get(traits);
    if (!list) {
      list = this.#all.filter(
        ({ run, kinds, needs }) =>
          run !== NOTHING && (kinds === null || kinds.includes(kind)) && (needs === 0 || (needs & traits) !== 0),
      );
      byTraits.set(traits, list);
    }
    return list;
  }

  /** The hazards that can be told only at the end. */
  late(): readonly Check[] {
    return this.#all.filter(({ finish }) => finish !== null);
  }
}

const NOTHING = (): Draft[] => [];
