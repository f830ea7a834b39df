import { type FilterFact, filterFacts, sameFacts } from "../../analysis/conditions/filter-facts.ts";
import { columnsIn } from "../../analysis/script/precheck.ts";
import { namedRelation } from "../../catalog/relation-keys.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * The SELECT that looks before has another filter, or another table, than the change.
 *
 * @example
 * SELECT count(*) FROM mooring WHERE status = 'left';
 * DELETE FROM mooring WHERE status = 'planned';
 */
export const checkDiffers: Hazard = {
  id: "check-differs",
  family: "recovery",
  weight: "ask",
  statements: ["update", "delete"],
  title: "The look before was at other rows",
  explanation:
    "A SELECT right before the change, on the same table and with conditions on the same columns, or with all of the change's conditions and more, is the author's " +
    "check: the rows that it shows should be those that change. A check of more rows than those that change is noted. Where the filters differ, or the same filter is asked of a table with a similar name, what was looked at is not what happens. A check with the " +
    "same filter is quiet, whatever it shows.",
  remedy: "Copy the filter of one into the other.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, fee numeric(10,2) NOT NULL);",
    dangerous: `SELECT count(*) FROM mooring WHERE status = 'left' AND fee = 0;
DELETE FROM mooring WHERE status = 'left' OR fee = 0;`,
    sound: `SELECT count(*) FROM mooring WHERE status = 'left' AND fee = 0;
DELETE FROM mooring WHERE status = 'left' AND fee = 0;`,
  },
  check(context) {
    const { tree, changes, history, slice } = context;
    const look = history.precheck;
    if (!look || (tree.kind !== "update" && tree.kind !== "delete") || changes.length !== 1) return [];
    const [{ change, target, result }] = changes;
    if (context.at.statement - look.statement > 2 || context.inCode) return [];
    if (!tree.where || tree.from.length > (tree.kind === "delete" ? 1 : 0) || change.conditions.length !== 1) return [];
    const asked = filterFacts(tree.where, slice);
    const same = sameFacts(asked, look.filter);
    const key = namedRelation(change.name, context.catalog, context.dialect).key;
    const draft = (message: string, because: string[], weight: Draft["weight"] = "ask"): Draft[] => [
      { weight, message, because, remedy: "Copy the filter of one into the other." },
    ];
    if (key !== look.key) {
      if (!same || !alike(key, look.key) || result.reach.bound === "one") return [];
      return draft(
        `Line ${look.line} looks at \`${look.shown}\`, and this changes \`${target}\` with the same filter.`,
        ["the two names differ by little"],
      );
    }
    if (same) return [];
    // A check of other columns is another question, unless one of the two asks all that the other asks, and more.
    const columns = columnsIn(tree.where);
    const wider = holdsAll(look.filter, asked);
    const narrower = holdsAll(asked, look.filter);
    const sameColumns = columns.size === look.columns.size && [...columns].every((one) => look.columns.has(one));
    if (!sameColumns && !wider && !narrower && !sameQuestion(look.filter, asked)) return [];
    if (!sameColumns && wider)
      return draft(
        `Line ${look.line} looks at only some of the rows of \`${target}\` that this ${tree.kind === "delete" ? "deletes" : "changes"}.`,
        [`it looks at rows where ${look.text}`, `this meets rows where ${context.show(tree.where)}`],
      );
    if (!sameColumns && narrower)
      return draft(
        `Line ${look.line} looks at more rows of \`${target}\` than this ${tree.kind === "delete" ? "deletes" : "changes"}.`,
        [`it looks at rows where ${look.text}`, `this meets rows where ${context.show(tree.where)}`],
        "note",
      );
    return draft(
      `Line ${look.line} looks at other rows of \`${target}\` than this ${tree.kind === "delete" ? "deletes" : "changes"}.`,
      [`it looks at rows where ${look.text}`, `this meets rows where ${context.show(tree.where)}`],
    );
  },
};

/** Whether a filter asks all that another one asks. */
function holdsAll(filter: readonly FilterFact[], other: readonly FilterFact[]): boolean {
  return other.length > 0 && other.every(({ key }) => filter.some((one) => one.key === key));
}

/** Whether two filters differ only in what a subquery on the same table asks there: NOT EXISTS (… WHERE …). */
function sameQuestion(filter: readonly FilterFact[], other: readonly FilterFact[]): boolean {
  const own = filter.filter(({ key }) => !other.some((one) => one.key === key));
  const rest = other.filter(({ key }) => !filter.some((one) => one.key === key));
  return (
    own.length === 1 && rest.length === 1 && frame(own[0].key) !== null && frame(own[0].key) === frame(rest[0].key)
  );
}

/** A condition with a subquery as far as its WHERE; null for others. */
function frame(key: string): string | null {
  const where = key.indexOf("where");
  return where > 0 && /\(select/.test(key.slice(0, where)) ? key.slice(0, where) : null;
}

/** Two table names of which one begins like the other: `mooring`, `moorings`, `mooring_2024`. */
function alike(a: string, b: string): boolean {
  const [one, other] = [a, b].map((key) => key.slice(key.indexOf("\u0000") + 1).toLowerCase());
  return one !== other && (one.startsWith(other) || other.startsWith(one));
}
