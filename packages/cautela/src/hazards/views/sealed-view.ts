import { mustBeGiven } from "../../analysis/changes/required.ts";
import type { RowChange } from "../../analysis/changes/row-change.ts";
import { joinTreeOf } from "../../analysis/conditions/join-tree.ts";
import { linksOf, uniqueOn } from "../../analysis/conditions/links.ts";
import type { BoundRelation } from "../../analysis/names/resolution.ts";
import type { FiredRipple } from "../../analysis/ripples/ripple.ts";
import type { Refusals, WriteAction } from "../../analysis/views/refusals.ts";
import { readShape, type ViewShape } from "../../analysis/views/shape.ts";
import { knownUpdatability, type Updatability } from "../../analysis/views/updatability.ts";
import type { Catalog } from "../../catalog/catalog.ts";
import { shownName, type Table, type View } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { viewQuery } from "../../catalog/parsed-code.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { refusals } from "../../sql/dialects/views.ts";
import type { Query, Source, Statement, With } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A write through a view, or another query, that the engine refuses.
 *
 * @example
 * UPDATE berth_occupancy SET moorings = 0 WHERE berth_id = 3;   -- GROUP BY makes one row of several
 */
export const sealedView: Hazard = {
  id: "sealed-view",
  family: "views",
  weight: "stop",
  depends: ["names"],
  statements: ["insert", "update", "delete", "merge", "copy", "truncate", "select"],
  title: "A view that cannot be written",
  explanation:
    "Whether rows can be changed through a view depends on its query and on the engine: grouped, counted or distinct rows, UNION, LIMIT and joins are " +
    "refused by some or all of them, and SQLite writes through no view without an INSTEAD OF trigger. The engine's own reason is given. The same holds for " +
    "a join or a grouped query that stands where the table would stand.",
  remedy: "Write the base table, with the view's filter, or give the view an INSTEAD OF trigger.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE mooring (mooring_id integer PRIMARY KEY, berth_id integer NOT NULL, fee numeric(10,2) NOT NULL);
CREATE VIEW berth_fees AS SELECT berth_id, sum(fee) AS fees FROM mooring GROUP BY berth_id;
CREATE VIEW cheap_mooring AS SELECT mooring_id, fee FROM mooring WHERE fee < 10;`,
    dangerous: "UPDATE berth_fees SET fees = 0 WHERE berth_id = 3;",
    sound: "UPDATE cheap_mooring SET fee = 0 WHERE mooring_id = 3;",
  },
  check(context) {
    const { tree, catalog, dialect, ripples } = context;
    if (!catalog) return [];
    const drafts: Draft[] = [];
    const said = new Set<View>();
    for (const fired of ripples) {
      const { firing } = fired;
      if (
        firing.relation?.object !== "view" ||
        knownUpdatability(firing.relation, catalog, dialect).reason[writeAction(firing)] === null
      )
        drafts.push(...ruledDrafts(fired));
      if (firing.relation?.object !== "view" || firing.replaced || said.has(firing.relation)) continue;
      const draft = viewDraft(firing, firing.relation, knownUpdatability(firing.relation, catalog, dialect), context);
      if (!draft) continue;
      said.add(firing.relation);
      drafts.push(draft);
    }
    if (dialect.engine.writableJoins && tree.kind === "update") drafts.push(...joinedQueries(tree, catalog, context));
    if (dialect.engine.desktopRules && tree.kind === "delete") drafts.push(...oneSide(tree, context));
    const query = writtenQuery(tree, context);
    if (query) {
      const shape = readShape(query.query, null, catalog, dialect);
      const action: WriteAction = tree.kind === "delete" ? "delete" : "update";
      const answer = dialect.engine.queryTargets ? refusals(PRETENDED, shape, dialect) : null;
      const reason =
        answer?.[action] ?? (answer && tree.kind === "update" ? sealedIn(tree, shape, answer, dialect) : null);
      if (reason)
        drafts.push({
          message: `The query that stands where the table should be cannot be written: ${reason}.`,
          refused: true,
          because: [reason],
          remedy: "Name the table that is to change, and let the query filter it (WHERE … IN, EXISTS).",
        });
    }
    return drafts;
  },
};

/** Why a column that an UPDATE writes through a joined query cannot be written; null: all can. */
function sealedIn(
  { assignments }: Extract<Statement, { kind: "update" }>,
  { columns }: ViewShape,
  { sealedSources }: Refusals,
  dialect: Dialect,
): string | null {
  for (const target of assignments.flatMap(({ targets }) => targets)) {
    if (target.kind !== "column") continue;
    const name = foldName(target.path[target.path.length - 1], dialect);
    const from = columns.find((one) => one.name === name)?.from;
    const why = from ? sealedSources.get(from.source) : undefined;
    if (why !== undefined) return why;
  }
  return null;
}

/** A query without a name, as a view. */
const PRETENDED = {
  object: "view",
  materialized: false,
  checkOption: null,
  algorithm: null,
  readOnly: false,
} as View;

function writeAction({ action }: RowChange): WriteAction {
  return action === "truncate" ? "delete" : action;
}

/** What the engine refuses for the rules of the relation itself, or of what lies below a view. */
function ruledDrafts({ firing, ripple }: FiredRipple): Draft[] {
  const direct = new Set([0]);
  for (const { from, to, how } of ripple.edges) if (how === "view" && direct.has(from)) direct.add(to);
  return ripple.notes
    .filter(({ kind, node }) => kind === "sealed" && direct.has(node))
    .map(({ name, text }) => ({
      message: `The engine refuses this change of \`${firing.relation ? shownName(firing.relation) : name}\`: ${text}.`,
      refused: true,
      because: [text],
      remedy:
        firing.action !== "truncate"
          ? "Write the change as a statement of its own, without MERGE, WITH and RETURNING."
          : "Leave ONLY out.",
    }));
}

function viewDraft(firing: RowChange, view: View, found: Updatability, { dialect }: HazardContext): Draft | null {
  if (!found.known) return null;
  const action = writeAction(firing);
  const shown = shownName(view);
  const taken = firing.manner.beside && found.alone && action === "update";
  const reason = firing.action === "truncate" ? "TRUNCATE takes tables only" : taken ? null : found.reason[action];
  if (reason) {
    const bases = found.bases.map(shownName);
    return {
      message: `The engine refuses to ${action} rows of \`${shown}\`: ${reason}.`,
      refused: true,
      because: [`\`${shown}\` is a view`, reason, ...found.hides.map((text) => `it shows rows where ${text}`)],
      remedy:
        bases.length > 0
          ? `Write ${bases.length === 1 ? `the table \`${bases[0]}\`` : `one of the tables ${listed(bases)}`}${found.hides.length > 0 ? " with the view's filter" : ""}, or give the view an INSTEAD OF trigger.`
          : "Write the table behind it, or give the view an INSTEAD OF trigger.",
    };
  }
  if (found.through[action] !== "view" && !taken) return null;
  const written = firing.columns ?? (action === "insert" ? found.columns.map(({ name }) => name) : []);
  const tables = new Set<Table>();
  const places = new Set<string>();
  for (const name of written) {
    const column = found.columns.find((one) => one.name === name);
    if (!column?.base) continue;
    tables.add(column.base.table);
    places.add(column.place);
  }
  if (found.joined && places.size > 1 && !dialect.engine.writesBothSides) {
    return {
      message: `The engine refuses this: it writes ${tables.size > 1 ? listed([...tables].map(shownName)) : `\`${[...tables].map(shownName)}\`, joined with itself,`} at once through \`${shown}\`.`,
      refused: true,
      because: [`\`${shown}\` joins several tables`, `${dialect.title} writes one of them with one statement`],
      remedy: "Write one statement for each table.",
    };
  }
  if (action !== "insert") return null;
  // What the view does not show cannot be given a value through it.
  const [table] = tables;
  if (!table) return null;
  const given = new Set(
    found.columns
      .filter(({ name }) => written.includes(name))
      .map(({ base }) => (base?.table === table ? base.column : "")),
  );
  const lacking = table.columns.filter((column) => !given.has(column.name) && mustBeGiven(column, table, dialect));
  if (lacking.length === 0 || table.partial) return null;
  return {
    message: `The engine refuses this: \`${shownName(table)}\` needs ${listed(lacking.map(({ name }) => name))}, which this INSERT through \`${shown}\` does not give.`,
    refused: true,
    because: [
      `${listed(lacking.map(({ name }) => name))} must not be NULL and ${lacking.length === 1 ? "has" : "have"} no default`,
    ],
    remedy: `Insert into \`${shownName(table)}\` itself.`,
  };
}

/**
 * Rows of the one side of a join: several rows of it show each, so they are deleted only where DISTINCTROW makes them single
 * (support.microsoft.com, "3086": could not delete from specified tables).
 */
function oneSide(tree: Extract<Statement, { kind: "delete" }>, { names, changes, show }: HazardContext): Draft[] {
  const [judged] = changes;
  if (tree.distinctRows || !names || !judged || changes.length > 1) return [];
  const level = joinTreeOf(tree, names, judged.change.relation?.source ?? null);
  const target = level?.target;
  if (!level || !target || level.joins.length !== 1) return [];
  const columns = new Map<BoundRelation, Set<string>>();
  for (const { left, leftColumn, right, rightColumn } of linksOf(level.conditions, names, level.scope).equal) {
    columns.set(left, (columns.get(left) ?? new Set()).add(leftColumn));
    columns.set(right, (columns.get(right) ?? new Set()).add(rightColumn));
  }
  const other = level.scope.relations.find((one) => one !== target);
  const mine = columns.get(target);
  const theirs = other && columns.get(other);
  if (!mine || !theirs || uniqueOn(target, mine) !== true || uniqueOn(other, theirs) !== false) return [];
  return [
    {
      message: `Several rows of \`${other.name}\` may show one row of \`${target.name}\`, so the engine does not delete it from this join.`,
      refused: true,
      because: [`\`${target.name}\` is the one side of the join, and DISTINCTROW is not given`],
      remedy: `Write DELETE DISTINCTROW, or filter \`${show(judged.change.name)}\` with WHERE … IN (SELECT …).`,
    },
  ];
}

/** An UPDATE that joins a query which cannot be written, or reads one in SET: Jet refuses both (support.microsoft.com, "3073"). */
function joinedQueries(
  { target, assignments }: Extract<Statement, { kind: "update" }>,
  catalog: Catalog,
  { dialect, show }: HazardContext,
): Draft[] {
  const drafts: Draft[] = [];
  const refused = (what: string, reason: string): void => {
    drafts.push({
      message: `${what}: the engine refuses this UPDATE.`,
      refused: true,
      because: [reason],
      remedy: "Write the values into a table first, and join that; or use DLookup or DSum for single values.",
    });
  };
  const look = (source: Source): void => {
    if (source.kind === "joined") {
      look(source.first);
      for (const { source: joined } of source.joins) look(joined);
      return;
    }
    const view = source.kind === "table" ? catalog.resolveRelation(source.name) : undefined;
    const query =
      source.kind === "derived" && source.query.kind === "query"
        ? source.query
        : view?.object === "view"
          ? (viewQuery(view, dialect.id)?.tree ?? null)
          : null;
    if (!query) return;
    const reason = refusals(PRETENDED, readShape(query, null, catalog, dialect), dialect).update;
    if (reason)
      refused(
        `It joins a query that cannot be written (${reason})`,
        "every joined table must be one that can be written itself",
      );
  };
  if (target.length === 1 && target[0].kind === "joined") look(target[0]);
  for (const { value } of assignments)
    if (value.kind === "subquery") {
      refused(`SET reads \`${show(value)}\``, "SET takes no subquery here");
      break;
    }
  return drafts;
}

/** The query that stands where the changed table should be: a derived table, or a common table expression. */
function writtenQuery(tree: Statement, { dialect }: HazardContext): { query: Query } | null {
  const target =
    tree.kind === "update"
      ? (tree.target[0] ?? null)
      : tree.kind === "delete" && tree.named.length === 0
        ? (tree.from[0] ?? null)
        : null;
  if (!target || (tree.kind === "update" && tree.target.length > 1)) return null;
  if (target.kind === "derived" && target.query.kind === "query") return { query: target.query };
  if (!dialect.engine.targetThroughFrom || target.kind !== "table" || target.name.parts.length > 1) return null;
  const common = commonTable(target, "with" in tree ? tree.with : null);
  return common ? { query: common } : null;
}

function commonTable(target: Extract<Source, { kind: "table" }>, clause: With | null): Query | null {
  const wanted = target.name.parts[0].text.toLowerCase();
  const found = clause?.tables.find(({ name }) => name.text.toLowerCase() === wanted);
  return found?.body.kind === "query" ? found.body : null;
}
