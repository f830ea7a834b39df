import { conjuncts } from "../../analysis/changes/reach.ts";
import { assignedIn, usedColumn } from "../../analysis/conditions/conditions.ts";
import { plainColumn } from "../../analysis/conditions/constants.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { namesKey } from "../../catalog/columns.ts";
import type { Expr, Logic } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * AND and OR without parentheses, or an OR that gives up a key.
 *
 * @example
 * UPDATE mooring SET fee = 0 WHERE berth_id = 3 AND status = 'planned' OR status = 'lying';
 */
export const looseOr: Hazard = {
  id: "loose-or",
  family: "rows",
  weight: "ask",
  needs: Trait.or,
  title: "An OR that lets more rows in than it seems",
  explanation:
    "AND binds tighter than OR: in `a AND b OR c` the last condition stands alone, and every row that meets it is changed " +
    "whatever the first ones say. The same happens when a key, or what refers to another table, is joined by OR with a condition on another column: it " +
    "no longer narrows anything.",
  remedy: "Put parentheses around the alternatives that belong together, or write AND.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, berth_id integer NOT NULL, status text NOT NULL, note text);",
    dangerous: "UPDATE mooring SET note = 'moved' WHERE berth_id = 3 AND status = 'planned' OR status = 'lying';",
    sound: "UPDATE mooring SET note = 'moved' WHERE berth_id = 3 AND (status = 'planned' OR status = 'lying');",
  },
  check(context) {
    const drafts: Draft[] = [];
    for (const { change, result } of context.changes) {
      if (result.filter !== "filters") continue;
      for (const { expr } of change.conditions) {
        const top = alternatives(expr);
        if (!top) continue;
        const draft = mixed(top, context) ?? keyGivenUp(top, context) ?? idGivenUp(top, context);
        if (draft) drafts.push(draft);
      }
    }
    return drafts;
  },
};

/** The OR at the top of a filter. */
function alternatives(expr: Expr): Logic | null {
  if (expr.kind === "logic" && expr.op === "or" && !(expr.parenthesised && expr.items.length === 0)) return expr;
  return null;
}

function mixed(or: Logic, context: HazardContext): Draft | null {
  const and = or.items.find((item) => item.kind === "logic" && item.op === "and" && !item.parenthesised);
  if (and?.kind !== "logic") return null;
  const lone = or.items.filter((item) => item !== and && !(item.kind === "logic" && item.op === "and"));
  if (lone.length === 0) return null;
  // What the lone condition says of a column that the AND also refers to belongs with it.
  const first = lone[0];
  const columns = columnsOf(first, context);
  const partner = and.items.find((item) => [...columnsOf(item, context)].some((name) => columns.has(name)));
  const kept = and.items.filter((item) => item !== partner);
  const dropped = kept.map((item) => `\`${context.show(item)}\``).join(" and ");
  // Else the one next to the OR.
  const beside = partner ?? (first.start < and.start ? and.items[0] : and.items[and.items.length - 1]);
  const all = [...and.items.filter((item) => item !== beside), beside, ...lone];
  const shown = all.map((item) => context.show(item));
  const [rest, either] = [shown.slice(0, -1 - lone.length), shown.slice(-1 - lone.length)];
  // Of several groups nobody can tell which belong together, and what is cut short is no condition.
  const clear = lone.length === or.items.length - 1 && shown.every((text) => !text.endsWith("…"));
  const tie = context.tree.kind === "update" ? and.items.find((item) => tiesTables(item, context)) : undefined;
  const untied = tie && !lone.some((item) => tiesTables(item, context)) && takesOther(context);
  return {
    ...(untied ? { weight: "stop" as const } : {}),
    message: `AND binds tighter than OR, so every row with ${context.show(first)} is hit, whatever ${partner && dropped ? dropped : `\`${context.show(and)}\``} says.`,
    because: [
      `it is read as (${context.show(and)}) OR ${context.show(first)}`,
      "there are no parentheses to say which of the two was meant",
      ...(untied ? [`on that side \`${context.show(tie)}\` does not hold: the value of any row is written`] : []),
    ],
    remedy: clear
      ? `If the conditions belong together: WHERE ${rest.join(" AND ")} AND (${either.join(" OR ")})`
      : "Put parentheses around the conditions that belong together.",
  };
}

/** Whether a condition ties a table to another one. */
function tiesTables(part: Expr, { names }: HazardContext): boolean {
  if (part.kind !== "binary" || part.op !== "=") return false;
  const [left, right] = [usedColumn(part.left, names)?.relation, usedColumn(part.right, names)?.relation];
  return left !== undefined && left !== null && right !== undefined && right !== null && left !== right;
}

/** Whether an UPDATE writes what it takes from another table. */
function takesOther({ tree, names, changes }: HazardContext): boolean {
  return assignedIn(tree, names).some(({ value }) => {
    const from = usedColumn(value, names)?.relation;
    return from !== undefined && from !== null && from.name !== changes[0]?.change.relation?.name;
  });
}

function columnsOf(expr: Expr, context: HazardContext): Set<string> {
  const names = new Set<string>();
  const visit = (one: Expr): void => {
    if (one.kind === "binary") {
      visit(one.left);
      visit(one.right);
    } else if (one.kind === "in" || one.kind === "is" || one.kind === "between" || one.kind === "like")
      visit(one.operand);
    else if (one.kind === "column") names.add(usedColumn(one, context.names)?.name ?? "");
  };
  visit(expr);
  return names;
}

/** One alternative pins a whole key, another says nothing of it. */
function keyGivenUp(or: Logic, context: HazardContext): Draft | null {
  const table = context.changes[0]?.change.table;
  if (!table) return null;
  const keys = [table.primaryKey, ...table.uniqueKeys].filter((key) => key !== null && !key.partial);
  const pins = (item: Expr): string | null => {
    const columns = new Set<string>();
    for (const part of conjuncts(item)) {
      if (part.kind === "binary" && part.op === "=") for (const name of columnsOf(part, context)) columns.add(name);
      if (part.kind === "in" && !part.negated && part.items)
        for (const name of columnsOf(part, context)) columns.add(name);
    }
    const key = keys.find((one) => one?.columns.every((column) => columns.has(column.toLowerCase())));
    return key ? key.columns.join(", ") : null;
  };
  const pinned = or.items.map(pins);
  const key = pinned.find((one) => one !== null);
  const loose = or.items.findIndex((_, i) => pinned[i] === null);
  if (!key || loose < 0) return null;
  const narrow = or.items[pinned.indexOf(key)];
  return {
    message: `The key \`${key}\` is pinned on one side of the OR only: every row with ${context.show(or.items[loose])} is hit as well.`,
    because: [
      `\`${context.show(narrow)}\` alone would be one row`,
      `\`${context.show(or.items[loose])}\` says nothing of \`${key}\``,
    ],
    remedy:
      or.items.length === 2
        ? `If both are meant: ${context.show(narrow)} AND ${context.show(or.items[loose])}`
        : "If all are meant, join them by AND.",
  };
}

/** One alternative names a thing by its number, another is a condition of another kind: both together would be a few of its rows. */
function idGivenUp(or: Logic, context: HazardContext): Draft | null {
  // Several alternatives are a list that somebody has thought of.
  if (or.items.length !== 2) return null;
  const named = or.items.map((item) => namedThing(item, context));
  if ((named[0] === null) === (named[1] === null)) return null;
  const [narrow, wide] = named[0] !== null ? or.items : [or.items[1], or.items[0]];
  const column = named[0] ?? named[1];
  if (wide.kind !== "binary" && wide.kind !== "between" && wide.kind !== "like" && wide.kind !== "in") return null;
  if (wide.kind === "in" && wide.query) return null;
  const asked = columnsOf(wide, context);
  if (asked.size === 0 || asked.has(column ?? "")) return null;
  return {
    message: `\`${context.show(narrow)}\` is joined by OR: every row with ${context.show(wide)} is hit as well, whatever its \`${column}\` is.`,
    because: [`\`${context.show(wide)}\` says nothing of \`${column}\``],
    remedy: `If both are meant: ${context.show(narrow)} AND ${context.show(wide)}`,
  };
}

/** The column of a condition that compares a key or a reference with one value; null for other conditions. */
function namedThing(item: Expr, { names, changes }: HazardContext): string | null {
  if (item.kind !== "binary" || item.op !== "=") return null;
  const [side, other] = usedColumn(item.left, names) ? [item.left, item.right] : [item.right, item.left];
  const used = usedColumn(side, names);
  const ref = plainColumn(side);
  if (!used || !ref || usedColumn(other, names) || other.kind === "subquery") return null;
  const table = changes[0]?.change.table;
  const refers = table?.foreignKeys.some(({ columns }) => columns.includes(used.name)) ?? false;
  const own = table?.primaryKey?.columns.length === 1 && table.primaryKey.columns[0].toLowerCase() === used.name;
  return refers || own || namesKey(ref.path[ref.path.length - 1].text) ? used.name : null;
}
