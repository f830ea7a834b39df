import type { Catalog } from "../catalog/catalog.ts";
import type { Hazard } from "../hazards/hazard.ts";
import type { Policy } from "../policy/policy.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";

export interface ReviewOptions {
  /**
   * The language of the script. If left out: what a `-- cautela: dialect …` comment says, then the
   * catalog's, then what the script itself looks like (see `guessDialect`).
   */
  dialect?: DialectId;
  /** What the database holds; without it hazards that need it are listed as unchecked. */
  catalog?: Catalog;
  policy?: Policy;
  /** What is looked for: the register's hazards if left out, or `[...hazards, mine]`. */
  hazards?: readonly Hazard[];
  /** The name of the script in the result. */
  path?: string;
  /** The day or the moment at which the script is to run, which the policy's freezes are held against: `2026-12-24T17:30`. */
  date?: string;
  /** Where the script has probably run already and was changed since: what is known of that, for `rewritten-script`. */
  rewritten?: string;
  /** Which statements the result lists: all, or only those with findings (for very long scripts). */
  keep?: "all" | "found";
}
