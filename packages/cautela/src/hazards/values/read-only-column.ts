import { assignedIn } from "../../analysis/conditions/conditions.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnLike } from "../../catalog/columns.ts";
import type { Column } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A column that only the engine writes.
 *
 * @example
 * UPDATE tariff SET fee_with_tax = 12 WHERE tariff_id = 3;   -- GENERATED ALWAYS AS (fee * 1.19)
 */
export const readOnlyColumn: Hazard = {
  id: "read-only-column",
  family: "values",
  statements: ["update", "insert", "merge", "copy"],
  weight: "stop",
  depends: ["names"],
  needs: Trait.computed,
  title: "A column that only the engine writes",
  explanation:
    "Generated columns are computed from others, identity columns are numbered by the engine, a rowversion counts changes. A statement that " +
    "gives them a value is refused (a generated column takes DEFAULT only; an identity takes a value when that is switched on first).",
  remedy: "Leave the column out, or change the columns that it is computed from.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE tariff (tariff_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL, fee_with_tax numeric(10,2) GENERATED ALWAYS AS (fee * 1.19) STORED);",
    dangerous: "UPDATE tariff SET fee_with_tax = 12 WHERE tariff_id = 3;",
    sound: "UPDATE tariff SET fee = 10 WHERE tariff_id = 3;",
  },
  check({ tree, names, changes, catalog, dialect, history, inserted, show }) {
    const drafts: Draft[] = [];
    const say = (column: Column, why: string): void => {
      drafts.push({
        message: `\`${column.name}\` is written by the engine alone, so this is refused.`,
        refused: true,
        because: [why],
        remedy: column.expression
          ? `It follows from \`${column.expression}\`: change what stands there.`
          : "Leave the column out.",
      });
    };
    // MariaDB takes NULL for DEFAULT there, as it does for IGNORE.
    const isDefault = (value: Expr): boolean =>
      value.kind === "literal" && (value.type === "default" || (value.type === "null" && dialect.engine.nullIsDefault));
    for (const { column, value } of assignedIn(tree, names)) {
      const known = column.offered?.column ?? columnLike(changes[0]?.change.table, column.name);
      if (!known || isDefault(value)) continue;
      if (known.generated) say(known, "it is computed from other columns");
      else if (known.identity && (dialect.engine.fixedIdentity || known.identity === "always"))
        say(known, "it is an identity, which the engine numbers");
      else if (dialect.engine.rowversion && known.type === "timestamp")
        say(known, "a rowversion counts the changes of its row");
    }
    if (inserted?.table && inserted.listed) {
      const overriding =
        tree.kind === "insert" ? tree.overriding : tree.kind === "merge" && tree.whens.some((when) => when.overriding);
      inserted.columns.forEach((column, i) => {
        if (!column) return;
        const values = inserted.rows.map((row) => row[i]).filter((one): one is Expr => one !== undefined);
        if (values.length > 0 && values.every(isDefault)) return;
        if (column.generated) say(column, "it is computed from other columns");
        else if (column.identity === "always" && dialect.engine.overridingIdentity && !overriding)
          say(column, "GENERATED ALWAYS takes a value only with OVERRIDING SYSTEM VALUE");
        else if (column.identity === "always" && dialect.engine.closedIdentity)
          say(column, "GENERATED ALWAYS takes no value");
        else if (
          column.identity &&
          dialect.engine.fixedIdentity &&
          history.setting("identity_insert") !== inserted.table?.name
        )
          say(column, "an identity takes a value only while SET IDENTITY_INSERT is ON for the table");
      });
    }
    // Identity columns are loaded as they come (PostgreSQL 15 manual, COPY).
    const loaded =
      tree.kind === "copy" && tree.direction === "in" && tree.table ? catalog?.resolve(tree.table) : undefined;
    for (const one of (loaded && tree.kind === "copy" && tree.columns) || []) {
      const column = columnLike(loaded, foldName(one, dialect));
      if (column?.generated) say(column, "it is computed from other columns");
    }
    if (tree.kind === "merge" && dialect.engine.mergeKeepsCondition)
      for (const { column, value } of assignedIn(tree, names))
        if (isAskedFor(tree, column.name, dialect))
          drafts.push({
            message: `\`${column.name}\` stands in the ON of this MERGE, so the engine refuses to change it.`,
            because: ["a MERGE changes no column that decides which rows match (ORA-38104)"],
            remedy: `Leave \`${column.name} = ${show(value)}\` out, or change it in an UPDATE of its own.`,
          });
    return drafts;
  },
};

/** Whether the ON of a MERGE reads a column of the target. */
function isAskedFor({ on, target }: Extract<Statement, { kind: "merge" }>, column: string, dialect: Dialect): boolean {
  if (target.kind !== "table") return false;
  const own = foldName(target.alias ?? target.name.parts[target.name.parts.length - 1], dialect);
  let found = false;
  walk(on, (node) => {
    if (node.kind !== "column" || node.path.length < 2) return undefined;
    const [qualifier, name] = node.path.slice(-2).map((one) => foldName(one, dialect));
    found ||= qualifier === own && name.toLowerCase() === column.toLowerCase();
    return undefined;
  });
  return found;
}
