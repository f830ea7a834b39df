import type { Draft, Hazard } from "../hazard.ts";

/**
 * More or fewer values than columns.
 *
 * @example
 * INSERT INTO pilot (pilot_id, name, licence) VALUES (7, 'Wren');
 */
export const countMismatch: Hazard = {
  id: "count-mismatch",
  family: "values",
  statements: ["insert", "merge"],
  weight: "stop",
  title: "Values and columns that do not add up",
  explanation:
    "The number of values is not the number of columns, so the engine refuses the statement. (PostgreSQL and Jet fill up a shorter list of values " +
    "without a list of columns from the left.)",
  remedy: "Give each column its value.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE pilot (pilot_id integer PRIMARY KEY, name varchar(40) NOT NULL, licence varchar(10));",
    dangerous: "INSERT INTO pilot (pilot_id, name, licence) VALUES (7, 'Wren');",
    sound: "INSERT INTO pilot (pilot_id, name) VALUES (7, 'Wren');",
  },
  check({ tree, dialect, names, inserted }) {
    if (!inserted?.names) return [];
    const wanted = inserted.names.length;
    const drafts: Draft[] = [];
    const say = (given: number): void => {
      drafts.push({
        message: `${given} value${given === 1 ? "" : "s"} for ${wanted} column${wanted === 1 ? "" : "s"}: the engine refuses this.`,
        refused: true,
        because: [`the columns are ${inserted.names?.join(", ")}`],
        remedy:
          given < wanted
            ? `There is no value for ${inserted.names?.slice(given).join(", ")}.`
            : "Remove the values that have no column.",
      });
    };
    const shorter = !inserted.listed && dialect.engine.shorterInsert;
    const body = tree.kind === "insert" ? tree.source?.body : undefined;
    if (body?.kind === "values") {
      for (const given of new Set([body.narrowest, body.widest]))
        if (given !== wanted && given > 0 && !(shorter && given < wanted)) say(given);
    } else if (tree.kind === "merge") {
      const [row] = inserted.rows;
      if (row && row.length !== wanted) say(row.length);
    } else if (body?.kind === "select" && names) {
      const stars = body.items.filter(({ expr }) => expr.kind === "star");
      let given = body.items.length - stars.length;
      const scope = names.scopes.get(body);
      for (const { expr } of stars) {
        const path = expr.kind === "star" ? expr.path : [];
        for (const relation of scope?.relations ?? []) {
          if (path.length > 0 && relation.name.toLowerCase() !== path[path.length - 1].text.toLowerCase()) continue;
          if (!relation.columns) return drafts;
          given += relation.columns.length;
        }
      }
      // USING and NATURAL make one column of two, which is not counted here.
      const merges = stars.length > 0 && (scope?.relations.length ?? 0) > 1;
      if (given !== wanted && !merges && !(shorter && given < wanted)) say(given);
    }
    return drafts;
  },
};
