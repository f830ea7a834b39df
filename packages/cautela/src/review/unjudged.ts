import type { Statement } from "../sql/nodes/tree.ts";
import { classOf } from "../sql/reading/script.ts";
import type { Unjudged } from "./result.ts";

/** Settings that a hazard, or what follows from a statement, depends on. */
const LOOKED_AT =
  /^(?:foreign_keys|recursive_triggers|foreign_key_checks|unique_checks|check_constraint_checks|ignore_check_constraints|session_replication_role|sql_mode|sql_safe_updates|search_path|current_schema|xact_abort|ansi_nulls|ansi_warnings|autocommit|implicit_transactions|nocount|quoted_identifier|identity_insert|database|schema|names|client_encoding|on_error_stop)$/;

/** What was read and is not judged by any hazard, counted by kind: `clear` does not speak of it. */
export class UnjudgedStatements {
  readonly list: Unjudged[] = [];

  note(tree: Statement, statement: number): void {
    const what = kindOf(tree);
    if (what === null) return;
    const known = this.list.find((one) => one.what === what);
    if (known) known.statements.push(statement);
    else this.list.push({ what, statements: [statement] });
  }
}

function kindOf(tree: Statement): Unjudged["what"] | null {
  const kind = classOf(tree);
  if (kind === "rights") return "rights";
  switch (tree.kind) {
    case "merge":
      return "branches of MERGE";
    case "setting":
      return tree.name.split(",").every((name) => LOOKED_AT.test(name)) ? null : "settings";
    case "opaque":
      return kind === "reads" || kind === "transaction" ? null : "commands";
    default:
      return null;
  }
}
