import { usedColumn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { within } from "../../analysis/statement/node-index.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { valueKind } from "../../catalog/types.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * Text compared with a number.
 *
 * @example
 * DELETE FROM berth WHERE code = 0;   -- mysql: every code that does not begin with a digit is 0
 */
export const silentCast: Hazard = {
  id: "silent-cast",
  family: "rows",
  weight: "ask",
  depends: ["names"],
  needs: Trait.change,
  title: "Text compared with a number",
  explanation:
    "One side is text, the other a number, and each engine has its own rule: MySQL and MariaDB turn the text into a number, in " +
    "which 'N01' is 0, so a comparison with 0 meets every text that begins with a letter; T-SQL and Oracle turn the column into " +
    "numbers and fail at the first row that holds none; PostgreSQL refuses the comparison.",
  remedy: "Write the constant in the type of the column: a number in quotes for text, without quotes for numbers.",
  example: {
    dialect: "mysql",
    ddl: "CREATE TABLE berth (berth_id int PRIMARY KEY, code varchar(20) NOT NULL UNIQUE, depth_m decimal(4,1));",
    dangerous: "UPDATE berth SET depth_m = 3 WHERE code = 0;",
    sound: "UPDATE berth SET depth_m = 3 WHERE code = '0';",
  },
  check(context) {
    if (context.changes.length === 0 || !context.names) return [];
    if (context.found.comparisons.length === 0 && context.found.memberships.length === 0) return [];
    const drafts: Draft[] = [];
    const filters = (node: Expr): boolean =>
      context.changes.some(({ change }) => change.conditions.some(({ expr }) => within(node, expr)));
    for (const node of context.found.comparisons) {
      if (!COMPARES.has(node.op)) continue;
      const draft = compare(node.left, node.right, node, context) ?? compare(node.right, node.left, node, context);
      if (draft && filters(node)) drafts.push(draft);
    }
    for (const node of context.found.memberships) {
      for (const item of node.items ?? []) {
        const draft = compare(node.operand, item, node, context);
        if (!draft) continue;
        if (filters(node)) drafts.push(draft);
        break;
      }
    }
    return drafts;
  },
};

/** Whether the name of a column says that it holds texts which are no numbers. */
function namesText(column: string): boolean {
  return /(?:^|_)(?:e?mail|name|title|username|login|password|street|city|country|iban|url|slug|note|comment)$/.test(
    column,
  );
}

function zeroByName(column: string, other: Expr, node: Expr, { show, region }: HazardContext): Draft {
  return {
    fix: { title: "Write the constant as text", edits: [{ ...region(other), text: "'0'" }] },
    message: `\`${show(node)}\` meets every \`${column}\` that does not begin with a digit: as a number such a text is 0.`,
    because: [
      `the name of \`${column}\` says that it holds text`,
      "in this dialect text becomes the number that it begins with, or 0",
    ],
    remedy: "Write the constant as text: '0'",
  };
}

const COMPARES = new Set(["=", "<>", "!=", "<", ">", "<=", ">="]);

function compare(side: Expr, other: Expr, node: Expr, context: HazardContext): Draft | null {
  const { dialect } = context;
  const { uncomparable } = dialect.engine;
  const whole = uncomparable && side.kind === "column" ? usedColumn(side, context.names)?.offered?.column : null;
  if (whole && uncomparable?.types.test(whole.type) && !(other.kind === "literal" && other.type === "null"))
    return {
      weight: "stop",
      refused: true,
      message: `\`${context.show(node)}\` compares \`${whole.name}\`, which is ${whole.type}: the engine refuses that.`,
      because: [`values of ${whole.type} are not compared with = or IN`],
      remedy: uncomparable.remedy,
    };
  const zero = leadingZero(side, other, node, context);
  if (zero) return zero;
  if (dialect.engine.affinities || side.kind === "literal" || other.kind === "column") return null;
  const value = constant(other);
  if (!value) return null;
  const used = usedColumn(side, context.names);
  const column = used?.offered?.column;
  // Without a catalog the name of the column has to do.
  if (used && !column && !used.relation?.table && dialect.engine.textReadsAsZero && namesText(used.name))
    return value.type === "number" && value.value === 0 ? zeroByName(used.name, other, node, context) : null;
  if (!column) return null;
  const kind = valueKind(column, dialect);
  if (kind === "text" && value.type === "number" && !/^(?:json|jsonb|xml|uuid)$/.test(column.type)) {
    const shown = context.show(node);
    const mysql = dialect.engine.textReadsAsZero;
    const refuses = dialect.engine.refusesTextWithNumber;
    const digits = context.slice(other.start, other.end);
    const plain = other.kind === "literal" && /^\d+$/.test(digits);
    const edits = [{ ...context.region(other), text: `'${digits}'` }];
    return {
      ...(plain ? { fix: { title: "Write the constant as text", edits } } : {}),
      weight: refuses || (mysql && value.value === 0) ? "stop" : "ask",
      refused: refuses,
      message: refuses
        ? `\`${shown}\` compares text with a number, which ${dialect.title} refuses.`
        : mysql && value.value === 0
          ? `\`${shown}\` meets every \`${column.name}\` that does not begin with a digit: as a number such a text is 0.`
          : `\`${shown}\` compares text with a number: \`${column.name}\` is turned into numbers, row by row.`,
      because: [
        `\`${column.name}\` is ${column.type}, ${value.value} is a number`,
        mysql
          ? "in this dialect text becomes the number that it begins with, or 0"
          : refuses
            ? "there is no such comparison"
            : "a row whose text is no number makes the statement fail",
      ],
      remedy: `Write the constant as text: '${value.value}'`,
    };
  }
  if (
    (kind === "integer" || kind === "decimal" || kind === "float") &&
    value.type === "string" &&
    value.value.trim() !== "" &&
    Number.isNaN(Number(value.value))
  ) {
    const shown = context.show(node);
    const mysql = dialect.engine.textReadsAsZero;
    return {
      weight: mysql ? "ask" : "stop",
      refused: !mysql,
      message: mysql
        ? `\`${shown}\`: as a number '${value.value}' is ${Number.parseFloat(value.value) || 0}, so this meets the rows with that number.`
        : `\`${shown}\`: '${value.value}' is no number, so the engine refuses this.`,
      because: [`\`${column.name}\` is ${column.type}`],
      remedy: "Write the number that is meant, or the column that holds the text.",
    };
  }
  return null;
}

/** `zip = 01234`: as a number it has no zero in front, and the text '01234' is not what it is compared with. */
function leadingZero(side: Expr, other: Expr, node: Expr, context: HazardContext): Draft | null {
  if (other.kind !== "literal" || other.type !== "number") return null;
  const used = usedColumn(side, context.names);
  const digits = context.slice(other.start, other.end);
  if (!used || !/^0\d+$/.test(digits)) return null;
  const column = used.offered?.column;
  if (column && valueKind(column, context.dialect) !== "text") return null;
  return {
    fix: { title: "Write the constant as text", edits: [{ ...context.region(other), text: `'${digits}'` }] },
    weight: "ask",
    message: `\`${context.show(node)}\` compares with the number ${Number(digits)}: the zero in front is lost.`,
    because: ["what has a zero in front is a text, and this is a number"],
    remedy: `Write the constant as text: '${digits}'`,
  };
}
