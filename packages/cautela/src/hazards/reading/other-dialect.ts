import { assignedIn, usedColumn } from "../../analysis/conditions.ts";
import { valueKind } from "../../catalog/types.ts";
import type { DialectId } from "../../sql/dialects/dialect.ts";
import { dialectIds, dialects } from "../../sql/dialects/index.ts";
import { readScript } from "../../sql/script.ts";
import type { Expr, Problem } from "../../sql/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/** Functions that only some dialects have. */
const ONLY: ReadonlyMap<string, { ids: readonly DialectId[]; instead: string }> = new Map([
  only("getdate", ["tsql"], "CURRENT_TIMESTAMP"),
  only("nvl", ["plsql", "mariadb"], "COALESCE"),
  only("nvl2", ["plsql", "mariadb"], "CASE"),
  only("isnull", ["tsql", "mysql", "mariadb", "jet"], "COALESCE"),
  only("ifnull", ["mysql", "mariadb", "sqlite"], "COALESCE"),
  only("nz", ["jet"], "COALESCE"),
  only("iif", ["jet", "tsql", "sqlite"], "CASE"),
  only("decode", ["plsql", "mariadb", "postgresql"], "CASE"),
  only("to_date", ["plsql", "postgresql", "mariadb"], "a date literal"),
  only("str_to_date", ["mysql", "mariadb"], "a date literal"),
  only("len", ["tsql", "jet"], "LENGTH"),
  only("charindex", ["tsql"], "POSITION"),
  only("dateadd", ["tsql", "jet"], "date arithmetic"),
  only("datediff", ["tsql", "mysql", "mariadb", "jet"], "date arithmetic"),
  only("group_concat", ["mysql", "mariadb", "sqlite"], "STRING_AGG"),
  only("string_agg", ["postgresql", "tsql", "sqlite"], "GROUP_CONCAT"),
  only("listagg", ["plsql"], "STRING_AGG"),
  only("curdate", ["mysql", "mariadb", "tsql"], "CURRENT_DATE"),
  only("sysdatetime", ["mysql", "mariadb", "tsql"], "CURRENT_DATE"),
]);

function only(
  name: string,
  ids: readonly DialectId[],
  instead: string,
): [string, { ids: readonly DialectId[]; instead: string }] {
  return [name, { ids, instead }];
}

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
    if (tree.kind === "unread" && isSlip(tree.problem)) return [];
    if (tree.kind === "unread")
      return unreadHere(slice(statement.start, Math.min(statement.end, statement.start + 4000)), context);
    const drafts: Draft[] = [];
    if (tree.kind === "create-routine") return drafts;
    for (const node of context.found.calls) {
      if (drafts.length > 2) break;
      if (node.name.parts.length !== 1) continue;
      const name = node.name.parts[0].text;
      const known = ONLY.get(name.toLowerCase());
      if (!known || known.ids.includes(dialect.id) || catalog?.routine(node.name)) continue;
      const { ids, instead } = known;
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
      for (const { node, status } of context.names.open) {
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

/** A word with its letters in another order (FORM, UDPATE) is a slip of the pen and no other language. */
function isSlip({ expected, found }: Problem): boolean {
  const letters = (text: string): string => [...text.replace(/"/g, "").toUpperCase()].sort().join("");
  return found.length > 3 && letters(expected) === letters(found);
}

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
