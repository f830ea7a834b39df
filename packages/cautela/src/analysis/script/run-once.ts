import type { Catalog } from "../../catalog/catalog.ts";
import { foldName } from "../../catalog/names.ts";
import { namedRelation, relationKey } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Name, Node, Query, Statement, UpdateStatement } from "../../sql/nodes/tree.ts";
import { flatSources, walk } from "../../sql/nodes/visitor.ts";
import { keyText } from "../changes/references.ts";
import { pinnedConstants, whereParts } from "../conditions/conditions.ts";
import { calledName, constant } from "../conditions/constants.ts";
import { isEnginesOwn } from "../names/missing.ts";
import type { Gate, Step } from "./step.ts";

/** What a condition asks of a table. */
interface Asked {
  key: string;
  shown: string;
  columns: ReadonlySet<string>;
  /** The values that its rows are compared with. */
  pins: readonly string[];
}

/** What a condition asks: tables, and the objects of the database themselves. */
interface Question {
  tables: Asked[];
  structure: boolean;
}

/** Rows that the script writes, which may answer a condition otherwise at the next run. */
interface Written {
  statement: number;
  line: number;
  /** Rows come in. */
  brings: boolean;
  /** The columns that an UPDATE assigns; null: rows come or go. */
  columns: ReadonlySet<string> | null;
  /** The constants of the rows that come; null: not all of them are known. */
  values: ReadonlySet<string> | null;
}

const TABLES = 500;
const KEPT = 64;
const VARIABLES = 500;

/**
 * Whether a script leaves something behind by which a second run of it leaves a statement out.
 *
 * @example
 * // IF NOT EXISTS (SELECT 1 FROM upgrade WHERE name = '4.1') BEGIN UPDATE …; INSERT INTO upgrade (name) VALUES ('4.1') END
 */
export class RunOnce {
  /** Nothing is taken down before a condition has been met: most scripts have none. */
  #armed = false;
  readonly #written = new Map<string, Written[]>();
  /** The gates under which the script has made, altered or dropped something. */
  readonly #structure = new Set<Expr>();
  readonly #questions = new Map<Expr, Question>();
  /** What variables were made from. */
  readonly #variables = new Map<string, Question>();

  /** Takes a statement into account for those that follow. */
  note(step: Step): void {
    const { tree, gates } = step;
    this.#noteVariables(tree, step);
    if (gates.length > 0) {
      this.#armed = true;
      if (/^(?:create-|alter-|drop$|rename$)/.test(tree.kind) && this.#structure.size < TABLES)
        for (const { condition } of gates) this.#structure.add(condition);
    }
    if (tree.kind === "if" || asksInFilter(tree)) this.#armed = true;
    if (this.#armed) this.#noteRows(step);
  }

  /** Why a second run leaves a statement out, or null: nothing is known that would keep it from running again. */
  answered(gates: readonly Gate[], filter: readonly Expr[], at: number, context: Names): string | null {
    for (const gate of gates) {
      if (this.#structure.has(gate.condition) && this.#asked(gate.condition, context).structure)
        return "it runs only where the structure is as it was before";
      const by = this.#answer(gate, context);
      if (by !== null) return by;
    }
    for (const condition of filter) {
      const by = this.#answer({ condition, otherwise: false, asked: at }, context);
      if (by !== null) return by;
    }
    return null;
  }

  #answer({ condition, otherwise, asked }: Gate, context: Names): string | null {
    const wantsRows = isThere(condition) === !otherwise;
    for (const { key, shown, columns, pins } of this.#asked(condition, context).tables) {
      const by = this.#written.get(key)?.find((one) => {
        if (one.statement <= asked) return false;
        if (one.columns !== null) return [...one.columns].some((column) => columns.has(column));
        // Rows that come answer a condition that wants none.
        if (one.brings && isThere(condition) !== null && wantsRows) return false;
        return one.values === null || pins.every((pin) => one.values?.has(pin));
      });
      if (by) return `it asks \`${shown}\` whether it is to run, and line ${by.line} writes that there`;
    }
    return null;
  }

  /** What a condition asks, found once for all the statements under it; asked at the end of the script. */
  #asked(condition: Expr, context: Names): Question {
    const known = this.#questions.get(condition);
    if (known) return known;
    const question = this.#question(condition, context);
    if (this.#questions.size < TABLES) this.#questions.set(condition, question);
    return question;
  }

  #question(condition: Expr, context: Names): Question {
    const question: Question = { tables: [], structure: false };
    walk(condition, (node: Node) => {
      if (node.kind === "query") addAsked(node, context, question);
      else if (node.kind === "call" && STRUCTURE.test(calledName(node))) question.structure = true;
      else {
        const name = variableName(node);
        const known = name === null ? undefined : this.#variables.get(name);
        if (known) {
          question.tables.push(...known.tables);
          question.structure ||= known.structure;
        }
      }
      return undefined;
    });
    return question;
  }

  #noteVariables(tree: Statement, step: Step): void {
    const given: [name: string | null, value: Expr | Query][] = [];
    if (tree.kind === "select") {
      const { body } = tree.query;
      if (body.kind !== "select") return;
      for (const target of [...(body.into?.targets ?? []), ...(tree.query.into?.targets ?? [])])
        given.push([variableName(target), tree.query]);
      for (const { expr } of body.items)
        if (expr.kind === "binary" && expr.op === "=" && expr.left.kind === "variable")
          given.push([variableName(expr.left), body.from.length > 0 ? tree.query : expr.right]);
    } else if (tree.kind === "assign")
      for (const { targets, value } of tree.assignments)
        for (const target of targets) given.push([variableName(target), value]);
    else if (tree.kind === "declare") {
      if (tree.name && tree.value) given.push([tree.name.text.toLowerCase(), tree.value]);
    } else if (tree.kind === "block") for (const one of tree.declarations) this.#noteVariables(one, step);
    for (const [name, value] of given) {
      if (name === null || (this.#variables.size >= VARIABLES && !this.#variables.has(name))) continue;
      const question: Question = { tables: [], structure: false };
      if (value.kind === "query") addAsked(value, step, question);
      else {
        const { tables, structure } = this.#question(value, step);
        question.tables.push(...tables);
        question.structure = structure;
      }
      this.#variables.set(name, question);
    }
  }

  #noteRows({ tree, changes, catalog, dialect, at }: Step): void {
    const put = (name: Name, make: () => Pick<Written, "brings" | "columns" | "values">): void => {
      const key = relationKey(name, catalog, dialect);
      const list = this.#written.get(key) ?? [];
      if (list.length >= KEPT || (list.length === 0 && this.#written.size >= TABLES)) return;
      list.push({ statement: at.statement, line: at.region.line, ...make() });
      this.#written.set(key, list);
    };
    if ((tree.kind === "insert" || tree.kind === "merge") && tree.target.kind === "table")
      put(tree.target.name, () => ({
        brings: true,
        columns: null,
        values: tree.kind === "insert" ? insertedValues(tree) : null,
      }));
    for (const { change } of changes)
      put(change.name, () => ({
        brings: false,
        columns: tree.kind === "update" ? assignedNames(tree, dialect) : null,
        values: null,
      }));
  }
}

/** The columns that an UPDATE assigns, in small letters. */
function assignedNames({ assignments }: UpdateStatement, dialect: Dialect): ReadonlySet<string> {
  const columns = new Set<string>();
  for (const { targets } of assignments)
    for (const target of targets)
      if (target.kind === "column") columns.add(foldName(target.path[target.path.length - 1], dialect).toLowerCase());
  return columns;
}

/** Whether a condition asks for rows (EXISTS, IN), for none (NOT EXISTS, NOT IN), or for something else (null). */
function isThere(condition: Expr): boolean | null {
  if (condition.kind === "exists") return true;
  if (condition.kind === "in") return condition.query === null ? null : !condition.negated;
  if (condition.kind !== "unary" || condition.op !== "not") return null;
  const inner = isThere(condition.operand);
  return inner === null ? null : !inner;
}

interface Names {
  readonly catalog: Catalog | null;
  readonly dialect: Dialect;
}

/** Functions that tell what a database holds: OBJECT_ID, COL_LENGTH, to_regclass. */
const STRUCTURE = /^(?:object_id|col_length|columnproperty|objectproperty|type_id|schema_id|index_col|to_reg\w+)$/i;

function addAsked(query: Query, { catalog, dialect }: Names, into: Question): void {
  const { body } = query;
  if (body.kind !== "select") return;
  const sources = flatSources(body.from).filter((source) => source.kind === "table");
  if (sources.length === 0) return;
  const columns = new Set<string>();
  walk(query, (node) => {
    if (node.kind === "column") columns.add(node.path[node.path.length - 1].text.toLowerCase());
    return undefined;
  });
  const pins = pinnedConstants(whereParts({ where: body.where }), null).flatMap(({ values }) => {
    const only = values.length === 1 ? keyText(values[0]) : null;
    return only === null ? [] : [only];
  });
  for (const source of sources) {
    if (source.kind !== "table") continue;
    if (isEnginesOwn(source, dialect) && !/^[#@]/.test(source.name.parts[source.name.parts.length - 1].text))
      into.structure = true;
    else into.tables.push({ ...namedRelation(source.name, catalog, dialect), columns, pins });
  }
}

function variableName(node: Node): string | null {
  if (node.kind === "variable") return node.name.toLowerCase();
  return node.kind === "column" && node.path.length === 1 ? node.path[0].text.toLowerCase() : null;
}

/** The constants of rows that are written out; null where something else is inserted. */
function insertedValues(tree: Extract<Statement, { kind: "insert" }>): ReadonlySet<string> | null {
  const values = new Set<string>();
  const body = tree.source?.body;
  const rows = tree.set
    ? [tree.set.map(({ value }) => value)]
    : body?.kind === "values" && body.rows.length === body.rowCount
      ? body.rows
      : body?.kind === "select"
        ? [body.items.map(({ expr }) => expr)]
        : null;
  if (rows === null) return null;
  for (const row of rows)
    for (const value of row) {
      const known = constant(value);
      const text = known && known.type !== "null" ? keyText(known) : null;
      if (text !== null) values.add(text);
      else if (value.kind === "variable" || value.kind === "opaque" || value.kind === "star") return null;
    }
  return values;
}

/** Whether the filter of a change asks another table. */
function asksInFilter(tree: Statement): boolean {
  if ((tree.kind !== "update" && tree.kind !== "delete") || !tree.where) return false;
  return whereParts(tree).some(
    (part) =>
      part.kind === "exists" ||
      (part.kind === "unary" && part.operand.kind === "exists") ||
      (part.kind === "in" && part.query !== null) ||
      (part.kind === "binary" && (part.left.kind === "subquery" || part.right.kind === "subquery")),
  );
}
