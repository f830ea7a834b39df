import { conjuncts } from "../../analysis/changes/reach.ts";
import { plainColumn } from "../../analysis/conditions/constants.ts";
import type { Binding } from "../../analysis/names/resolution.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnNamed } from "../../catalog/columns.ts";
import type { Expr, Query } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * A column of a subquery that its tables do not have, and that quietly means the outer table's.
 *
 * @example
 * DELETE FROM mooring WHERE vessel_id IN (SELECT vessel_id FROM owner);   -- owner has no vessel_id
 */
export const outerSlip: Hazard = {
  id: "outer-slip",
  family: "rows",
  subsumes: ["no-way-back"],
  weight: "stop",
  depends: ["names"],
  needs: Trait.query,
  title: "A subquery's column that slips to the outer table",
  explanation:
    "A column without an alias is looked for in the subquery first and, when no table there has it, in the query around it. " +
    "So a wrong column in a subquery is no error: it compares the outer row with itself, and the filter accepts every row. " +
    "The other way round a name that was meant for the outer row is taken by a column of the subquery's own table.",
  remedy: "Put the alias of the subquery's table in front of its columns; then a wrong one is refused.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, left_on date);\nCREATE TABLE mooring (mooring_id integer PRIMARY KEY, vessel_id integer NOT NULL);\nCREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer);",
    dangerous: "DELETE FROM mooring WHERE vessel_id IN (SELECT vessel_id FROM owner WHERE left_on IS NOT NULL);",
    sound:
      "DELETE FROM mooring WHERE vessel_id IN (SELECT v.vessel_id FROM vessel v JOIN owner o ON o.owner_id = v.owner_id WHERE o.left_on IS NOT NULL);",
  },
  check(context) {
    const { names, found } = context;
    if (!names) return [];
    const drafts: Draft[] = [];
    for (const node of found.memberships) {
      const draft = node.query && selected(node.operand, node.query, context);
      if (draft) drafts.push(draft);
    }
    for (const node of found.quantified) {
      const draft = node.query && selected(node.left, node.query, context);
      if (draft) drafts.push(draft);
    }
    // Only inside a subquery can a name slip.
    if (found.queries.length > 0) {
      for (const node of found.comparisons) {
        const draft = node.op === "=" || node.op === "<=>" ? compared(node.left, node.right, node, context) : null;
        if (draft) drafts.push(draft);
      }
      for (const query of found.queries) {
        const draft = caught(query, context);
        if (draft) drafts.push(draft);
      }
    }
    return drafts;
  },
};

/** `WHERE boat_id = id` in a subquery whose table has an `id` of its own: the outer one was meant, and nothing ties the two. */
function caught(query: Query, context: HazardContext): Draft | null {
  const { names, changes, show } = context;
  const { body } = query;
  const change = changes[0]?.change;
  // A filter that keeps all rows or none has a name of its own.
  const hollow = changes.flatMap(({ result }) => (result.filter === "hollow" ? result.reasons : []));
  if (hollow.some(({ expr }) => expr.kind === "exists" && expr.query === query)) return null;
  if (!names || !change || body.kind !== "select" || !body.where || body.from.length === 0) return null;
  const scope = names.scopes.get(body);
  if (!change.table || scope?.relations.some(({ columns }) => columns === null)) return alike(query, context);
  if (!scope || change.names.correlated(query)) return null;
  for (const part of conjuncts(body.where)) {
    if (part.kind !== "binary" || part.op !== "=") continue;
    const sides = [part.left, part.right].map((side) => {
      const ref = plainColumn(side);
      return ref ? names.bindings.get(ref) : undefined;
    });
    const [a, b] = sides;
    if (!a?.relation || a.relation !== b?.relation || !scope.relations.includes(a.relation)) continue;
    // The target itself may be compared column by column.
    if (a.relation.table === change.table) continue;
    const taken = sides.find(
      (one) => one?.node.path.length === 1 && columnNamed(change.table, one.offered?.name ?? ""),
    );
    const own = taken?.offered?.name;
    if (own === undefined) continue;
    const outer = change.relation?.name ?? change.table.name;
    return {
      message: `\`${show(part)}\` compares two columns of \`${a.relation.name}\`: \`${own}\` is its own there, not that of \`${outer}\`, and nothing ties the subquery to the row.`,
      because: [
        `\`${a.relation.name}\` has a column \`${own}\`, and a name without an alias is looked for in the subquery first`,
        `so the subquery gives the same for every row of \`${outer}\``,
      ],
      remedy: `Put the alias in front: ${outer}.${own}`,
    };
  }
  return null;
}

/**
 * `WHERE s.customer_no = customer_no` in a subquery on `s`: the table has the column, as the alias in front says, so the bare name is
 * its own as well, and the comparison is one with itself.
 */
function alike({ body }: Query, { names, changes, show }: HazardContext): Draft | null {
  if (body.kind !== "select" || !body.where) return null;
  const scope = names?.scopes.get(body);
  const [relation, ...others] = scope?.relations ?? [];
  if (!relation || others.length > 0) return null;
  for (const part of conjuncts(body.where)) {
    if (part.kind !== "binary" || part.op !== "=") continue;
    const refs = [plainColumn(part.left), plainColumn(part.right)];
    const bare = refs.find((ref) => ref?.path.length === 1);
    const named = refs.find((ref) => ref?.path.length === 2);
    if (!bare || !named || named.path[0].text.toLowerCase() !== relation.name.toLowerCase()) continue;
    if (bare.path[0].text.toLowerCase() !== named.path[1].text.toLowerCase()) continue;
    const source = changes[0]?.change.relation?.source;
    const outer = (source?.kind === "table" ? source.alias?.text : null) ?? changes[0]?.target ?? "";
    const inner = named.path[0].text;
    return {
      message: `\`${show(part)}\` compares \`${inner}\` with itself: the bare name is looked for in the subquery first, and does not mean \`${outer}\`.`,
      because: [
        `\`${show(named)}\` says that \`${inner}\` has the column`,
        "nothing else ties the subquery to the row",
      ],
      remedy: `Put the alias in front: ${outer}.${show(bare)}`,
    };
  }
  return null;
}

/** A reference without an alias that was found outside its own query. */
function slipped(expr: Expr, { names }: HazardContext): Binding | null {
  const ref = plainColumn(expr);
  const binding = ref ? names?.bindings.get(ref) : undefined;
  if (!binding || binding.level === 0 || binding.node.path.length > 1) return null;
  const { relations } = binding.scope;
  // What all tables of the subquery lack is the outer one's, whether that is known or not.
  const lacked = binding.status === "undecided" && relations.every(({ columns }) => columns !== null);
  return relations.length > 0 && (binding.status === "bound" || lacked) ? binding : null;
}

/** The name of the table that a slipped column means. */
function outerName({ relation, scope }: Binding): string {
  return relation?.name ?? scope.outer?.relations[0]?.name ?? "";
}

/** `x IN (SELECT x FROM other)` where `other` has no `x`. */
function selected(operand: Expr, query: Query, context: HazardContext): Draft | null {
  const { body } = query;
  if (body.kind !== "select" || body.items.length !== 1) return null;
  const binding = slipped(body.items[0].expr, context);
  if (!binding) return null;
  const column = context.show(binding.node);
  const inner = binding.scope.relations.map((one) => one.name).join(", ");
  const outer = outerName(binding);
  const changes = context.changes.length > 0 || context.tree.kind === "insert" || context.tree.kind === "merge";
  const asked = plainColumn(operand);
  const own = asked ? context.names?.bindings.get(asked) : undefined;
  const named =
    binding.offered === null && asked?.path[asked.path.length - 1].text.toLowerCase() === column.toLowerCase();
  const same = asked !== null && (binding.offered === null ? named : own?.offered === binding.offered);
  const whole = context.changes.some(({ result }) => result.filter === "hollow");
  const then = !same
    ? "the row is compared with itself, and not with the other table"
    : whole
      ? "the filter accepts every row, or none if the subquery finds nothing"
      : "this condition is met by every row, or by none if the subquery finds nothing";
  return {
    weight: changes ? "stop" : "ask",
    message: `\`${column}\` is no column of \`${inner}\`, so the subquery gives back the outer row's own \`${outer}.${column}\` and ${then}.`,
    because: [
      `\`${context.show(query)}\`: \`${inner}\` has no column \`${column}\``,
      `it therefore means \`${outer}.${column}\`${same ? `, and \`${context.show(operand)}\` is always found in it` : ""}`,
    ],
    remedy: `Select the column of \`${inner}\` that is meant, with its alias in front of it.`,
  };
}

/** `WHERE id = id` in a subquery whose tables have no `id`: the outer row compared with itself. */
function compared(left: Expr, right: Expr, node: Expr, context: HazardContext): Draft | null {
  const a = slipped(left, context);
  const b = slipped(right, context);
  if (!a || !b || a.relation !== b.relation || a.offered?.name !== b.offered?.name) return null;
  if (a.offered === null && a.node.path[0].text.toLowerCase() !== b.node.path[0].text.toLowerCase()) return null;
  const outer = outerName(a);
  return {
    message: `\`${context.show(node)}\` compares \`${outer}\` with itself, so the subquery has no tie to its own table.`,
    because: [`no table of the subquery has a column \`${context.show(a.node)}\`, so both sides mean the outer one`],
    remedy: "Put the aliases in front of both columns.",
  };
}
