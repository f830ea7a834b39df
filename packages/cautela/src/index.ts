export type { Reach, ReachBound } from "./analysis/changes/reach.ts";
export type {
  FiredRipple,
  Ripple,
  RippleEdge,
  RippleHow,
  RippleNode,
  RippleNote,
  RippleNoteKind,
} from "./analysis/ripples/ripple.ts";
export { type Privilege, privilegesOf } from "./analysis/statement/privileges.ts";
export type { WriteAction } from "./analysis/views/refusals.ts";
export { type Updatability, updatability, type ViewColumn } from "./analysis/views/updatability.ts";
export { Catalog, type UnreadDdl } from "./catalog/catalog.ts";
export { catalogFromDdl } from "./catalog/ddl/from-ddl.ts";
export { keyParts, tableKey } from "./catalog/keys.ts";
export type * from "./catalog/model.ts";
export { emptyTable, plainColumn, uniqueKey } from "./catalog/model.ts";
export { catalogFromDictionary, type Dictionary, type TableFacts } from "./catalog/snapshot/dictionary.ts";
export { catalogFromSnapshot, type Snapshot, SnapshotError, toSnapshot } from "./catalog/snapshot/snapshot.ts";
export { columnType } from "./catalog/types.ts";
export type { Family, Hazard, HazardExample, Weight } from "./hazards/hazard.ts";
export { hazards } from "./hazards/register.ts";
export { reachWords } from "./hazards/wording.ts";
export type { Policy } from "./policy/policy.ts";
export { harm } from "./rehearsal/harmless.ts";
export { PHASES, type Phase, type Rehearsal, type RehearsalQuery, type RehearsalSheet } from "./rehearsal/rehearsal.ts";
export { type RehearseOptions, rehearse, rehearseStepwise } from "./rehearsal/rehearse.ts";
export { type Ink, plainInk } from "./report/layout.ts";
export { rehearsalMarkdown, rehearsalPhase, rehearsalText, terminated } from "./report/rehearsal-text.ts";
export { type ReportFormat, report } from "./report/report.ts";
export { type TextOptions, textReport } from "./report/text.ts";
export { traceMermaid } from "./report/trace-mermaid.ts";
export { traceText } from "./report/trace-text.ts";
export { reviewChangeSet } from "./review/change-set.ts";
export type { ReviewOptions } from "./review/options.ts";
export { policyFrom } from "./review/policy-from.ts";
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
} from "./review/result.ts";
export { review } from "./review/review.ts";
export { ReviewStream } from "./review/stream.ts";
export { type StatementTrace, type Trace, type TraceNode, trace } from "./review/trace.ts";
export { schemaProblem } from "./schemas/schema-problem.ts";
export type { Dialect, DialectId } from "./sql/dialects/dialect.ts";
export { dialectIds, dialects, isDialectId } from "./sql/dialects/index.ts";
export type * from "./sql/nodes/tree.ts";
export { children, walk } from "./sql/nodes/visitor.ts";
export { type DialectGuess, guessDialect } from "./sql/reading/guess.ts";
export { type ReadStatement, readScript, type Script, ScriptReader } from "./sql/reading/script.ts";
export { type DecodedText, decodeText } from "./text/decode.ts";
export type { Region } from "./text/region.ts";
export { visible } from "./text/visible.ts";
