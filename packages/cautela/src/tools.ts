// What programs that are built on this library use besides the review itself: the command and the page do.

export { type Privilege, privilegesOf } from "./analysis/statement/privileges.ts";
export type { WriteAction } from "./analysis/views/refusals.ts";
export { type Updatability, updatability, type ViewColumn } from "./analysis/views/updatability.ts";
export { keyParts, tableKey } from "./catalog/keys.ts";
export { emptyTable, plainColumn, uniqueKey } from "./catalog/model.ts";
export { columnType } from "./catalog/types.ts";
export { reachWords } from "./hazards/wording.ts";
export { spanOf } from "./policy/freeze.ts";
export { isScriptOf } from "./policy/patterns.ts";
export { whyNotReadOnly } from "./rehearsal/harmless.ts";
export { PHASES } from "./rehearsal/rehearsal.ts";
export { rehearseStepwise } from "./rehearsal/rehearse.ts";
export { htmlReport } from "./report/html/page.tsx";
export { jsonPieces, jsonReport } from "./report/json.ts";
export { junitReport } from "./report/junit.ts";
export { plainStyle, type Style } from "./report/layout.ts";
export { markdownReport } from "./report/markdown.ts";
export { drawnReach } from "./report/marks.ts";
export { rehearsalPhase, terminated } from "./report/rehearsal-text.ts";
export { type ReportedScript, reported } from "./report/reported.ts";
export {
  arrowPath,
  LINE,
  NOTE_WORDS,
  type RippleArrow,
  type RippleBox,
  type RippleDrawing,
  rippleDrawing,
} from "./report/ripple-layout.ts";
export { sarifReport } from "./report/sarif.ts";
export { type TextOptions, textReport } from "./report/text.ts";
export { unjudgedWords } from "./report/unjudged.ts";
export { reviewExample } from "./review/example.ts";
export { blocksByWeight, reviewDocument } from "./review/result.ts";
export { schemaProblem } from "./schemas/schema-problem.ts";
export { children, walk } from "./sql/nodes/visitor.ts";
export { ScriptReader } from "./sql/reading/script.ts";
export { type DecodedText, decodeText } from "./text/decode.ts";
export { visible } from "./text/visible.ts";
