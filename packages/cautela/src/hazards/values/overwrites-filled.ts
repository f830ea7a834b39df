import { assignedIn, filterParts, usedColumn } from "../../analysis/conditions/conditions.ts";
import { calledName, constant, standsIn } from "../../analysis/conditions/constants.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnLike } from "../../catalog/columns.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { addition, capital } from "../wording.ts";

const STAND_INS = /^(?:unknown|n\/?a|none|not known|tbd|missing|default|-|\?|unbekannt|sans|null)$/i;
const FILLING = /\b(?:fill(?:s|ed|ing)?(?: in| up)?|missing|back-?fill|complete[sd]?)\b/i;

/**
 * A fill-in that also replaces what is there.
 *
 * @example
 * -- fill in the missing phone numbers
 * UPDATE owner SET phone = 'unknown' WHERE left_on IS NULL;
 */
export const overwritesFilled: Hazard = {
  id: "overwrites-filled",
  family: "values",
  statements: ["update"],
  needs: Trait.text | Trait.comment | Trait.call,
  weight: "ask",
  title: "A fill-in that replaces what is there",
  explanation:
    "The value looks like a stand-in for what is missing, or the comment says that gaps are filled, but no condition asks whether the " +
    "column is empty: values that are there are replaced as well.",
  remedy: "Add AND column IS NULL, or write COALESCE(column, the value).",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, phone varchar(20), left_on date);",
    dangerous: "-- fill in the missing phone numbers\nUPDATE owner SET phone = 'unknown' WHERE left_on IS NULL;",
    sound:
      "-- fill in the missing phone numbers\nUPDATE owner SET phone = 'unknown' WHERE left_on IS NULL AND phone IS NULL;",
  },
  check(context) {
    const { tree, names, changes, comments } = context;
    if (tree.kind !== "update") return [];
    const [judged] = changes;
    if (!judged || judged.softener || judged.result.reach.bound === "one" || judged.result.filter === "dead") return [];
    const drafts: Draft[] = [];
    let filling: boolean | null = null;
    for (const { column, value, target } of assignedIn(tree, names)) {
      const turned = turnedRound(value, column.name, context);
      if (turned) {
        drafts.push(turned);
        continue;
      }
      const known = columnLike(judged.change.table, column.name);
      if (known?.required) continue;
      const standIn = constant(value);
      const looks = standIn?.type === "string" && STAND_INS.test(standIn.value.trim());
      if (!looks) {
        filling ??= context.statement.comments.length > 0 && FILLING.test(comments());
        if (!filling) continue;
        // The comment has to refer to this very column.
        const words = column.name.split("_").filter((word) => word.length > 2);
        if (!filling || !words.some((word) => comments().toLowerCase().includes(word))) continue;
      }
      if (
        mentions(value, column.name, context) ||
        filterParts(judged.change.conditions).some((part) => mentions(part, column.name, context))
      )
        continue;
      drafts.push({
        message: `Rows of \`${judged.target}\` that have a value in \`${column.name}\` lose it: nothing asks whether it is empty.`,
        because: [
          looks
            ? `${context.show(value)} looks like a stand-in for a missing value`
            : "the comment says that gaps are filled",
        ],
        remedy: `${capital(addition(context.tree, `${context.show(target)} IS NULL`))}, or SET ${context.show(target)} = ${sqlWriter(context.dialect).coalesce(context.show(target), context.slice(value.start, value.end))}.`,
      });
    }
    return drafts;
  },
};

/** `COALESCE('unknown', phone)`: the constant comes first, and is what every row gets. */
function turnedRound(value: Expr, column: string, { names, show, region, slice }: HazardContext): Draft | null {
  if (value.kind !== "call" || !standsIn(value) || value.args.length !== 2) return null;
  const [first, second] = value.args;
  const given = constant(first);
  if (!given || given.type === "null" || usedColumn(second, names)?.name !== column) return null;
  const swapped = [
    { ...region(first), text: slice(second.start, second.end) },
    { ...region(second), text: slice(first.start, first.end) },
  ];
  return {
    message: `\`${show(value)}\` gives ${show(first)} for every row: what stands in \`${column}\` is overwritten.`,
    because: [`its first argument is never NULL, so \`${show(second)}\` is never taken`],
    remedy: `Write the column first: ${calledName(value)}(${show(second)}, ${show(first)})`,
    fix: { title: "Take the column first", edits: swapped },
  };
}

function mentions(expr: Parameters<typeof walk>[0], column: string, { names }: HazardContext): boolean {
  let found = false;
  walk(expr, (node) => {
    if (node.kind === "column" && usedColumn(node, names)?.name === column) found = true;
    return undefined;
  });
  return found;
}
