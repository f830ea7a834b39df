import { assignedIn, usedColumn } from "../../analysis/conditions/conditions.ts";
import { valueKind } from "../../catalog/types.ts";
import { hasFunction, insteadIn, type PartialFunction, partialFunctions } from "../../sql/dialects/functions.ts";
import { dialectIds, dialects } from "../../sql/dialects/index.ts";
import type { Expr, Problem } from "../../sql/nodes/tree.ts";
import { readScript } from "../../sql/reading/script.ts";
import { borrowed } from "../borrowed.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { likelyCauses, meantWord } from "../likely-cause.ts";

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
  subsumes: ["unread"],
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
    if (tree.kind === "unread" && (isSlip(tree.problem) || meantWord(tree.problem, dialect) !== null)) return [];
    if (tree.kind === "unread") {
      // A function whose name is an operator here: ISNULL(fee, 0) in SQLite.
      const name = tree.problem.found.replace(/"/g, "");
      const known = foreign(name, context);
      if (known) return [functionDraft(name, show(tree.problem), known, context)];
      return unreadHere(slice(statement.start, Math.min(statement.end, statement.start + 4000)), context);
    }
    const drafts: Draft[] = [...later(context), ...borrowed(context)];
    if (tree.kind === "create-routine") return drafts;
    for (const node of context.found.calls) {
      if (drafts.length > 2) break;
      if (node.name.parts.length !== 1) continue;
      const name = node.name.parts[0].text;
      const known = foreign(name, context);
      // {fn NOW()} is a function of the driver.
      if (known && !catalog?.routine(node.name) && slice(node.start, node.start + 1) !== "{")
        drafts.push(functionDraft(name, show(node), known, context));
    }
    if (dialect.grammar.pipesAreOr) {
      for (const { column, value } of assignedIn(tree, context.names)) {
        const text = column.offered?.column && valueKind(column.offered.column, dialect) === "text";
        const pipes = value.kind === "logic" && value.op === "or" && slice(value.start, value.end).includes("||");
        if (!pipes || (!text && !hasText(value))) continue;
        drafts.push({
          message: `|| is OR here, not concatenation: \`${column.name}\` gets 0 or 1 from \`${show(value)}\`.`,
          because: [`${dialect.title} joins texts with CONCAT, unless PIPES_AS_CONCAT is set`],
          remedy: `CONCAT(${value.kind === "logic" ? value.items.map(show).join(", ") : show(value)})`,
        });
      }
    }
    if (dialect.engine.strictQuotedNames && context.names) {
      // "left" is the name of a column; 'left' is a text.
      for (const { node, status } of context.names.open) {
        if (
          status !== "unknown" ||
          node.path.length !== 1 ||
          !node.path[0].quoted ||
          usedColumn(node, context.names)?.offered ||
          // What SET assigns is a column in any quotes.
          assignedIn(tree, context.names).some(({ target }) => target === node)
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

/** A table whose name became a word of the language: older servers take it bare, newer ones refuse it. */
function later({ tree, changes, dialect }: HazardContext): Draft[] {
  const { laterWords } = dialect.engine;
  if (!laterWords) return [];
  const names =
    tree.kind === "insert"
      ? tree.target.kind === "table"
        ? [tree.target.name]
        : []
      : tree.kind === "alter-table" || tree.kind === "create-table"
        ? [tree.name]
        : changes.map(({ change }) => change.name);
  for (const { parts } of names) {
    const { text, quoted } = parts[parts.length - 1];
    if (quoted || !laterWords.test(text)) continue;
    return [
      {
        weight: "note",
        cause: `later ${text.toLowerCase()}`,
        message: `\`${text}\` is a reserved word of newer versions of ${dialect.title}, which refuse it as a bare name.`,
        because: ["it has been reserved since 8.0"],
        remedy: `Write \`${text}\` between backquotes.`,
      },
    ];
  }
  return [];
}

/** What is known of a function that this dialect lacks; null for all others. */
function foreign(name: string, { dialect }: HazardContext): PartialFunction | null {
  const known = partialFunctions.get(name.toLowerCase());
  return known && !hasFunction(known, dialect) ? known : null;
}

function functionDraft(name: string, call: string, { ids, instead }: PartialFunction, context: HazardContext): Draft {
  const { dialect, catalog, tree } = context;
  const jet = dialect.engine.moduleFunctions;
  // A function of a Jet database may stand in one of its modules.
  const sure = tree.kind === "unread" || (catalog !== null && !jet);
  const titles = ids.map((id) => dialects[id].title).sort((a, b) => a.length - b.length);
  const owners = titles.length > 3 ? `${titles.slice(0, 2).join(", ")} and others` : titles.join(" or ");
  return {
    message: `${dialect.title} has no function \`${name.toUpperCase()}\`: \`${call}\` is for ${owners}.`,
    because: [
      tree.kind === "unread"
        ? "the word is something else here, so the statement cannot be read"
        : jet
          ? "it may be a function of one of the database's modules"
          : catalog
            ? "the catalog holds no routine of that name either"
            : "it may be a routine of the database, which the catalog would tell",
    ],
    remedy: `In ${dialect.title} write ${insteadIn(dialect, instead)}.`,
    weight: sure ? "stop" : "ask",
  };
}

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
      because: [
        ...likelyCauses(text, dialect),
        `${dialect.title} cannot read it, and ${readers.map((id) => dialects[id].title).join(", ")} can`,
      ],
      remedy: "Write it in this dialect, or say which one the script is in: -- cautela: dialect …",
    },
  ];
}
