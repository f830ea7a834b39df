import type { Change } from "../../analysis/changes/change.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { knownUpdatability } from "../../analysis/views/updatability.ts";
import { shownName } from "../../catalog/model.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A write through a view: which base table it hits, and what the view hides.
 *
 * @example
 * UPDATE owner_public SET mail = NULL;   -- writes `owner`, rows where left_on IS NULL
 */
export const viewPassthrough: Hazard = {
  id: "view-passthrough",
  family: "views",
  weight: "note",
  depends: ["names"],
  needs: Trait.ripple,
  statements: ["insert", "update", "delete", "merge", "copy"],
  title: "The change lands in the table behind a view",
  explanation:
    "A view has no rows of its own: what is written through it lands in a base table, under the base table's column names, and meets only the " +
    "rows that the view shows. Through a view that joins, one changed row of the base may stand in many rows of the view; that is asked about.",
  remedy: "Name the base table in the script where it matters, and count its rows and not the view's.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(60) NOT NULL, left_on date);
CREATE VIEW owner_public AS SELECT owner_id, name FROM owner WHERE left_on IS NULL;`,
    dangerous: "UPDATE owner_public SET name = 'Asta' WHERE owner_id = 3;",
    sound: "UPDATE owner SET name = 'Asta' WHERE owner_id = 3;",
  },
  check({ ripples, catalog, dialect }) {
    const drafts: Draft[] = [];
    for (const { firing, ripple } of ripples) {
      const { relation } = firing;
      if (!catalog || relation?.object !== "view" || firing.action === "truncate") continue;
      const found = knownUpdatability(relation, catalog, dialect);
      const shown = shownName(relation);
      const through = found.through[firing.action];
      if (!found.known || through === null) continue;
      if (through !== "view") {
        const names = [...new Set(ripple.nodes.filter(({ written }) => written).map(({ name }) => name))];
        drafts.push({
          cause: `${shown} ${firing.action}`,
          message: `\`${shown}\` is a view: its ${through === "rule" ? "rule" : "INSTEAD OF trigger"} writes ${names.length > 0 ? listed(names) : "nothing that can be told"} in its place.`,
          because: ripple.edges.filter(({ how }) => how === through).map(({ reason }) => reason),
          remedy: "",
        });
        continue;
      }
      const reached = ripple.edges.filter(({ how }) => how === "view").map(({ to }) => ripple.nodes[to].name);
      const bases = [...new Set(reached.length > 0 ? reached : found.bases.map(shownName))];
      if (bases.length === 0) continue;
      const repeated = found.joined && firing.action === "update" && bases.length === 1 && isRepeated(found, bases[0]);
      const renamed = found.columns.filter(
        ({ name, base }) => base && base.column !== name && firing.columns?.includes(name),
      );
      // The view's filter is the only one.
      const whole = found.hides.length > 0 && firing.action !== "insert" && isUnfiltered(firing.change);
      drafts.push({
        weight: repeated || whole ? "ask" : "note",
        cause: `${shown} ${firing.action}`,
        message: repeated
          ? `This changes ${listed(bases)} through the view \`${shown}\`, and one of its rows can stand in many rows of the view: all of them change.`
          : whole
            ? `This ${VERBS[firing.action]} ${listed(bases)}, all those that the view \`${shown}\` shows: the statement has no filter of its own.`
            : `\`${shown}\` is a view: this ${VERBS[firing.action]} ${listed(bases)}.`,
        because: [
          ...found.hides.map((text) => `the view shows only rows where ${text}`),
          ...renamed.map(
            ({ name, base }) => `\`${name}\` is \`${base?.column}\` of \`${base ? shownName(base.table) : ""}\``,
          ),
          ...(repeated ? ["the view joins, and the other table has several rows for one of these"] : []),
        ],
        remedy: whole
          ? "Add the filter you mean, or say that all of them are meant: -- cautela: expect N rows."
          : repeated
            ? `Write \`${bases[0]}\` itself if that is meant.`
            : "",
      });
    }
    return drafts;
  },
};

/** Whether a statement has no condition of its own at all. */
function isUnfiltered(change: Change | null): boolean {
  const statement = change?.statement;
  if (!statement || statement.kind === "truncate" || statement.where || change.limit || change.current) return false;
  if (statement.kind === "delete")
    return statement.using.length === 0 && statement.from.every(({ kind }) => kind === "table");
  return statement.from.length === 0 && statement.target.every(({ kind }) => kind === "table");
}

const VERBS = { insert: "adds rows to", update: "changes rows of", delete: "deletes rows of" } as const;

/** Whether the join can show a row of that table more than once: the view shows no key of it as its own. */
function isRepeated(found: ReturnType<typeof knownUpdatability>, base: string): boolean {
  const others = found.bases.filter((table) => shownName(table) !== base);
  // The table that refers to the others is met once; one that is referred to may be met often.
  const own = found.bases.find((table) => shownName(table) === base);
  if (!own) return false;
  return others.some((table) => table.foreignKeys.some((key) => key.table === `${own.schema}\u0000${own.name}`));
}
