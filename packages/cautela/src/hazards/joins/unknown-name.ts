import { isEnginesOwn } from "../../analysis/names/missing.ts";
import { isPseudoColumn } from "../../analysis/names/pseudo-columns.ts";
import type { Binding } from "../../analysis/names/resolution.ts";
import { declaredVariables } from "../../analysis/script/batch-variables.ts";
import { within } from "../../analysis/statement/node-index.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { RelationObject } from "../../catalog/catalog.ts";
import { columnLike } from "../../catalog/columns.ts";
import { tableKey } from "../../catalog/keys.ts";
import { shownName } from "../../catalog/model.ts";
import { foldName, writtenName } from "../../catalog/names.ts";
import type { Ident, Name } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { distance, nearest } from "../../text/nearest.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { missingObjects } from "../missing-objects.ts";
import { capital, listed } from "../wording.ts";

/**
 * A name that means nothing here.
 *
 * @example
 * UPDATE mooring SET fees = 0 WHERE mooring_id = 3;   -- stop: `mooring` has no column `fees`
 */
export const unknownName: Hazard = {
  id: "unknown-name",
  family: "joins",
  weight: "stop",
  depends: ["names"],
  needs: Trait.openName | Trait.conflictTarget | Trait.columnList | Trait.structure | Trait.variable,
  title: "A name that nothing has",
  explanation:
    "The statement refers to a column that none of its tables has, to an alias that it does not define, or to a table whose " +
    "name is one letter away from one that exists; or ON CONFLICT names columns that are no key. The engine refuses it; in a Jet desktop file the name becomes a question " +
    "to whoever runs the query, and the answer is taken for a value.",
  remedy: "Write the name that was meant; the nearest ones are listed.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL);",
    dangerous: "UPDATE mooring SET fees = 12 WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET fee = 12 WHERE mooring_id = 3;",
  },
  check(context) {
    const { names } = context;
    if (!names) return [];
    const drafts: Draft[] = [...endedVariables(context), ...missingObjects(context)];
    const said = new Set<string>();
    for (const binding of names.open) {
      if (binding.status !== "unknown") continue;
      const draft = columnDraft(binding, context);
      if (draft && !said.has(draft.message)) {
        said.add(draft.message);
        drafts.push(draft);
      }
    }
    drafts.push(...insertedDrafts(context));
    const conflict = conflictDraft(context);
    if (conflict) drafts.push(conflict);
    for (const { source } of names.missing) {
      if (isEnginesOwn(source, context.dialect)) continue;
      const near = nearestTable(source.name.parts[source.name.parts.length - 1].text, context);
      if (near === null) continue;
      const shown = writtenName(source.name);
      drafts.push({
        weight: "ask",
        message: `There is no table \`${shown}\` in the catalog, but there is \`${near}\`.`,
        because: ["the two names differ by a letter or two"],
        remedy: `If \`${near}\` is meant, write it; otherwise the catalog lacks \`${shown}\`.`,
      });
    }
    return drafts;
  },
};

/** The columns that INSERT, also as a branch of MERGE, or COPY says it fills. */
function insertedNames({ tree }: HazardContext): readonly Ident[] {
  const last = ({ parts }: Name): Ident => parts[parts.length - 1];
  if (tree.kind === "copy") return tree.columns ?? [];
  if (tree.kind === "insert") return (tree.columns ?? []).map(last);
  return tree.kind === "merge" ? tree.whens.flatMap(({ columns }) => columns ?? []).map(last) : [];
}

/** The columns of an INSERT that its table, or its view, does not have. */
function insertedDrafts(context: HazardContext): Draft[] {
  const { tree, catalog } = context;
  const target =
    tree.kind === "copy"
      ? tree.table
      : (tree.kind === "insert" || tree.kind === "merge") && tree.target.kind === "table"
        ? tree.target.name
        : null;
  const relation = target ? catalog?.resolveRelation(target) : undefined;
  if (!relation || (relation.object === "table" && (relation.partial || relation.kind === "virtual"))) return [];
  const isTable = relation.object === "table";
  const size = isTable ? relation.columns.length : (relation.columns?.length ?? 0);
  if (size === 0) return [];
  const ofView = isTable ? null : new Set(relation.columns?.map((one) => one.toLowerCase()));
  const has = (lower: string): boolean => (isTable ? columnLike(relation, lower) !== undefined : !!ofView?.has(lower));
  return insertedNames(context)
    .map((name) => insertedDraft(name, relation, has, context))
    .filter((draft) => draft !== null);
}

function insertedDraft(
  last: Ident,
  relation: RelationObject,
  has: (lower: string) => boolean,
  context: HazardContext,
): Draft | null {
  const { catalog, dialect } = context;
  const column = foldName(last, dialect);
  if (last.hole || has(column.toLowerCase()) || isPseudoColumn(column.toLowerCase(), dialect)) return null;
  if (catalog?.mayHave(tableKey(relation.schema, relation.name), column)) return null;
  const offered = relation.object === "table" ? relation.columns.map(({ name }) => name) : (relation.columns ?? []);
  const near = nearest(column, offered);
  const spelled = context.slice(last.start, last.end);
  const bare = spelled === last.text && near !== null && /^[a-z_][a-z0-9_]*$/i.test(near);
  return {
    ...(bare && near ? { fix: { title: `Write ${near}`, edits: [{ ...context.region(last), text: near }] } } : {}),
    weight: "stop",
    refused: true,
    message: `\`${shownName(relation)}\` has no column \`${column}\`, so the engine refuses this.`,
    because: offered.length <= 30 ? [`the columns in sight are ${offered.join(", ")}`] : [],
    remedy: near === null ? "Write the column that is meant." : `Did you mean \`${near}\`?`,
  };
}

/** Variables of a batch that has ended: a later one does not know them. */
function endedVariables({ tree, history, dialect }: HazardContext): Draft[] {
  if (!history.batch.some) return [];
  const drafts = new Map<string, Draft>();
  const declared = new Set<string>();
  walk(tree, (node) => {
    // A block may declare it again, for all that follows.
    if (node.kind === "declare") for (const name of declaredVariables(node)) declared.add(name);
    const line = node.kind === "variable" ? history.batch.endedOn(node.name) : null;
    if (node.kind === "variable" && line !== null && !declared.has(node.name.toLowerCase()) && drafts.size < 5)
      drafts.set(node.name.toLowerCase(), {
        weight: "stop",
        refused: true,
        message: `\`${node.name}\` is not declared here: it ended with its batch on line ${line}.`,
        because: [`${dialect.title} forgets the variables of a batch at the separator after it`],
        remedy: "Declare it again in this batch, or remove the separator.",
      });
    return node.kind === "create-routine" ? false : undefined;
  });
  return [...drafts.values()];
}

/**
 * ON CONFLICT names columns, and just these must be a key
 * (postgresql.org/docs/current/sql-insert.html, sqlite.org/lang_upsert.html).
 */
function conflictDraft({ tree, catalog, dialect }: HazardContext): Draft | null {
  if (tree.kind !== "insert" || tree.target.kind !== "table" || !catalog) return null;
  const table = catalog.resolve(tree.target.name);
  if (!table || table.partial) return null;
  const keys = table.primaryKey ? [table.primaryKey, ...table.uniqueKeys] : table.uniqueKeys;
  // A key over expressions or over a part of the rows may be the one that is meant.
  if (keys.some(({ partial }) => partial)) return null;
  for (const { target, targetWhere } of tree.conflicts) {
    if (target.length === 0 || targetWhere) continue;
    const columns = target.map((one) =>
      one.kind === "column" ? foldName(one.path[one.path.length - 1], dialect) : null,
    );
    if (!columns.every((one) => table.columns.some(({ name }) => name === one))) continue;
    const isKey = keys.some(
      (key) =>
        key.columns.every((one) => columns.includes(one)) && columns.every((one) => key.columns.includes(one ?? "")),
    );
    if (isKey) continue;
    const named = columns.map((one) => `\`${one}\``).join(", ");
    return {
      weight: "stop",
      refused: true,
      message: `${named} ${columns.length === 1 ? "is" : "are together"} no key of \`${table.name}\`, so the engine refuses this.`,
      because: [
        keys.length === 0
          ? `\`${table.name}\` has no key`
          : `its keys are ${keys.map((key) => `(${key.columns.join(", ")})`).join(", ")}`,
      ],
      remedy: "Name the columns of the key that is meant.",
    };
  }
  return null;
}

function columnDraft(binding: Binding, context: HazardContext): Draft | null {
  const { node, relation, reason } = binding;
  const column = node.path[node.path.length - 1].text;
  const jet = context.dialect.engine.promptsForNames;
  // In code a name may be a variable or an argument; what SET assigns is a column in any case.
  if (context.inCode && relation === null && !isAssigned(node, context.tree)) return null;
  // A parameter that the statement declares (jet).
  if (context.tree.parameters?.some((one) => one.text.toLowerCase() === column.toLowerCase())) return null;
  if (reason === "relation") {
    if (context.inCode) return null;
    const qualifier = node.path[node.path.length - 2].text;
    const aliases = binding.scope.relations.map((one) => one.name).filter((name) => name !== "");
    return {
      weight: jet ? "ask" : "stop",
      refused: !jet,
      message: `\`${context.show(node)}\`: nothing in this statement is called \`${qualifier}\`.`,
      because: [aliases.length > 0 ? `it knows ${listed(aliases)}` : "it names no table here"],
      remedy:
        aliases.length === 1
          ? `Write \`${aliases[0]}.${column}\` if that table is meant.`
          : "Name the table or the alias that is meant.",
    };
  }
  const offered = (relation ? [relation] : binding.scope.relations).flatMap(
    (one) => one.columns?.map(({ name }) => name) ?? [],
  );
  const folded = foldName(node.path[node.path.length - 1], context.dialect);
  const perhapsIn = relation ? [relation] : binding.scope.relations;
  if (perhapsIn.some(({ table }) => table && context.catalog?.mayHave(tableKey(table.schema, table.name), folded)))
    return null;
  const near = nearest(column, offered);
  // A question in the filter is told of as one (`open-placeholder`), unless it looks like a slip of the pen.
  const filters = context.changes.flatMap(({ change }) => change.conditions);
  if (jet && near === null && filters.some(({ expr }) => within(node, expr))) return null;
  const where = relation
    ? `\`${relation.name}\` has no column \`${column}\``
    : `no table of this statement has a column \`${column}\``;
  const last = node.path[node.path.length - 1];
  const spelled = context.slice(last.start, last.end);
  // Quotes stay as they are written; a name that needs them is not put in bare.
  const bare = spelled === column && near !== null && /^[a-z_][a-z0-9_]*$/i.test(near);
  // SQL that is put together while it runs may have added it.
  const perhaps = !jet && near === null && (context.catalog?.unsettled ?? false);
  return {
    ...(bare && near ? { fix: { title: `Write ${near}`, edits: [{ ...context.region(last), text: near }] } } : {}),
    weight: jet || perhaps ? "ask" : "stop",
    refused: !jet && !perhaps,
    message: jet
      ? `${capital(where)}, so whoever runs this is asked for it.`
      : perhaps
        ? `${capital(where)}; unless SQL that this script puts together has added it, the engine refuses this.`
        : `${capital(where)}, so the engine refuses this.`,
    because: offered.length > 0 && offered.length <= 30 ? [`the columns in sight are ${offered.join(", ")}`] : [],
    remedy: near === null ? "Write the column that is meant." : `Did you mean \`${near}\`?`,
  };
}

/** Whether a reference stands on the left side of an assignment; SET ROW = record (plsql) names no column. */
function isAssigned(node: Binding["node"], tree: HazardContext["tree"]): boolean {
  const lists =
    tree.kind === "update"
      ? [tree.assignments]
      : tree.kind === "merge"
        ? tree.whens.map(({ assignments }) => assignments)
        : [];
  return (
    node.path.length === 1 &&
    node.path[0].text.toLowerCase() !== "row" &&
    lists.some((list) => list.some(({ targets }) => targets.includes(node)))
  );
}

function nearestTable(name: string, { catalog, known }: HazardContext): string | null {
  if (!known || !catalog || name.length < 4) return null;
  const wanted = name.toLowerCase();
  for (const table of catalog.tables())
    if (Math.abs(table.name.length - name.length) <= 1 && distance(wanted, table.name.toLowerCase()) === 1)
      return table.name;
  return null;
}
