import type { Statement } from "../sql/nodes/tree.ts";

/** The words by which a policy can name a statement. */
export const STATEMENT_WORDS: readonly string[] = [
  "select",
  "insert",
  "update",
  "delete",
  "merge",
  "truncate",
  "copy",
  "call",
  "begin",
  "commit",
  "rollback",
  "set",
  "grant",
  "revoke",
  "dynamic",
  "create",
  "create table",
  "create index",
  "create view",
  "create rule",
  "create type",
  "create schema",
  "create synonym",
  "create trigger",
  "create function",
  "create procedure",
  "create package",
  "create user",
  "create role",
  "create database",
  "alter",
  "alter table",
  "alter trigger",
  "alter user",
  "alter role",
  "alter database",
  "alter system",
  "add column",
  "change column",
  "rename column",
  "drop column",
  "add constraint",
  "drop constraint",
  "disable trigger",
  "disable constraint",
  "drop partition",
  "truncate partition",
  "rename",
  "drop",
  "drop table",
  "drop view",
  "drop index",
  "drop schema",
  "drop database",
  "drop trigger",
  "drop function",
  "drop procedure",
  "drop type",
  "drop user",
  "drop role",
  "vacuum",
  "lock",
];

/**
 * The words by which a policy names a statement, by what it does: `ALTER TABLE t DROP COLUMN c` is `alter`, `alter table` and
 * `drop column`.
 */
export function wordsOfStatement(tree: Statement): ReadonlySet<string> {
  switch (tree.kind) {
    case "call-statement":
      return new Set(["call"]);
    case "setting":
      return new Set(["set"]);
    case "transaction":
      return new Set([tree.action]);
    case "create-routine":
      return new Set(["create", `create ${tree.object}`]);
    case "drop":
      return new Set(["drop", `drop ${tree.object}`]);
    case "opaque": {
      const verb = tree.verb.toLowerCase();
      return new Set([verb, `${verb} ${tree.object.toLowerCase()}`.trim()]);
    }
    case "alter-trigger":
      return new Set(["alter", "alter trigger", ...(tree.enabled ? [] : ["disable trigger"])]);
    case "alter-table":
      return new Set(["alter", "alter table", ...tree.actions.flatMap(wordsOfAction)]);
    default: {
      const words = tree.kind.replaceAll("-", " ");
      const [verb] = words.split(" ");
      return new Set(verb === words ? [words] : [verb, words]);
    }
  }
}

function wordsOfAction(action: Extract<Statement, { kind: "alter-table" }>["actions"][number]): string[] {
  switch (action.what) {
    case "column-type":
    case "column-required":
    case "column-default":
    case "column-identity":
    case "column-generated":
      return ["change column"];
    case "trigger":
      return action.enabled === "off" ? ["disable trigger"] : [];
    case "constraint-enabled":
      return action.enabled ? [] : ["disable constraint"];
    default:
      return [action.what.replaceAll("-", " ")];
  }
}
