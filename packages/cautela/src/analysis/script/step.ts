import type { Catalog } from "../../catalog/catalog.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Statement } from "../../sql/nodes/tree.ts";
import type { Region } from "../../text/region.ts";
import type { Slice } from "../../text/slice.ts";
import type { JudgedChange } from "../changes/judged-change.ts";
import type { Resolution } from "../names/resolution.ts";
import type { FiredRipple } from "../ripples/ripple.ts";

/** A place in the script. */
export interface Moment {
  statement: number;
  region: Region;
}

/** A condition on which a statement runs, asked at a statement of the script: IF around it, IF … RETURN before it. */
export interface Gate {
  readonly condition: Expr;
  /** It runs where the condition does not hold: after IF … RETURN, under ELSE. */
  readonly otherwise: boolean;
  readonly asked: number;
}

/** A statement as the memory of a script takes it in, when it has been reviewed. */
export interface Step {
  readonly tree: Statement;
  readonly at: Moment;
  readonly changes: readonly JudgedChange[];
  readonly ripples: readonly FiredRipple[];
  readonly names: Resolution | null;
  readonly catalog: Catalog | null;
  readonly dialect: Dialect;
  readonly slice: Slice;
  /** The number by which it is the same as another statement; null when it is too long to matter. */
  readonly text: number | null;
  /** A comment of the author that a copy is kept elsewhere; null: none. */
  readonly backup: string | null;
  /** Why the script is a first installation, as a comment at its head says; null: nobody says so. */
  readonly install: string | null;
  /** It stands inside a block: it may run more than once. */
  readonly inCode: boolean;
  /** It stands in a branch, in a loop or in a handler of errors: it need not run. */
  readonly conditional: boolean;
  /** It stands in a loop. */
  readonly inLoop: boolean;
  /** It stands in a text that is run: its variables are parameters of that text. */
  readonly quoted: boolean;
  /** The conditions on which it runs. */
  readonly gates: readonly Gate[];
}
