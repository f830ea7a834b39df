import { columnLike } from "../catalog/columns.ts";
import { shownName, type Table } from "../catalog/model.ts";
import { foldName, writtenName } from "../catalog/names.ts";
import type { AlterTableStatement, Ident, Name, TableConstraint } from "../sql/nodes/tree.ts";
import { nearest } from "../text/nearest.ts";
import type { Draft, HazardContext } from "./hazard.ts";
import { isSettled } from "./known-objects.ts";

/** What a statement about structure names and the catalog does not hold: the engine refuses it. */
export function missingObjects(context: HazardContext): Draft[] {
  const { tree, catalog } = context;
  if (!catalog || !isSettled(context)) return [];
  switch (tree.kind) {
    case "alter-table": {
      const found = catalog.resolveRelation(tree.name);
      if (!found) return tree.ifExists ? [] : relation(tree.name, context);
      return found.object === "table" && !found.partial ? altered(tree, found, context) : [];
    }
    case "create-index": {
      const found = catalog.resolveRelation(tree.table);
      if (!found) return relation(tree.table, context);
      if (found.object !== "table" || found.partial || tree.inexact) return [];
      return tree.columns.flatMap((name) => column(name, found, context));
    }
    case "truncate":
      return tree.targets.flatMap(({ name }) => (catalog.resolveRelation(name) ? [] : relation(name, context)));
    case "drop":
      if (tree.ifExists || (tree.object !== "table" && tree.object !== "view")) return [];
      return tree.names.flatMap((name) => (catalog.resolveRelation(name) ? [] : relation(name, context)));
    case "create-table":
      return tree.constraints
        .filter(({ kind }) => kind === "foreign")
        .flatMap((constraint) => referenced(constraint, tree.name, context));
    case "create-routine": {
      const on = tree.trigger?.table;
      return on && !catalog.resolveRelation(on) ? relation(on, context) : [];
    }
    default:
      return [];
  }
}

/** A table or view that is not there. Only a catalog that was given tells what is missing. */
function relation(name: Name, { catalog, known, dialect, history }: HazardContext): Draft[] {
  const { parts } = name;
  const last = parts[parts.length - 1];
  if (!known || !catalog || parts.some(({ hole }) => hole) || name.link || /^[#@]/.test(last.text)) return [];
  const schema = parts.length > 1 ? foldName(parts[parts.length - 2], dialect) : catalog.searchPath[0];
  if (!catalog.hasHeldSchema(schema)) return [];
  if (history.isInUnread(last.text)) return [];
  const near = nearest(
    foldName(last, dialect),
    Array.from(catalog.tables(), (table) => table.name),
  );
  const because = ["the catalog does not hold it, and nothing before makes it"];
  // Without a name that is like it the catalog may just not hold this part of the database.
  return [
    near === null
      ? {
          weight: "ask",
          message: `There is no \`${writtenName(name)}\` in the catalog.`,
          because,
          remedy: "Write the name that is meant, or take the table into the catalog.",
        }
      : {
          weight: "stop",
          refused: true,
          message: `There is no \`${writtenName(name)}\`, so the engine refuses this.`,
          because,
          remedy: `Did you mean \`${near}\`?`,
        },
  ];
}

function altered(tree: AlterTableStatement, table: Table, context: HazardContext): Draft[] {
  const drafts: Draft[] = [];
  const { dialect } = context;
  // The actions of one statement see each other's columns.
  const added = new Set<string>();
  const isThere = (name: Ident): boolean =>
    added.has(foldName(name, dialect).toLowerCase()) || has(table, name, dialect);
  for (const action of tree.actions)
    switch (action.what) {
      case "add-column":
        added.add(foldName(action.column.name, dialect).toLowerCase());
        break;
      case "change-column":
        added.add(foldName(action.column.name, dialect).toLowerCase());
        if (!action.ifExists && !has(table, action.name, dialect)) drafts.push(...column(action.name, table, context));
        break;
      case "rename-column":
        if (!action.ifExists && !isThere(action.name)) drafts.push(...column(action.name, table, context));
        added.add(foldName(action.to, dialect).toLowerCase());
        break;
      case "drop-column":
        if (!action.ifExists && !isThere(action.name)) drafts.push(...column(action.name, table, context));
        break;
      case "column-type":
      case "column-required":
      case "column-default":
      case "column-identity":
      case "restart-identity":
        if (!isThere(action.name)) drafts.push(...column(action.name, table, context));
        break;
      case "drop-constraint":
        if (action.name && !action.ifExists) drafts.push(...constraint(action.name, table, context));
        break;
      case "add-constraint":
        for (const name of action.constraint.inexact ? [] : action.constraint.columns)
          if (!isThere(name)) drafts.push(...column(name, table, context));
        drafts.push(...referenced(action.constraint, tree.name, context));
        break;
      default:
    }
  return drafts;
}

function has(table: Table, name: Ident, dialect: HazardContext["dialect"]): boolean {
  return columnLike(table, foldName(name, dialect).toLowerCase()) !== undefined;
}

function column(name: Ident, table: Table, context: HazardContext): Draft[] {
  const { dialect, region, slice } = context;
  if (name.hole || has(table, name, dialect) || /^(?:ctid|oid|xmin|rowid|rownum)$/i.test(name.text)) return [];
  const offered = table.columns.map((one) => one.name);
  const near = nearest(foldName(name, dialect), offered);
  const bare = near !== null && slice(name.start, name.end) === name.text && /^[a-z_][a-z0-9_]*$/i.test(near);
  return [
    {
      ...(bare && near ? { fix: { title: `Write ${near}`, edits: [{ ...region(name), text: near }] } } : {}),
      weight: "stop",
      refused: true,
      message: `\`${shownName(table)}\` has no column \`${name.text}\`, so the engine refuses this.`,
      because: offered.length <= 30 ? [`its columns are ${offered.join(", ")}`] : [],
      remedy: near === null ? "Write the column that is meant." : `Did you mean \`${near}\`?`,
    },
  ];
}

/** A constraint that a table does not have; where one of its own has no name, nobody knows what the engine calls it. */
function constraint(name: Ident, table: Table, { dialect }: HazardContext): Draft[] {
  const names = [table.primaryKey, ...table.uniqueKeys, ...table.foreignKeys, ...table.checks].flatMap((one) =>
    one ? [one.name] : [],
  );
  const own = foldName(name, dialect).toLowerCase();
  if (name.hole || names.some((one) => one?.toLowerCase() === own)) return [];
  if (names.includes(null) && (GENERATED.test(own) || columnLike(table, own))) return [];
  // Defaults are constraints by name in some engines, and indexes in others.
  if (dialect.engine.namedDefaults) return [];
  const near = nearest(
    own,
    names.flatMap((one) => (one === null ? [] : [one])),
  );
  return [
    {
      weight: "stop",
      refused: true,
      message: `\`${shownName(table)}\` has no constraint \`${name.text}\`, so the engine refuses this.`,
      because: [
        names.every((one) => one === null)
          ? "it has no constraint with a name"
          : `its constraints are ${names.flatMap((one) => one ?? []).join(", ")}`,
      ],
      remedy: near === null ? "Write the constraint that is meant." : `Did you mean \`${near}\`?`,
    },
  ];
}

/** Names that engines give to constraints that have none. */
const GENERATED =
  /_(?:pkey|key|fkey|check|excl|not_null|ibfk_\d+)\d*$|^(?:primary|constraint_\d+|sys_c\d+|(?:pk|uq|fk|ck|df)__\w+)$/;

/** What a foreign key refers to and is not there. */
function referenced({ references }: TableConstraint, own: Name, context: HazardContext): Draft[] {
  const { catalog, dialect, session } = context;
  if (!references || !catalog || dialect.engine.lateReferences || session.keys === false) return [];
  if (writtenName(references.table) === writtenName(own)) return [];
  const target = catalog.resolveRelation(references.table);
  if (!target) return relation(references.table, context);
  if (target.object !== "table" || target.partial) return [];
  return (references.columns ?? []).flatMap((name) => column(name, target, context));
}
