import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr } from "../../sql/nodes/tree.ts";

// Names in statements that are no columns of any table: what every row has, functions without parentheses, words
// that stand where arguments stand.

const BARE_FUNCTIONS = new Set(
  "current_date current_time current_timestamp current_user current_role current_schema current_catalog localtime localtimestamp session_user system_user".split(
    " ",
  ),
);

/** Names that every row has, or that are functions without parentheses. */
export function isPseudoColumn(name: string, dialect: Dialect): boolean {
  if (dialect.engine.pseudoColumns.has(name) || BARE_FUNCTIONS.has(name)) return true;
  return dialect.grammar.fold === "upper" && BARE_FUNCTIONS.has(name.toLowerCase());
}

/** Arguments that are words and no columns: the unit of DATEADD, the type of CONVERT. */
export function wordArguments(call: Extract<Expr, { kind: "call" }>, dialect: Dialect): readonly Expr[] {
  const name = call.name.parts[call.name.parts.length - 1].text.toLowerCase();
  const { unitFirst, typeLast } = dialect.engine;
  if (unitFirst?.test(name)) return call.args.slice(0, 1);
  if (typeLast?.test(name)) return call.args.slice(1);
  if (name === "extract" || name === "overlay" || name === "normalize")
    return call.args.filter(
      (one) =>
        one.kind === "column" &&
        one.path.length === 1 &&
        /^(?:year|quarter|month|week|day|hour|minute|second|epoch|dow|doy|isodow|isoyear|century|decade|millennium|microseconds|milliseconds|julian|timezone|timezone_hour|timezone_minute|nfc|nfd|nfkc|nfkd)$/i.test(
          one.path[0].text,
        ),
    );
  return [];
}
