import type { Call, ColumnRef, Expr, Node } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";

const CLOCK = new Set(
  "now current_date current_time current_timestamp localtimestamp localtime getdate getutcdate sysdate sysdatetime systimestamp curdate curtime clock_timestamp statement_timestamp transaction_timestamp timeofday utc_timestamp utc_date utc_time unix_timestamp date time".split(
    " ",
  ),
);
const CHANCE = new Set(
  "rand random newid newsequentialid uuid uuid_short gen_random_uuid uuid_generate_v4 randomblob rnd setseed sys_guid dbms_random.value dbms_random.string".split(
    " ",
  ),
);
/** Functions that take a value apart when they are given one. */
const PARTS = new Set(["date", "time"]);

/** A value that is another one at every run. */
export interface Moving {
  node: Expr;
  chance: boolean;
}

/** Whether a call is one of a clock or of chance; null: neither. */
export function movingCall(node: Call): Moving | null {
  if (node.args.length > 1) return null;
  const { parts } = node.name;
  const name = (parts.length === 1 ? parts[0].text : parts.map((one) => one.text).join(".")).toLowerCase();
  if (CHANCE.has(name) || CHANCE.has(parts[parts.length - 1].text.toLowerCase())) return { node, chance: true };
  return CLOCK.has(name) && (node.args.length === 0 || !PARTS.has(name)) ? { node, chance: false } : null;
}

/** Whether a bare name is the call of a clock without parentheses, unless a table offers a column of that name. */
export function movingName(node: ColumnRef, offered: (node: ColumnRef) => boolean): Moving | null {
  if (node.path.length !== 1) return null;
  const name = node.path[0].text.toLowerCase();
  return CLOCK.has(name) && !PARTS.has(name) && !offered(node) ? { node, chance: false } : null;
}

/** Whether a value is what a clock says, and nothing else. */
export function isClock(value: Expr): boolean {
  const found =
    value.kind === "call" ? movingCall(value) : value.kind === "column" ? movingName(value, () => false) : null;
  return found !== null && !found.chance;
}

/** The clocks and the chance below a node. */
export function movingIn(tree: Node, offered: (node: ColumnRef) => boolean): Moving[] {
  const list: Moving[] = [];
  walk(tree, (node) => {
    const found = node.kind === "call" ? movingCall(node) : node.kind === "column" ? movingName(node, offered) : null;
    if (found) list.push(found);
  });
  return list;
}
