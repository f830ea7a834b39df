// What a review needs, in the order of its story: read, catalog, review, trace, rehearse, report. What programs that are
// built on this library use besides is in `tools.ts`.

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
export { Trait } from "./analysis/statement/traits.ts";
export { Catalog, type UnreadDdl } from "./catalog/catalog.ts";
export { catalogFromDdl } from "./catalog/ddl/from-ddl.ts";
export type * from "./catalog/model.ts";
export { catalogFromDictionary, type Dictionary, type TableFacts } from "./catalog/snapshot/dictionary.ts";
export { catalogFromSnapshot, type Snapshot, toSnapshot } from "./catalog/snapshot/snapshot.ts";
export type {
  Dependence,
  Draft,
  Family,
  FinishContext,
  Hazard,
  HazardContext,
  HazardExample,
  JudgedChange,
  Weight,
} from "./hazards/hazard.ts";
export { hazards } from "./hazards/register.ts";
export { ofScript as policyOf, refined as refinedPolicy } from "./policy/merged.ts";
export type {
  Forbidden,
  Freeze,
  Policy,
  PolicyRule,
  PolicyWeight,
  ScriptFolders,
  TableClass,
  Weekday,
} from "./policy/policy.ts";
export type { Phase, Rehearsal, RehearsalQuery, RehearsalSheet } from "./rehearsal/rehearsal.ts";
export { type RehearseOptions, rehearse } from "./rehearsal/rehearse.ts";
export { rehearsalMarkdown, rehearsalText } from "./report/rehearsal-text.ts";
export { REPORT_FORMATS, type ReportFormat, type ReportOptions, report } from "./report/report.ts";
export { traceMermaid } from "./report/trace-mermaid.ts";
export { traceText } from "./report/trace-text.ts";
export {
  type Baseline,
  type BaselineEntry,
  baselineFrom,
  baselineOf,
  type Compared,
  compared as comparedWith,
} from "./review/baseline.ts";
export { type ChangeSetOptions, type ChangeSetScript, reviewChangeSet } from "./review/change-set.ts";
export type { ReviewOptions } from "./review/options.ts";
export { type PolicyFault, policyFault, policyFrom } from "./review/policy-from.ts";
export {
  type Answer,
  type Finding,
  isAtLeast,
  type Place,
  type PlacedUnchecked,
  type Review,
  type ReviewDocument,
  type ReviewedScript,
  type ScriptResult,
  type StatementReview,
  type Unchecked,
  type Verdict,
  type Write,
} from "./review/result.ts";
export { review } from "./review/review.ts";
export { ReviewStream } from "./review/stream.ts";

export { type StatementTrace, type Trace, type TraceNode, trace } from "./review/trace.ts";
export type { Dialect, DialectId } from "./sql/dialects/dialect.ts";
export { dialectIds, dialects, isDialectId } from "./sql/dialects/index.ts";
export type * from "./sql/nodes/tree.ts";
export { type DialectGuess, guessDialect } from "./sql/reading/guess.ts";
export { type ReadStatement, readScript, type Script } from "./sql/reading/script.ts";
export { CautelaError, type ErrorPlace } from "./text/cautela-error.ts";
export type { Region } from "./text/region.ts";
