import { condensed, type Refusals, refused, type ViewRules } from "../../../analysis/views/refusals.ts";
import type { ShapeSource, ViewShape } from "../../../analysis/views/shape.ts";
import type { View } from "../../../catalog/model.ts";

/** What MySQL refuses besides what MariaDB does. */
function refusals(view: View, shape: ViewShape): Refusals {
  const family = familyRefusals(view, shape);
  const open = family.insert === null || family.update === null || family.delete === null;
  if (open && shape.listSubquery && dependentSubquery(shape))
    return refused("a subquery in its list depends on the row");
  return family;
}

/** https://dev.mysql.com/doc/refman/8.4/en/view-updatability.html, and the same of MariaDB. */
export function familyRefusals(view: View, shape: ViewShape): Refusals {
  const why = condensed(shape);
  if (why) return refused(why);
  if (view.algorithm === "temptable") return refused("ALGORITHM = TEMPTABLE makes it a copy of the rows");
  if (shape.limited) return refused("LIMIT cuts its rows off");
  if (shape.sources.length === 0) return refused("it reads no table");
  if (shape.restless || shape.calls.some((name) => /^(?:rand|rownum)$/.test(name)))
    return refused("its columns are computed again at each call, so its rows are a copy");
  const result = refused(null);
  if (shape.readsItself && !shape.joined) {
    const reason = "a subquery in it reads the table that would be changed";
    if (!shape.joinedBelow) return { ...refused(reason), alone: true };
    result.insert = reason;
    result.delete = reason;
  }
  const sealedSource = (source: ShapeSource): string | null => {
    if (source.kind === "derived" || source.kind === "common")
      return "it comes from a subquery in FROM, which is a copy";
    if (source.kind === "function") return "it comes from a function";
    if (source.kind === "own") return "it is the engine's own";
    const below = source.relation?.object === "view" ? source.relation : null;
    return below?.algorithm === "temptable" ? `\`${below.name}\` is a copy of its rows (TEMPTABLE)` : null;
  };
  for (const source of shape.sources) {
    const reason = sealedSource(source);
    if (reason) result.sealedSources.set(source, reason);
  }
  if (!shape.joined) {
    const [sealed] = result.sealedSources.values();
    return sealed ? { ...refused(sealed), sealedSources: result.sealedSources } : result;
  }
  result.delete = "it joins several tables, and through a join no rows are deleted";
  if (shape.outer) result.insert = "it holds an outer join, through which no rows are inserted";
  else if (shape.sources.some(({ kind }) => kind === "function" || kind === "own"))
    result.insert = "one of the tables it joins is a copy";
  result.wholeJoin = true;
  return result;
}

/** Whether a subquery of the select list names a source of the view. */
function dependentSubquery(shape: ViewShape): boolean {
  const names = new Set(shape.sources.map(({ name }) => name));
  return (shape.select?.items ?? []).some(({ expr }) => mentions(expr, names, false));
}

function mentions(node: unknown, names: ReadonlySet<string>, inside: boolean): boolean {
  if (Array.isArray(node)) return node.some((one) => mentions(one, names, inside));
  if (node === null || typeof node !== "object") return false;
  const { kind, path } = node as { kind?: string; path?: { text: string }[] };
  if (kind === "column" && inside && path)
    return path.length > 1 && names.has(path[path.length - 2].text.toLowerCase());
  return Object.values(node).some((one) => mentions(one, names, inside || kind === "query"));
}

export const mysqlViews: ViewRules = {
  refusals,
  systemColumns: new Set(),
  isOwnView: (schema) => schema === "information_schema",
  isOwnTable: () => false,
  sees: (expr) => {
    if (expr.kind === "compound" && expr.what === "collate") return expr.operands[0];
    return expr.kind === "unary" && expr.op === "+" ? expr.operand : null;
  },
};
