import type { Catalog } from "../catalog/catalog.ts";
import type { View } from "../catalog/model.ts";
import { writtenName } from "../catalog/names.ts";
import { viewQuery } from "../catalog/trees.ts";
import { walk } from "../sql/children.ts";
import type { Dialect } from "../sql/dialects/dialect.ts";
import { dialects } from "../sql/dialects/index.ts";
import { readScript } from "../sql/script.ts";
import type { Node } from "../sql/tree.ts";

/** Functions of the engines that read nothing but their arguments, the clock and the session. */
const BUILT_IN = new Set(
  (
    "abs acos array_length asin atan atan2 avg bit_length btrim cast ceil ceiling char_length character_length charindex chr coalesce concat " +
    "concat_ws convert cos count current_date current_schema current_time current_timestamp current_user curdate curtime date date_add date_format " +
    "date_part date_sub date_trunc dateadd datediff datename datepart datetime day dayofmonth dayofweek dayofyear decode degrees div encode exp extract field " +
    "find_in_set floor format from_unixtime getdate getutcdate greatest group_concat hex hour if ifnull iif initcap instr isnull json_extract json_value " +
    "jsonb_extract_path_text julianday last_day lcase least left len length listagg ln localtime localtimestamp locate log log10 log2 lower lpad ltrim max " +
    "md5 mid min minute mod month now nullif nvl nvl2 octet_length pi position pow power printf quarter radians rank regexp_like regexp_matches " +
    "regexp_replace regexp_substr replace reverse right round row_number rpad rtrim second sign sin split_part sqrt str_to_date strftime string_agg strpos substr " +
    "substring substring_index sum sysdate sysdatetime systimestamp tan time timestamp timestampdiff to_char to_date to_number to_timestamp total translate trim " +
    "trunc truncate typeof ucase unicode unix_timestamp upper user utc_date utc_timestamp week weekday year array_agg bool_and bool_or every any_value " +
    "exists cardinality age make_date isfinite dense_rank lag lead first_value last_value ntile percent_rank switch choose val cdate cint clng cdbl cstr nz"
  ).split(" "),
);

/** What may happen when a query is run; null: it only reads. `writes`: it may write, and is not only unknown. */
export function harmOf(sql: string, catalog: Catalog): { why: string; writes: boolean } | null {
  const why = harm(sql, catalog);
  return why === null ? null : { why, writes: / (?:may|could) write/.test(why) };
}

/**
 * Why a query is not run against a database without being asked: it is more than a SELECT, or calls a function that is
 * volatile or not known to be harmless, itself or through a view. Null: it only reads.
 */
export function harm(sql: string, catalog: Catalog): string | null {
  const dialect = dialects[catalog.dialect];
  const { statements } = readScript(sql, { dialect: dialect.id });
  if (statements.length !== 1 || statements[0].kind !== "select") return "it is not one SELECT";
  return harmIn(statements[0].tree, catalog, dialect, new Set());
}

function harmIn(tree: Node, catalog: Catalog, dialect: Dialect, seen: Set<View>): string | null {
  let found: string | null = null;
  walk(tree, (node) => {
    if (found !== null) return false;
    switch (node.kind) {
      case "insert":
      case "update":
      case "delete":
      case "merge":
      case "opaque":
      case "hole":
        found = node.kind === "hole" ? `${node.text} has no value yet` : "a part of it could write, or is not read";
        break;
      case "select":
        if ("items" in node && node.into) found = "it selects INTO something";
        break;
      case "call": {
        const routine = catalog.routine(node.name);
        const name = node.name.parts[node.name.parts.length - 1].text.toLowerCase();
        if (routine) {
          if (routine.volatility !== "immutable" && routine.volatility !== "stable")
            found = `${writtenName(node.name)} may write`;
        } else if (!BUILT_IN.has(name)) found = `what ${writtenName(node.name)} does is not known`;
        break;
      }
      case "table": {
        const relation = catalog.resolveRelation(node.name);
        if (relation?.object !== "view" || seen.has(relation)) break;
        seen.add(relation);
        const parsed = viewQuery(relation, dialect.id);
        found = parsed ? harmIn(parsed.tree, catalog, dialect, seen) : `the view ${relation.name} is not known`;
        break;
      }
      default:
    }
    return undefined;
  });
  return found;
}
