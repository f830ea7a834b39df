import { type AssignedColumn, assignedIn, usedColumn } from "../../analysis/conditions/conditions.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Edit, Hazard, HazardContext } from "../hazard.ts";

/**
 * Two columns copied crosswise.
 *
 * @example
 * UPDATE mooring m SET from_day = r.to_day, to_day = r.from_day FROM request r WHERE r.mooring_id = m.mooring_id;
 */
export const swappedColumns: Hazard = {
  id: "swapped-columns",
  family: "values",
  statements: ["update", "merge", "insert"],
  weight: "ask",
  depends: ["catalog"],
  title: "Two columns copied crosswise",
  explanation:
    "Each of two columns gets the source's column of the other's name. Within one table an exchange may be meant, but MySQL and MariaDB " +
    "assign from left to right: the second one then reads the value that has just been written, and both end up the same.",
  remedy:
    "Copy each column from the one of its name; exchange two columns by way of a variable or a joined copy (mysql).",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE request (mooring_id integer PRIMARY KEY, from_day date NOT NULL, to_day date NOT NULL);\nCREATE TABLE mooring (mooring_id integer PRIMARY KEY, from_day date NOT NULL, to_day date NOT NULL);",
    dangerous:
      "UPDATE mooring AS m SET from_day = r.to_day, to_day = r.from_day FROM request r WHERE r.mooring_id = m.mooring_id;",
    sound:
      "UPDATE mooring AS m SET from_day = r.from_day, to_day = r.to_day FROM request r WHERE r.mooring_id = m.mooring_id;",
  },
  check({ tree, names, show, dialect, region, slice }) {
    if (tree.kind !== "update" && tree.kind !== "merge" && tree.kind !== "insert") return [];
    const drafts: Draft[] = [];
    const list = assignedIn(tree, names);
    const copied = (one: AssignedColumn): string | null => usedColumn(one.value, names)?.name ?? null;
    for (let i = 0; i < list.length && i < 200; i++) {
      for (let j = i + 1; j < list.length && j < 200; j++) {
        const [a, b] = [list[i], list[j]];
        if (a.column.name === b.column.name || copied(a) !== b.column.name || copied(b) !== a.column.name) continue;
        const source = usedColumn(a.value, names);
        const own = !source?.relation || source.relation === a.column.relation;
        const mysql = dialect.engine.assignsInOrder;
        if (own && !mysql) continue;
        const put = (at: Expr, value: Expr): Edit => ({ ...region(at), text: slice(value.start, value.end) });
        drafts.push({
          ...(own
            ? {}
            : {
                fix: {
                  title: "Copy each column from its namesake",
                  edits: [put(a.value, b.value), put(b.value, a.value)],
                },
              }),
          weight: own ? "stop" : "ask",
          message: own
            ? `\`${a.column.name}\` and \`${b.column.name}\` do not change places: both end up with the old \`${b.column.name}\`.`
            : `\`${a.column.name}\` gets \`${show(a.value)}\` and \`${b.column.name}\` gets \`${show(b.value)}\`: the two are copied crosswise.`,
          because: [
            own
              ? "assignments run from left to right, and the second one reads what the first has written"
              : "the source has columns of both names",
          ],
          remedy: own
            ? "Take the old values from a second copy of the table, joined by its key."
            : "Copy each column from the one of its own name.",
        });
      }
    }
    // MySQL's manual, UPDATE: the second assignment uses the value that the first has written.
    if (dialect.engine.assignsInOrder && tree.kind !== "merge" && drafts.length === 0)
      for (let j = 1; j < list.length && j < 200; j++) {
        const read = readIn(list[j], names);
        const earlier = list
          .slice(0, j)
          .find((one) => read.has(one.column.name) && usedColumn(one.value, names)?.name !== one.column.name);
        if (!earlier || earlier.column.name === list[j].column.name) continue;
        drafts.push({
          weight: "ask",
          message: `\`${list[j].column.name}\` is computed from the new \`${earlier.column.name}\`, which the assignment before it has just written.`,
          because: ["assignments run from left to right here; other engines read the old value"],
          remedy: `Put \`${list[j].column.name}\` before \`${earlier.column.name}\` if the old value is meant.`,
        });
        break;
      }
    return drafts;
  },
};

/** The columns of its own table that the value of an assignment reads, by name. */
function readIn({ value, column }: AssignedColumn, names: HazardContext["names"]): ReadonlySet<string> {
  const read = new Set<string>();
  walk(value, (node) => {
    const used = node.kind === "column" ? usedColumn(node, names) : null;
    if (used && used.relation === column.relation) read.add(used.name);
    // VALUES(fee) is what the new row would have had (mysql).
    const fresh = node.kind === "call" && /^values$/i.test(node.name.parts[0].text);
    return node.kind !== "query" && !fresh;
  });
  return read;
}
