import type {
  Assignment,
  Expr,
  Join,
  Limit,
  Node,
  OrderItem,
  Query,
  Returning,
  SelectItem,
  Source,
  Statement,
  With,
} from "./tree.ts";

/** Takes each node that lies directly below another one. */
export type Take = (child: Node) => void;

function exprs(list: readonly Expr[] | null | undefined, take: Take): void {
  if (list) for (const one of list) take(one);
}

function maybe(node: Node | null | undefined, take: Take): void {
  if (node) take(node);
}

function items(list: readonly SelectItem[], take: Take): void {
  for (const item of list) take(item.expr);
}

function orders(list: readonly OrderItem[] | null, take: Take): void {
  if (list) for (const item of list) take(item.expr);
}

function limits(limit: Limit | null, take: Take): void {
  if (!limit) return;
  maybe(limit.count, take);
  maybe(limit.offset, take);
}

function withs(clause: With | null, take: Take): void {
  if (clause) for (const table of clause.tables) take(table.body);
}

function joins(list: readonly Join[], take: Take): void {
  for (const join of list) {
    take(join.source);
    maybe(join.on, take);
  }
}

function assigned(list: readonly Assignment[], take: Take): void {
  for (const assignment of list) {
    exprs(assignment.targets, take);
    take(assignment.value);
  }
}

function returned(clause: Returning | null, take: Take): void {
  if (clause) items(clause.items, take);
}

/**
 * Hands every direct child of a node to `take`, in the order of the source as far as it matters. It is long because it is
 * the one list of what each kind of node holds.
 */
export function children(node: Node, take: Take): void {
  switch (node.kind) {
    case "column":
    case "star":
    case "literal":
    case "placeholder":
    case "variable":
    case "opaque":
    case "table":
    case "table-query":
    case "directive":
    case "unread":
    case "transaction":
    case "drop":
    case "create-synonym":
    case "comment":
    case "alter-trigger":
    case "rename":
    case "setting":
      return;
    case "call":
      exprs(node.args, take);
      orders(node.orderBy, take);
      maybe(node.filter, take);
      return;
    case "binary":
      take(node.left);
      take(node.right);
      return;
    case "logic":
    case "row":
      exprs(node.items, take);
      return;
    case "unary":
      take(node.operand);
      return;
    case "is":
      take(node.operand);
      maybe(node.right, take);
      return;
    case "in":
      take(node.operand);
      exprs(node.items, take);
      maybe(node.query, take);
      return;
    case "between":
      take(node.operand);
      take(node.low);
      take(node.high);
      return;
    case "like":
      take(node.operand);
      take(node.pattern);
      maybe(node.escape, take);
      return;
    case "case":
      maybe(node.operand, take);
      for (const { when, result } of node.whens) {
        take(when);
        take(result);
      }
      maybe(node.otherwise, take);
      return;
    case "cast":
      take(node.operand);
      return;
    case "subquery":
    case "exists":
      take(node.query);
      return;
    case "quantified":
      take(node.left);
      maybe(node.query, take);
      maybe(node.operand, take);
      return;
    case "compound":
      exprs(node.operands, take);
      return;
    case "query":
      withs(node.with, take);
      take(node.body);
      orders(node.orderBy, take);
      limits(node.limit, take);
      return;
    case "select":
      // A select as a statement holds a query; as a query's body it holds the clauses.
      if ("query" in node) {
        take(node.query);
        return;
      }
      items(node.items, take);
      for (const source of node.from) take(source);
      maybe(node.where, take);
      exprs(node.groupBy, take);
      maybe(node.having, take);
      maybe(node.connectBy, take);
      maybe(node.qualify, take);
      limits(node.top, take);
      return;
    case "compounded":
      take(node.first);
      for (const { body } of node.rest) take(body);
      return;
    case "values":
      for (const row of node.rows) exprs(row, take);
      return;
    case "derived":
      take(node.query);
      return;
    case "function":
      take(node.call);
      return;
    case "joined":
      take(node.first);
      joins(node.joins, take);
      return;
    case "opaque-source":
      maybe(node.inner, take);
      return;
    default:
      statementChildren(node, take);
  }
}

/** The same for statements. */
function statementChildren(node: Exclude<Statement, { kind: "select" }>, take: Take): void {
  switch (node.kind) {
    case "insert":
      withs(node.with, take);
      take(node.target);
      maybe(node.source, take);
      if (node.set) assigned(node.set, take);
      for (const conflict of node.conflicts) {
        assigned(conflict.assignments, take);
        maybe(conflict.where, take);
      }
      maybe(node.exec, take);
      returned(node.returning, take);
      return;
    case "multi-insert":
      for (const branch of node.branches) {
        maybe(branch.when, take);
        take(branch.target);
        exprs(branch.values, take);
      }
      take(node.source);
      return;
    case "update":
      withs(node.with, take);
      for (const source of node.target) take(source);
      assigned(node.assignments, take);
      for (const source of node.from) take(source);
      maybe(node.where, take);
      limits(node.limit, take);
      returned(node.returning, take);
      return;
    case "delete":
      withs(node.with, take);
      for (const source of node.from) take(source);
      for (const source of node.using) take(source);
      maybe(node.where, take);
      limits(node.limit, take);
      returned(node.returning, take);
      return;
    case "merge":
      withs(node.with, take);
      take(node.target);
      take(node.source);
      take(node.on);
      for (const when of node.whens) {
        maybe(when.condition, take);
        assigned(when.assignments, take);
        exprs(when.values, take);
        maybe(when.where, take);
        maybe(when.deleteWhere, take);
      }
      returned(node.returning, take);
      return;
    case "truncate":
      for (const target of node.targets) take(target);
      return;
    case "create-table":
    case "create-view":
    case "copy":
      maybe(node.query, take);
      return;
    case "block":
      for (const one of node.declarations) take(one);
      for (const one of node.body) take(one);
      for (const handler of node.handlers) for (const one of handler.body) take(one);
      return;
    case "if":
      for (const { condition, body } of node.branches) {
        maybe(condition, take);
        for (const one of body) take(one);
      }
      return;
    case "loop":
      maybe(node.condition, take);
      maybe(node.query, take);
      for (const one of node.body) take(one);
      return;
    case "assign":
      assigned(node.assignments, take);
      return;
    case "declare":
      maybe(node.value, take);
      maybe(node.query, take);
      maybe(node.handler, take);
      return;
    case "set-counter":
      maybe(node.value, take);
      return;
    case "call-statement":
      exprs(node.args, take);
      return;
    case "dynamic":
      maybe(node.text, take);
      for (const one of node.body ?? []) take(one);
      return;
    case "create-rule":
      maybe(node.where, take);
      for (const one of node.body) take(one);
      return;
    case "create-schema":
      for (const one of node.elements) take(one);
      return;
    case "create-type":
      exprs(node.checks, take);
      return;
    case "create-routine":
      maybe(node.trigger?.when, take);
      for (const one of node.body ?? []) take(one);
      return;
    default:
  }
}

/** Deeper than this the walk keeps its own stack instead of the engine's. */
const DEEP = 400;

/**
 * Visits a node and everything below it, depth first, in the order of the source; however deep it is nested.
 * Return false to skip what lies below.
 */
export function walk(root: Node, visit: (node: Node) => boolean | undefined): void {
  let depth = 0;
  const down: Take = (node) => {
    if (visit(node) === false) return;
    if (depth === DEEP) {
      walkDeep(node, visit);
      return;
    }
    depth++;
    children(node, down);
    depth--;
  };
  down(root);
}

/** What lies below a node, without recursion. */
function walkDeep(root: Node, visit: (node: Node) => boolean | undefined): void {
  const stack: Node[] = [];
  const below: Node[] = [];
  const take: Take = (child) => {
    below.push(child);
  };
  for (let node: Node | undefined = root; node; node = stack.pop()) {
    if (node !== root && visit(node) === false) continue;
    children(node, take);
    while (below.length > 0) stack.push(below.pop() as Node);
  }
}

/** The query below a node, if it is one that stands inside an expression. */
export function subqueryOf(node: Node): Query | null {
  switch (node.kind) {
    case "subquery":
    case "exists":
      return node.query;
    case "in":
    case "quantified":
      return node.query;
    default:
      return null;
  }
}

/** The plain sources of a FROM clause, joined ones taken apart. */
export function flatSources(list: readonly Source[]): readonly Source[] {
  if (!list.some(({ kind }) => kind === "joined")) return list;
  const flat: Source[] = [];
  for (const source of list) flatten(source, flat);
  return flat;
}

function flatten(source: Source, into: Source[]): void {
  if (source.kind !== "joined") {
    into.push(source);
    return;
  }
  flatten(source.first, into);
  for (const join of source.joins) flatten(join.source, into);
}
