import { filterParts } from "../../analysis/conditions/conditions.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Expr, Name } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A place that somebody or something fills in when the script runs.
 *
 * @example
 * DELETE FROM ${table} WHERE ${filter};   -- ask: what is it that is deleted?
 */
export const openPlaceholder: Hazard = {
  id: "open-placeholder",
  family: "rows",
  weight: "note",
  needs: Trait.change,
  title: "A placeholder in the target or the filter",
  explanation:
    "A parameter, a substitution or a placeholder of a template stands in the statement, so what it does is decided when it runs. One for " +
    "one value is customary; one for the table, or for the whole condition, can mean any rows at all, and an empty value may leave " +
    "no filter. In Jet every unknown name in brackets becomes a question.",
  remedy: "Review the script with the values filled in, or declare the parameter and its type.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL);",
    // biome-ignore lint/suspicious/noTemplateCurlyInString: the placeholder of a script, not of this file
    dangerous: "DELETE FROM mooring WHERE ${condition};",
    sound: "DELETE FROM mooring WHERE mooring_id = 3;",
  },
  check(context) {
    const { changes, names, dialect, show, tree, found } = context;
    const drafts: Draft[] = unset(context);
    if (changes.length === 0) return drafts;
    if (
      found.holes.length === 0 &&
      !dialect.engine.promptsForNames &&
      !changes.some(({ change }) => isOpenTable(change.name))
    )
      return drafts;
    const declared = new Set((tree.parameters ?? []).map((one) => one.text.toLowerCase()));
    for (const { change, target } of changes) {
      if (isOpenTable(change.name)) {
        drafts.push({
          weight: "ask",
          message: `Which table is changed is decided when the script runs: \`${target}\` is a placeholder.`,
          because: ["it stands where the table's name should"],
          remedy: "Review the script with the name filled in.",
        });
      }
      const values: string[] = [];
      for (const part of filterParts(change.conditions)) {
        const whole = wholeHole(part);
        if (whole) {
          drafts.push({
            weight: "ask",
            message: `\`${show(whole)}\` stands for a whole condition: filled with nothing, or with 1=1, it keeps every row of \`${target}\`.`,
            because: ["it stands where a condition should"],
            remedy: "Write the condition out and keep a placeholder for its value only.",
          });
          continue;
        }
        walk(part, (node) => {
          if (node.kind === "placeholder") values.push(show(node));
          else if (
            dialect.engine.promptsForNames &&
            node.kind === "column" &&
            names?.bindings.get(node)?.status === "unknown"
          ) {
            const name = node.path.map((one) => one.text).join(".");
            values.push(declared.has(name.toLowerCase()) ? `[${name}]` : `?[${name}]`);
          }
          return undefined;
        });
      }
      const prompted = values.filter((value) => value.startsWith("?["));
      if (prompted.length > 0) {
        drafts.push({
          weight: "ask",
          message: `Whoever runs this is asked for ${prompted.map((value) => value.slice(1)).join(" and ")}: no table has such a column.`,
          because: ["Jet turns a name that it does not know into a question, and the answer into a value"],
          remedy: "If a parameter is meant, declare it with PARAMETERS; if a column is meant, correct its name.",
        });
      } else if (values.length > 0) {
        drafts.push({
          message: `Which rows of \`${target}\` are hit depends on ${[...new Set(values)].slice(0, 4).join(", ")}, filled in when it runs.`,
          because: [tree.parameters ? "the statement declares its parameters" : "the value is not in the script"],
          remedy: "Review the script with the values filled in where they are known.",
        });
      }
    }
    return drafts;
  },
};

/**
 * Whether a placeholder decides which table it is: one in the schema's place does not, nor one that goes before the name,
 * as `{{prefix}}berth` does.
 */
function isOpenTable({ parts }: Name): boolean {
  const { hole, text } = parts[parts.length - 1];
  if (!hole) return false;
  const fixed = text.replace(/\{\{[^}]*\}\}|[$@]?\{[^}]*\}|\$\([^)]*\)|@\w+@|[:&]\w+\.?/g, "");
  return fixed.replace(/\W/g, "").length < 3;
}

/** A condition that is nothing but a hole. */
function wholeHole(part: Expr): Expr | null {
  if (part.kind === "placeholder" && /[{%&$]/.test(part.text)) return part;
  return null;
}

/** Variables of the session that nothing in the script has set: they are NULL, unless somebody set them by hand. */
function unset(context: HazardContext): Draft[] {
  const { tree, changes, dialect, history, inCode } = context;
  if (changes.length > 0 && dialect.syntax.controlFlow) return neverSet(context);
  if (dialect.lexical.client !== "mysql-client" || inCode || changes.length === 0) return [];
  const names = new Set<string>();
  walk(tree, (node) => {
    if (node.kind === "variable" && !node.name.startsWith("@@") && !history.variables.has(node.name.toLowerCase()))
      names.add(node.name);
    return undefined;
  });
  if (names.size === 0) return [];
  const list = [...names].slice(0, 4);
  return [
    {
      weight: "ask",
      message: `Nothing in this script sets ${listed(list)} before: unless the session has ${list.length === 1 ? "it, it is" : "them, they are"} NULL.`,
      because: ["a variable of the session that was never set is NULL"],
      remedy: `Set ${list.length === 1 ? "it" : "them"} in the script, before this statement.`,
    },
  ];
}

/** Variables that were declared without a value and that nothing has set: they are NULL (tsql). */
function neverSet({ tree, history }: HazardContext): Draft[] {
  const names = new Set<string>();
  // What the statement itself gives them comes too late for its filter.
  walk(tree, (node) => {
    if (node.kind === "variable" && history.batch.isUnset(node.name)) names.add(node.name);
    return undefined;
  });
  if (tree.kind === "update")
    for (const { targets } of tree.assignments)
      for (const target of targets) if (target.kind === "variable") names.delete(target.name);
  if (names.size === 0) return [];
  const list = [...names].slice(0, 4);
  return [
    {
      weight: "ask",
      message: `${listed(list)} ${list.length === 1 ? "is" : "are"} declared and never given a value before this: here ${list.length === 1 ? "it is" : "they are"} NULL.`,
      because: ["a variable without a value is NULL, and a comparison with NULL is never true"],
      remedy: `Set ${list.length === 1 ? "it" : "them"} before this statement.`,
    },
  ];
}
