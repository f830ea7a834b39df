import { annotation } from "../analysis/script/annotations.ts";
import { expectedRows } from "../analysis/script/expectations.ts";
import { namedTarget } from "../analysis/statement/named-target.ts";
import type { RelationObject } from "../catalog/catalog.ts";
import { tableKey } from "../catalog/keys.ts";
import type { Trigger } from "../catalog/model.ts";
import type { ChangeSource } from "./result.ts";
import type { StatementContext } from "./statement-context.ts";

/** What a rehearsal needs of a statement. `inside`: the index of the statement within which it runs. */
export function changeSource(context: StatementContext, inside: number | null): ChangeSource {
  const { tree, statement, slice, ripples, changes } = context;
  const name = tree.kind === "insert" || tree.kind === "merge" ? namedTarget(tree) : null;
  let elsewhere = context.timeline.declared;
  for (const comment of statement.comments) {
    const said = annotation(slice(comment.start, comment.end), comment);
    if (said?.what === "backup") elsewhere = said.text === "" ? "it is kept elsewhere" : said.text;
  }
  const into = name ? (context.catalog?.resolveRelation(name) ?? null) : null;
  const triggers = new Map<RelationObject, readonly Trigger[]>();
  const take = (relation: RelationObject | null | undefined): void => {
    if (!relation || !context.catalog || triggers.has(relation)) return;
    triggers.set(relation, context.catalog.triggersOf(tableKey(relation.schema, relation.name)));
  };
  take(into);
  for (const { change } of changes) take(change.table);
  for (const { ripple } of ripples) for (const { relation } of ripple.nodes) take(relation);
  return {
    tree,
    text: slice(tree.start, tree.end),
    start: tree.start,
    changes,
    into,
    triggers,
    expected: expectedRows(statement.comments, slice),
    inside,
    elsewhere,
    repeat: statement.repeat,
  };
}
