import { readScript } from "cautela";
import { walk } from "cautela/tools";

interface Client {
  query(text: string): Promise<{ rows: Record<string, unknown>[] }>;
}

/** What a server runs without being named in a query: functions behind operators, casts, types, policies and views. */
export interface Dangers {
  /** Why a query is not run; null: nothing of that kind is in it. */
  in(sql: string): string | null;
}

const OWN = "n.nspname NOT IN ('pg_catalog', 'information_schema')";

/** The function of an object, when it is volatile and not the engine's own. */
const VOLATILE = (oid: string): string =>
  `EXISTS (SELECT 1 FROM pg_catalog.pg_proc p JOIN pg_catalog.pg_namespace n ON n.oid = p.pronamespace WHERE p.oid = ${oid} AND p.provolatile = 'v' AND ${OWN})`;

/** A cast of a type by such a function; a type of the engine counts only where the other one is the engine's too. */
const CAST = (type: string): string =>
  `EXISTS (SELECT 1 FROM pg_catalog.pg_cast k JOIN pg_catalog.pg_type o ON o.oid = CASE k.castsource WHEN ${type}.oid THEN k.casttarget ELSE k.castsource END
     WHERE ${type}.oid IN (k.castsource, k.casttarget) AND ${VOLATILE("k.castfunc")}
       AND (${type}.typnamespace <> 'pg_catalog'::regnamespace OR o.typnamespace = 'pg_catalog'::regnamespace))`;

/**
 * Asks a PostgreSQL server what may run behind a query: `pg_operator`, `pg_cast`, `pg_type`, `pg_policy`, and what views and
 * policies depend on (`pg_depend`). Only volatile functions count: the others promise not to write (its manual, 38.7
 * "Function Volatility Categories").
 */
export async function postgresqlDangers(client: Client): Promise<Dangers> {
  const names = async (sql: string): Promise<string[]> =>
    (await client.query(sql)).rows.map((row) => String(Object.values(row)[0]));
  const operators = await names(
    `SELECT DISTINCT o.oprname FROM pg_catalog.pg_operator o WHERE ${VOLATILE("o.oprcode")} OR ${VOLATILE("o.oprrest")} OR ${VOLATILE("o.oprjoin")}`,
  );
  const types = await names(
    `SELECT DISTINCT t.typname FROM pg_catalog.pg_type t
     WHERE ${VOLATILE("t.typinput")} OR ${VOLATILE("t.typoutput")}
        OR ${CAST("t")}
        OR EXISTS (SELECT 1 FROM pg_catalog.pg_constraint k JOIN pg_catalog.pg_depend d ON d.classid = 'pg_catalog.pg_constraint'::regclass AND d.objid = k.oid AND d.refclassid = 'pg_catalog.pg_proc'::regclass WHERE k.contypid = t.oid AND ${VOLATILE("d.refobjid")})`,
  );
  // Tables whose policies, and views whose queries, depend on such a function or operator, and tables with such a type.
  const relations = await names(
    `SELECT DISTINCT c.relname FROM pg_catalog.pg_policy y JOIN pg_catalog.pg_class c ON c.oid = y.polrelid
     JOIN pg_catalog.pg_depend d ON d.classid = 'pg_catalog.pg_policy'::regclass AND d.objid = y.oid
     WHERE (d.refclassid = 'pg_catalog.pg_proc'::regclass AND ${VOLATILE("d.refobjid")})
        OR (d.refclassid = 'pg_catalog.pg_operator'::regclass AND EXISTS (SELECT 1 FROM pg_catalog.pg_operator o WHERE o.oid = d.refobjid AND ${VOLATILE("o.oprcode")}))
     UNION
     SELECT c.relname FROM pg_catalog.pg_rewrite r JOIN pg_catalog.pg_class c ON c.oid = r.ev_class
     JOIN pg_catalog.pg_depend d ON d.classid = 'pg_catalog.pg_rewrite'::regclass AND d.objid = r.oid
     WHERE (d.refclassid = 'pg_catalog.pg_proc'::regclass AND ${VOLATILE("d.refobjid")})
        OR (d.refclassid = 'pg_catalog.pg_operator'::regclass AND EXISTS (SELECT 1 FROM pg_catalog.pg_operator o WHERE o.oid = d.refobjid AND ${VOLATILE("o.oprcode")}))
     UNION
     SELECT c.relname FROM pg_catalog.pg_class c WHERE c.relkind = 'f'
     UNION
     SELECT c.relname FROM pg_catalog.pg_attribute a JOIN pg_catalog.pg_class c ON c.oid = a.attrelid JOIN pg_catalog.pg_type t ON t.oid = a.atttypid
     WHERE a.attnum > 0 AND (${VOLATILE("t.typinput")} OR ${VOLATILE("t.typoutput")} OR ${CAST("t")})`,
  );
  // A function of the database may be meant by a name of the engine's, when it fits the arguments better.
  const functions = await names(
    `SELECT DISTINCT p.proname FROM pg_catalog.pg_proc p JOIN pg_catalog.pg_namespace n ON n.oid = p.pronamespace WHERE p.provolatile = 'v' AND ${OWN}`,
  );
  // Views stand on views.
  const views = new Map<string, string[]>();
  for (const { view, base } of (
    await client.query(
      `SELECT DISTINCT v.relname AS view, b.relname AS base FROM pg_catalog.pg_rewrite r JOIN pg_catalog.pg_class v ON v.oid = r.ev_class
       JOIN pg_catalog.pg_depend d ON d.classid = 'pg_catalog.pg_rewrite'::regclass AND d.objid = r.oid AND d.refclassid = 'pg_catalog.pg_class'::regclass
       JOIN pg_catalog.pg_class b ON b.oid = d.refobjid JOIN pg_catalog.pg_namespace n ON n.oid = v.relnamespace WHERE ${OWN} AND b.oid <> v.oid`,
    )
  ).rows)
    views.set(String(view), [...(views.get(String(view)) ?? []), String(base)]);
  const dangerous = new Set(relations);
  for (let grown = true; grown; ) {
    grown = false;
    for (const [view, bases] of views)
      if (!dangerous.has(view) && bases.some((one) => dangerous.has(one))) {
        dangerous.add(view);
        grown = true;
      }
  }
  return { in: (sql) => danger(sql, { operators, types, functions, relations: dangerous }) };
}

interface Known {
  operators: readonly string[];
  types: readonly string[];
  functions: readonly string[];
  relations: ReadonlySet<string>;
}

function danger(sql: string, { operators, types, functions, relations }: Known): string | null {
  const tree = readScript(sql, { dialect: "postgresql" }).statements[0]?.tree;
  if (!tree) return null;
  let found: string | null = null;
  // An operator of the database may be meant by any comparison, written or not: IN, BETWEEN, ORDER BY.
  const implied = operators.filter((op) => /^[<>=]+$/.test(op));
  walk(tree, (node) => {
    if (found !== null) return false;
    switch (node.kind) {
      case "binary":
      case "unary":
      case "quantified":
        if (operators.includes(node.op)) found = `the operator ${node.op} is defined in this database, and may write`;
        break;
      case "in":
      case "between":
      case "is":
        if (implied.length > 0) found = `the operator ${implied[0]} is defined in this database, and may write`;
        break;
      case "like":
        if (operators.some((op) => /^!?~~\*?$/.test(op)))
          found = "the operator of LIKE is defined in this database, and may write";
        break;
      case "cast":
        if (types.includes(node.type.name))
          found = `the type ${node.type.name} has functions of its own, which may write`;
        break;
      case "table": {
        const name = node.name.parts[node.name.parts.length - 1].text.toLowerCase();
        if (relations.has(name) || relations.has(node.name.parts[node.name.parts.length - 1].text))
          found = `what reading ${name} runs (a policy, a view, a type) may write`;
        break;
      }
      case "call": {
        const { text } = node.name.parts[node.name.parts.length - 1];
        if (functions.includes(text) || functions.includes(text.toLowerCase()))
          found = `a function ${text} is defined in this database, and may write`;
        break;
      }
      default:
    }
    return undefined;
  });
  return found;
}
