import { constraintKey } from "../../analysis/script/guard-ledger.ts";
import { columnDependents, type Dependent, dependentsOf } from "../../analysis/statement/dependents.ts";
import { tableKey } from "../../catalog/keys.ts";
import { shownName, type Table, type View } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { namedRelation, relationKey } from "../../catalog/relation-keys.ts";
import type { Name } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { listedShort } from "../wording.ts";

/** Something that a statement removes or gives another name, with what depends on it. */
interface Loss {
  /** As messages show it: "`mooring`", "the column `fee` of `mooring`". */
  what: string;
  verb: "drops" | "renames";
  relation: Table | View;
  cascade: boolean;
  dependents: Dependent[];
  column: boolean;
}

/**
 * A drop or a new name that breaks views, triggers, routines and keys.
 *
 * @example
 * ALTER TABLE owner DROP COLUMN mail;   -- the view owner_public shows it
 */
export const brokenDependent: Hazard = {
  id: "broken-dependent",
  family: "views",
  weight: "ask",
  depends: ["names"],
  statements: ["drop", "alter-table", "rename"],
  title: "Something else needs this",
  explanation:
    "A table, view or column is dropped or renamed that views, triggers, routines, foreign keys, checks or generated columns refer to. Some engines refuse " +
    "the statement (PostgreSQL for views and keys; all of them for keys), with CASCADE the dependents go too, and the rest break when they are next " +
    "used. Code that the same script makes again, or drops, afterwards is quiet.",
  remedy: "Drop or change what depends on it first, in the same script, and make it again after the change.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(60), phone varchar(20));
CREATE VIEW owner_public AS SELECT owner_id, name, mail FROM owner;`,
    dangerous: "ALTER TABLE owner DROP COLUMN mail;",
    sound: "ALTER TABLE owner ADD COLUMN fax varchar(20);",
  },
  check(context) {
    const drafts: Draft[] = context.known ? [] : cascades(context);
    for (const loss of losses(context)) {
      if (loss.dependents.length === 0) continue;
      const refused = refusal(loss, context);
      if (refused.length > 0) {
        drafts.push({
          weight: "stop",
          refused: true,
          message: `The engine refuses this: ${shownList(refused)} ${refused.length === 1 ? "depends" : "depend"} on ${loss.what}.`,
          because: refused.map((one) => `${KINDS[one.kind]} \`${one.name}\` refers to it`),
          remedy: "Drop or change what depends on it first, and make it again after this statement.",
        });
        continue;
      }
      const broken = loss.dependents.filter((one) => breaks(one, loss, context));
      if (broken.length === 0) continue;
      if (loss.cascade && context.dialect.engine.truncateCascades) {
        drafts.push({
          message: `CASCADE takes ${shownList(broken)} along with ${loss.what}.`,
          because: broken.map((one) => `${shownDependent(one)} depends on it`),
          remedy: "Keep their definitions, and make them again.",
        });
        continue;
      }
      context.history.noteBroken({
        at: context.at,
        table: tableKey(loss.relation.schema, loss.relation.name),
        column: loss.column,
        dependents: broken.map((one) => ({ ...one, shown: shownDependent(one) })),
        what: loss.what,
        verb: loss.verb,
      });
    }
    return drafts;
  },
  finish({ history }) {
    return history.broken.map(({ at, dependents, what, verb }) => ({
      at,
      message: `This ${verb} ${what}, and ${dependents
        .map(({ shown }) => shown)
        .slice(0, 6)
        .join(", ")} still ${dependents.length === 1 ? "refers" : "refer"} to it.`,
      because: ["nothing after it in this script changes, drops or makes them again"],
      remedy: "Make what depends on it again in the same script.",
    }));
  },
};

const KINDS: Record<Dependent["kind"], string> = {
  view: "view",
  trigger: "trigger",
  rule: "rule",
  routine: "routine",
  key: "key",
  check: "check",
  column: "column",
};

/** "view `afloat`", "key `vessel_owner` of `vessel`". */
function shownDependent({ kind, name }: Dependent): string {
  if (kind !== "key") return `${KINDS[kind]} \`${name}\``;
  const at = name.indexOf(" of ");
  const [own, table] = [name.slice(0, at), name.slice(at + 4)];
  return `${own === "a foreign key" ? own : `key \`${own}\``} of \`${table}\``;
}

function shownList(list: readonly Dependent[]): string {
  const names = list.slice(0, 6).map(shownDependent);
  return list.length > 6 ? `${names.join(", ")} and ${list.length - 6} more` : names.join(", ");
}

function losses({ tree, catalog, dialect }: HazardContext): Loss[] {
  if (!catalog) return [];
  const list: Loss[] = [];
  const whole = (name: Name, verb: Loss["verb"], cascade: boolean, gone: ReadonlySet<string>): void => {
    const relation = catalog.resolveRelation(name);
    if (!relation) return;
    // What one statement drops together does not hold each other.
    const dependents = dependentsOf(relation, catalog, dialect).filter(
      ({ key, kind, name: own }) => !gone.has(key) && !(kind === "key" && gone.has(own.split(" of ")[1] ?? "")),
    );
    list.push({ what: `\`${shownName(relation)}\``, verb, relation, cascade, dependents, column: false });
  };
  if (tree.kind === "drop" && (tree.object === "table" || tree.object === "view")) {
    const gone = new Set<string>();
    for (const name of tree.names) {
      const relation = catalog.resolveRelation(name);
      if (!relation) continue;
      gone.add(tableKey(relation.schema, relation.name));
      gone.add(shownName(relation));
    }
    for (const name of tree.names) whole(name, "drops", tree.cascade, gone);
  } else if (tree.kind === "rename" && (tree.object === "table" || tree.object === "view")) {
    for (const { from } of tree.renames) whole(from, "renames", false, new Set());
  } else if (tree.kind === "alter-table") {
    const relation = catalog.resolveRelation(tree.name);
    if (!relation) return [];
    for (const action of tree.actions) {
      if (action.what === "rename") whole(tree.name, "renames", false, new Set());
      if (action.what !== "drop-column" && action.what !== "rename-column" && action.what !== "change-column") continue;
      const column = foldName(action.name, dialect);
      // CHANGE may give it another name.
      if (action.what === "change-column" && foldName(action.column.name, dialect) === column) continue;
      list.push({
        what: `the column \`${column}\` of \`${shownName(relation)}\``,
        verb: action.what === "drop-column" ? "drops" : "renames",
        relation,
        cascade: action.what === "drop-column" && action.cascade,
        dependents: columnDependents(relation, column, catalog, dialect),
        column: true,
      });
    }
  }
  return list;
}

/** The dependents for which the engine refuses the statement. */
function refusal({ verb, cascade, dependents, column }: Loss, { dialect, session }: HazardContext): Dependent[] {
  if (verb === "renames") return [];
  const loss = { column, cascade, keysChecked: session.keys !== false };
  return dependents.filter(({ kind, alone = false }) => dialect.engine.refusesDrop(kind, { ...loss, alone }));
}

/** Whether a dependent stops working when the engine takes the statement. */
function breaks({ kind }: Dependent, { verb, column }: Loss, { dialect }: HazardContext): boolean {
  if (kind === "key" || kind === "check" || kind === "column") return false;
  return verb === "drops" || dialect.engine.breaksOnRename(kind, column);
}

/** What CASCADE may take along where nobody knows what there is: told once in a script. */
function cascades({ tree, catalog, dialect, show, creations }: HazardContext): Draft[] {
  if (!dialect.engine.truncateCascades) return [];
  const say = (what: string, weight: "ask" | "note", takes: string): Draft[] => [
    {
      weight,
      cause: `cascade ${weight}`,
      about: what,
      together: (all) => `CASCADE takes along whatever depends on ${listedShort(all)}.`,
      message: `CASCADE takes along whatever depends on \`${what}\`.`,
      because: [takes, "without a catalog it is not known what that is"],
      remedy: "Drop it without CASCADE, and read what the engine names.",
    },
  ];
  if (tree.kind === "drop" && tree.cascade) {
    const [name] = tree.names;
    if (!name || creations.everMade(relationKey(name, catalog, dialect))) return [];
    if (tree.object === "type" || tree.object === "domain")
      return say(show(name), "ask", "columns of the type go, with their values");
    if (/view|function|procedure|routine|sequence|index/.test(tree.object))
      return say(show(name), "note", "views that read it go as well, and no rows");
  }
  if (tree.kind === "alter-table")
    for (const action of tree.actions)
      if (action.what === "drop-constraint" && action.cascade) {
        const own = constraintKey(namedRelation(tree.name, catalog, dialect).key, action.name);
        return say(
          `${show(tree.name)}.${action.name ? show(action.name) : "…"}`,
          "ask",
          "foreign keys that refer to it go as well",
        ).map((draft) => ({
          ...draft,
          // Nothing refers to a CHECK or a foreign key; a key that is made again may have taken others along.
          settle: ({ timeline }) => {
            const again = timeline.guards.added.get(own);
            if (again === undefined) return draft;
            return again === "check" || again === "foreign"
              ? null
              : { ...draft, weight: "note", cause: "cascade note" };
          },
        }));
      } else if (action.what === "drop-column" && action.cascade)
        return say(`${show(tree.name)}.${show(action.name)}`, "note", "views that read the column go as well");
  return [];
}
