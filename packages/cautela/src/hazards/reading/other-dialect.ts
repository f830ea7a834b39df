import { assignedIn, usedColumn } from "../../analysis/conditions.ts";
import { valueKind } from "../../catalog/types.ts";
import { walk } from "../../sql/children.ts";
import type { DialectId } from "../../sql/dialects/dialect.ts";
import { dialectIds, dialects } from "../../sql/dialects/index.ts";
import { readScript } from "../../sql/script.ts";
import type { Expr } from "../../sql/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/** Functions that only some dialects have. */
const ONLY: readonly [RegExp, readonly DialectId[], string][] = [
  [/^getdate$/i, ["tsql"], "CURRENT_TIMESTAMP"],
  [/^nvl$/i, ["plsql", "mariadb"], "COALESCE"],
  [/^nvl2$/i, ["plsql", "mariadb"], "CASE"],
  [/^isnull$/i, ["tsql", "mysql", "mariadb", "jet"], "COALESCE"],
  [/^ifnull$/i, ["mysql", "mariadb", "sqlite"], "COALESCE"],
  [/^nz$/i, ["jet"], "COALESCE"],
  [/^iif$/i, ["jet", "tsql", "sqlite"], "CASE"],
  [/^decode$/i, ["plsql", "mariadb", "postgresql"], "CASE"],
  [/^to_date$/i, ["plsql", "postgresql", "mariadb"], "a date literal"],
  [/^str_to_date$/i, ["mysql", "mariadb"], "a date literal"],
  [/^len$/i, ["tsql", "jet"], "LENGTH"],
  [/^charindex$/i, ["tsql"], "POSITION"],
  [/^dateadd$/i, ["tsql", "jet"], "date arithmetic"],
  [/^datediff$/i, ["tsql", "mysql", "mariadb", "jet"], "date arithmetic"],
  [/^group_concat$/i, ["mysql", "mariadb", "sqlite"], "STRING_AGG"],
  [/^string_agg$/i, ["postgresql", "tsql", "sqlite"], "GROUP_CONCAT"],
  [/^listagg$/i, ["plsql"], "STRING_AGG"],
  [/^(?:curdate|sysdatetime)$/i, ["mysql", "mariadb", "tsql"], "CURRENT_DATE"],
];

/**
 * What is written for another engine.
 *
 * @example
 * UPDATE owner SET left_on = GETDATE() WHERE owner_id = 3;   -- postgresql has no GETDATE
 */
export const otherDialect: Hazard = {
  id: "other-dialect",
  family: "reading",
  weight: "stop",
  title: "Written for another engine",
  explanation:
    "The statement uses a form or a function that this dialect does not have, and another one does; or it uses a sign that means something else " +
    "here: || joins texts in most engines and is OR in MySQL and MariaDB.",
  remedy: "Write it in this dialect, or say which dialect the script is in.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, left_on date);",
    dangerous: "UPDATE owner SET left_on = GETDATE() WHERE owner_id = 3;",
    sound: "UPDATE owner SET left_on = CURRENT_DATE WHERE owner_id = 3;",
  },
  check(context) {
    const { tree, dialect, show, catalog, statement, slice } = context;
    if (tree.kind === "unread")
      return unreadHere(slice(statement.start, Math.min(statement.end, statement.start + 4000)), context);
    const drafts: Draft[] = [];
    if (tree.kind === "create-routine") return drafts;
    walk(tree, (node) => {
      if (drafts.length > 2) return false;
      if (node.kind !== "call" || node.name.parts.length !== 1) return undefined;
      const name = node.name.parts[0].text;
      for (const [pattern, ids, instead] of ONLY) {
        if (!pattern.test(name) || ids.includes(dialect.id) || catalog?.routine(node.name)) continue;
        drafts.push({
          message: `${dialect.title} has no function \`${name.toUpperCase()}\`: \`${show(node)}\` is ${ids.map((id) => dialects[id].title).join(" or ")}.`,
          because: [
            catalog
              ? "the catalog holds no routine of that name either"
              : "it may be a routine of the database, which the catalog would tell",
          ],
          remedy: `In ${dialect.title} write ${instead}.`,
          weight: catalog ? "stop" : "ask",
        });
      }
      return undefined;
    });
    if (dialect.grammar.pipesAreOr) {
      for (const { column, value } of assignedIn(tree, context.names)) {
        const text = column.offered?.column && valueKind(column.offered.column, dialect.id) === "text";
        const pipes = value.kind === "logic" && value.op === "or" && slice(value.start, value.end).includes("||");
        if (!pipes || (!text && !hasText(value))) continue;
        drafts.push({
          message: `|| is OR here, not concatenation: \`${column.name}\` gets 0 or 1 from \`${show(value)}\`.`,
          because: [`${dialect.title} joins texts with CONCAT, unless PIPES_AS_CONCAT is set`],
          remedy: `CONCAT(${value.kind === "logic" ? value.items.map(show).join(", ") : show(value)})`,
        });
      }
    }
    if (dialect.id === "postgresql" && context.names) {
      // "left" is the name of a column; 'left' is a text.
      for (const { node, status } of context.names.bindings.values()) {
        if (
          status !== "unknown" ||
          node.path.length !== 1 ||
          !node.path[0].quoted ||
          usedColumn(node, context.names)?.offered
        )
          continue;
        drafts.push({
          message: `\`${show(node)}\` is the name of a column here, and there is none: texts stand in single quotes.`,
          because: ["double quotes are for names; MySQL and Jet take them for texts"],
          remedy: `Write '${node.path[0].text}'`,
        });
      }
    }
    return drafts;
  },
};

function hasText(value: Expr): boolean {
  return value.kind === "logic" && value.items.some((one) => one.kind === "literal" && one.type === "string");
}

/** A statement that this dialect cannot read and another one can. */
function unreadHere(text: string, { dialect }: HazardContext): Draft[] {
  const readers = dialectIds.filter((id) => {
    if (id === dialect.id) return false;
    const { statements, problems } = readScript(text, { dialect: id });
    return (
      problems.length === 0 &&
      statements.length === 1 &&
      statements[0].kind !== "directive" &&
      statements[0].kind !== "opaque"
    );
  });
  if (readers.length === 0 || readers.length > 4) return [];
  return [
    {
      message: `This is ${readers.map((id) => dialects[id].title).join(" or ")}, not ${dialect.title}.`,
      because: [`${dialect.title} cannot read it, and ${readers.map((id) => dialects[id].title).join(", ")} can`],
      remedy: "Write it in this dialect, or say which one the script is in: -- cautela: dialect …",
    },
  ];
}
