import type { Mitigation } from "../script/mitigations.ts";
import type { Change } from "./change.ts";
import type { ReachResult } from "./reach.ts";

/** A change with its reach and with what softens a finding about it. */
export interface JudgedChange {
  change: Change;
  result: ReachResult;
  /** The target as messages name it. */
  target: string;
  softener: Mitigation | null;
  /** What keeps a copy of the whole target, in words: one made before this statement, or where it hands its rows on to. */
  copy: string | null;
}
