import { condensed, type Refusals, refused, type ViewRules } from "../../../analysis/views/refusals.ts";
import type { ViewShape } from "../../../analysis/views/shape.ts";
import type { View } from "../../../catalog/model.ts";
import { columnType } from "../../../catalog/types.ts";
import { postgresql } from "./dialect.ts";

function refusals(_: View, shape: ViewShape): Refusals {
  const why = condensed(shape);
  if (why) return refused(why);
  if (shape.with) return refused("a WITH stands at its top");
  if (shape.limited) return refused("LIMIT or OFFSET cuts its rows off");
  if (shape.sources.length === 0) return refused("it reads no table");
  if (shape.joined) return refused("it reads more than one table, and PostgreSQL writes through no join");
  const [source] = shape.sources;
  if (source.kind === "own") return refused(`\`${source.name}\` is the engine's own, and no table`);
  if (source.kind !== "table") return refused("it does not read a single table or view");
  if (source.source.kind === "table" && source.source.hints) return refused("TABLESAMPLE leaves rows out");
  if (shape.calls.some((name) => SETS.test(name)))
    return refused("a function of its list gives several rows for each row");
  if (source.relation?.object === "view" && source.relation.materialized)
    return refused("it is based on a materialized view, whose rows only a refresh renews");
  return refused(null);
}

/** The functions that return sets (pg_proc.proretset). */
const SETS =
  /^(?:generate_(?:series|subscripts)|unnest|regexp_matches|regexp_split_to_table|string_to_table|jsonb?_(?:array_elements|each)(?:_text)?|jsonb?_object_keys|jsonb_path_query(?:_tz)?)$/;

/** The views among the relations of pg_catalog; its plain tables take changes from a superuser. */
const CATALOG_VIEWS =
  /^pg_(?:aios|available_extension(?:_version)?s|backend_memory_contexts|config|cursors|file_settings|group|hba_file_rules|ident_file_mappings|indexes|locks|matviews|policies|prepared_(?:statements|xacts)|publication_tables|replication_(?:origin_status|slots)|roles|rules|seclabels|sequences|settings|shadow|shmem_\w+|stat_\w+|statio_\w+|stats|stats_ext|stats_ext_exprs|tables|timezone_(?:abbrevs|names)|user|user_mappings|views|wait_events)$/;

/** https://www.postgresql.org/docs/current/ddl-system-columns.html */
const SYSTEM_COLUMNS = new Set(["ctid", "xmin", "xmax", "cmin", "cmax", "tableoid"]);

export const postgresqlViews: ViewRules = {
  refusals,
  systemColumns: SYSTEM_COLUMNS,
  isOwnView: (schema, name) => schema === "information_schema" || CATALOG_VIEWS.test(name),
  isOwnTable: (schema, name) =>
    (schema === "" || schema === "pg_catalog") && /^pg_/.test(name) && !CATALOG_VIEWS.test(name),
  sees: (expr, column) => {
    // A cast to the very type that the column has is none.
    if (expr.kind !== "cast") return null;
    const { type, typeArgs, array } = columnType(expr.type, postgresql);
    const own = column(expr.operand);
    return own && own.type === type && own.array === array && typeArgs.join() === own.typeArgs.join()
      ? expr.operand
      : null;
  },
};
