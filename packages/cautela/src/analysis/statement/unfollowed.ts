import type { Catalog } from "../../catalog/catalog.ts";
import { writtenName } from "../../catalog/names.ts";
import type { Name, Statement } from "../../sql/nodes/tree.ts";

/** Lines for the client program that run another file (psql, mysql, sqlite3, sqlcmd, SQL*Plus). */
const RUNS_A_FILE = /^(?:\\ir?\b|\\include|\\\.|source\b|\.read\b|:r\b|@|start\b)/i;

/**
 * Routines that come with an engine and write no rows of any table (Oracle, "PL/SQL Packages and Types Reference"; SQL Server,
 * "System stored procedures").
 */
const WRITES_NO_ROWS =
  /^(?:(?:sys\.)?(?:(?:dbms_(?:output|lock|session|application_info|stats|utility|random|lob|metadata|crypto|assert|trace|monitor|profiler|xmlgen)|utl_\w+|htp|htf)\.\w+|raise_application_error)|(?:(?:master|sys|dbo)?\.{1,2}|sys\.)?(?:sp_(?:addextendedproperty|updateextendedproperty|dropextendedproperty|refreshview|refreshsqlmodule|recompile|updatestats|settriggerorder|bindrule|who2?|help\w*|spaceused|set_session_context|getapplock|releaseapplock)|xp_logevent))$/i;

/** Whether a routine is one of the engine's own that writes no rows. */
export function writesNoRows(name: Name): boolean {
  return WRITES_NO_ROWS.test(writtenName(name));
}

/**
 * What a statement runs that is not followed, so that neither its writes are known nor its dangers; null: nothing. What runs
 * inside it is asked for by itself.
 *
 * @example
 * unfollowed(parse("EXEC dbo.nightly"), null) // "what dbo.nightly does is not followed"
 */
export function unfollowed(tree: Statement, catalog: Catalog | null): string | null {
  switch (tree.kind) {
    case "opaque":
      return tree.class === "code" ? `what this ${tree.verb || "statement"} runs is not read` : null;
    case "dynamic":
      return tree.body === null ? "this runs SQL that is put together while it runs" : null;
    case "call-statement":
      if (!tree.name || catalog?.routine(tree.name) || writesNoRows(tree.name)) return null;
      return `what ${writtenName(tree.name)} does is not followed`;
    case "directive":
      return RUNS_A_FILE.test(tree.text) ? `what the file of ${tree.text.trim()} does is not read` : null;
    default:
      return null;
  }
}
