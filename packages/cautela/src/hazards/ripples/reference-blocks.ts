import type { FiredRipple } from "../../analysis/ripples/ripple.ts";
import type { History, PastChange } from "../../analysis/script/history.ts";
import { preparing, wantedOf } from "../../analysis/script/prepared.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { tableKey } from "../../catalog/keys.ts";
import { shownName } from "../../catalog/model.ts";
import { bareName, foldName } from "../../catalog/names.ts";
import { droppedParents } from "../dropped-parents.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * Rows of other tables that refer to those that go, so that the engine refuses.
 *
 * @example
 * TRUNCATE vessel;   -- `mooring` refers to it: refused
 */
export const referenceBlocks: Hazard = {
  id: "reference-blocks",
  family: "ripples",
  weight: "stop",
  depends: ["names", "ripples"],
  needs: Trait.ripple | Trait.structure,
  title: "Rows that others refer to",
  explanation:
    "A foreign key without CASCADE refuses the delete, or the change of the key, while rows refer to it. TRUNCATE of a table that others refer to " +
    "is refused whatever they hold (PostgreSQL takes CASCADE, Oracle too where the key says ON DELETE CASCADE). Where only the data can say, it is " +
    "noted once; a script that clears the referring table before is quiet.",
  remedy: "Delete or move the referring rows first, in the same script.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE vessel (vessel_id integer PRIMARY KEY);
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel);`,
    dangerous: "TRUNCATE vessel;",
    sound: "DELETE FROM mooring WHERE vessel_id = 3;",
  },
  check(context) {
    const { ripples, history, tree, dialect, catalog, slice, at } = context;
    const drafts: Draft[] = dropped(context);
    // PostgreSQL empties tables that refer to each other when one TRUNCATE names them all.
    const together =
      tree.kind === "truncate"
        ? tree.targets.map(({ name }) => foldName(name.parts[name.parts.length - 1], dialect).toLowerCase())
        : [];
    for (const fired of ripples) {
      const { ripple, firing } = fired;
      const notes = ripple.notes.filter(({ kind, node }) => kind === "held" && node === 0);
      const later: ((history: History) => PastChange | undefined)[] = [];
      const open = notes.filter(({ text }) => {
        const child = /`([^`]+)`/.exec(text)?.[1] ?? "";
        const bare = bareName(child).toLowerCase();
        if (together.includes(bare)) return false;
        // TRUNCATE is refused whatever has become of the rows.
        if (firing.action === "truncate") return true;
        const parent = firing.relation?.object === "table" ? firing.relation : null;
        const table = parent
          ? catalog?.referencing(tableKey(parent.schema, parent.name)).find((one) => shownName(one) === child)
          : undefined;
        if (!parent || !table) return true;
        const wanted = wantedOf(firing.change, slice);
        const cleared = (past: readonly PastChange[]): PastChange | undefined =>
          preparing(
            table,
            parent,
            wanted,
            past.filter(({ action }) => action !== "insert"),
          );
        if (cleared(history.of(child))) return false;
        const key = tableKey(parent.schema, parent.name);
        if (!table.foreignKeys.some((foreign) => foreign.table === key && foreign.deferrable))
          later.push((script) => cleared(script.of(child).filter(({ statement }) => statement > at.statement)));
        return true;
      });
      drafts.push(...behindCascade(fired));
      const certain = open.filter((note) => note.certain);
      const list = certain.length > 0 ? certain : open;
      if (list.length === 0) continue;
      const [root] = ripple.nodes;
      const keys = [...new Set(list.map(({ name }) => name))];
      const draft: Draft = {
        cause: `${root.name} ${firing.action}`,
        weight: certain.length > 0 ? "stop" : "note",
        refused: certain.length > 0,
        message:
          certain.length > 0
            ? `The engine refuses this: other tables refer to \`${root.name}\` (${listed(keys)}).`
            : `The engine refuses this where other tables still refer to these rows of \`${root.name}\` (${listed(keys)}).`,
        because: list.map(({ text }) => text),
        remedy:
          firing.action === "truncate"
            ? "Use DELETE instead of TRUNCATE, after the rows that refer to it are gone: TRUNCATE is refused while the key is there."
            : "Clear or move the rows that refer to it first.",
      };
      if (certain.length === 0 && later.length > 0)
        draft.settle = ({ history }) => tooLate(draft, root.name, later, history);
      drafts.push(draft);
    }
    return drafts;
  },
};

/** Rows that refer to those which go are cleared, but only afterwards. */
function tooLate(
  draft: Draft,
  target: string,
  later: readonly ((history: History) => PastChange | undefined)[],
  history: History,
): Draft {
  const [first] = later.flatMap((ask) => ask(history) ?? []);
  if (!first) return draft;
  return {
    ...draft,
    weight: "ask",
    cause: `${draft.cause} before ${first.place}`,
    message: `The engine refuses this while rows of \`${first.target}\` refer to these of \`${target}\`, and they are cleared only afterwards, on ${first.place}.`,
    remedy: `Move this statement after ${first.place}.`,
  };
}

/** Keys that refuse rows which a cascade would take along. */
function behindCascade({ ripple }: FiredRipple): Draft[] {
  const taken = new Set(ripple.edges.filter(({ how }) => how === "cascade").map(({ to }) => to));
  const notes = ripple.notes.filter(
    ({ kind, node }) => kind === "held" && taken.has(node) && ripple.nodes[node].action === "delete",
  );
  if (notes.length === 0) return [];
  const tables = [...new Set(notes.map(({ node }) => ripple.nodes[node].name))];
  return [
    {
      weight: "note",
      cause: `behind ${tables.join()}`,
      message: `The engine refuses this where other tables refer to rows of ${listed(tables)} that go with it (${listed([...new Set(notes.map(({ name }) => name))])}).`,
      because: notes.map(({ text }) => text),
      remedy: "Clear or move the rows that refer to them first.",
    },
  ];
}

/** A parent that is dropped while foreign keys are on: its rows are deleted first, and those that others refer to refuse it (sqlite). */
function dropped(context: HazardContext): Draft[] {
  const held = droppedParents(context).filter(
    ({ key, sure }) => sure && (key.onDelete === "no action" || key.onDelete === "restrict"),
  );
  const [first] = held;
  if (!first) return [];
  return [
    {
      weight: "ask",
      message: `DROP TABLE deletes the rows of \`${first.parent}\` first, which is refused while rows of ${listed([...new Set(held.map(({ child }) => child))])} refer to it.`,
      because: ["foreign keys are on"],
      remedy: "Write PRAGMA foreign_keys = OFF before BEGIN, and PRAGMA foreign_key_check before COMMIT.",
    },
  ];
}
