export { type Privilege, privilegesOf } from "./analysis/privileges.ts";
export type { Reach, ReachBound } from "./analysis/reach.ts";
export type {
  FiredRipple,
  Ripple,
  RippleEdge,
  RippleHow,
  RippleNode,
  RippleNote,
  RippleNoteKind,
} from "./analysis/ripples/ripple.ts";
export { type Updatability, updatability, type ViewColumn, type WriteAction } from "./analysis/views/updatability.ts";
export { Catalog, keyParts, tableKey, type UnreadDdl } from "./catalog/catalog.ts";
export { catalogFromDictionary, type Dictionary, type TableFacts } from "./catalog/dictionary.ts";
export { catalogFromDdl } from "./catalog/from-ddl.ts";
export type * from "./catalog/model.ts";
export { emptyTable, plainColumn, uniqueKey } from "./catalog/model.ts";
export { catalogFromSnapshot, type Snapshot, SnapshotError, toSnapshot } from "./catalog/snapshot.ts";
export { columnType } from "./catalog/types.ts";
export type { Family, Hazard, HazardExample, Weight } from "./hazards/hazard.ts";
export { hazards } from "./hazards/register.ts";
export { reachWords } from "./hazards/wording.ts";
export { type Policy, policyFrom } from "./policy.ts";
export type { Region } from "./region.ts";
export { harm } from "./rehearsal/harmless.ts";
export { PHASES, type Phase, type Rehearsal, type RehearsalQuery, type RehearsalSheet } from "./rehearsal/rehearsal.ts";
export { type RehearseOptions, rehearse, rehearseStepwise } from "./rehearsal/rehearse.ts";
export { type Ink, plainInk } from "./report/page.ts";
export { rehearsalMarkdown, rehearsalPhase, rehearsalText, terminated } from "./report/rehearsal-text.ts";
export { type ReportFormat, report } from "./report/report.ts";
export { type TextOptions, textReport } from "./report/text.ts";
export { traceMermaid } from "./report/trace-mermaid.ts";
export { traceText } from "./report/trace-text.ts";
export { visible } from "./report/visible.ts";
export {
  type Finding,
  heaviestFirst,
  type PlacedUnchecked,
  type Review,
  type ReviewDocument,
  reaches,
  reviewDocument,
  type ScriptResult,
  type StatementReview,
  type Unchecked,
  type Verdict,
  type Write,
} from "./result.ts";
export { type ReviewOptions, ReviewSession, ReviewStream, review, reviewChangeSet } from "./review.ts";
export { schemaProblem } from "./schema-problem.ts";
export { children, walk } from "./sql/children.ts";
export { type DecodedText, decodeText } from "./sql/decode.ts";
export type { Dialect, DialectId } from "./sql/dialects/dialect.ts";
export { dialectIds, dialects, isDialectId } from "./sql/dialects/index.ts";
export { type DialectGuess, guessDialect } from "./sql/guess.ts";
export { type ReadStatement, readScript, type Script, ScriptReader } from "./sql/script.ts";
export type * from "./sql/tree.ts";
export { type StatementTrace, type Trace, type TraceNode, trace } from "./trace.ts";
