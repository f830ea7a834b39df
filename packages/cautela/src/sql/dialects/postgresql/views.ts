import { condensed, type Refusals, refused, type ViewRules } from "../../../analysis/views/refusals.ts";
import type { ViewShape } from "../../../analysis/views/shape.ts";
import type { View } from "../../../catalog/model.ts";

function refusals(_: View, shape: ViewShape): Refusals {
  const why = condensed(shape);
  if (why) return refused(why);
  if (shape.with) return refused("a WITH stands at its top");
  if (shape.limited) return refused("LIMIT or OFFSET cuts its rows off");
  if (shape.sources.length === 0) return refused("it reads no table");
  if (shape.joined) return refused("it reads more than one table, and PostgreSQL writes through no join");
  const [source] = shape.sources;
  if (source.kind !== "table") return refused("it does not read a single table or view");
  if (source.relation?.object === "view" && source.relation.materialized)
    return refused("it is based on a materialized view, whose rows only a refresh renews");
  return refused(null);
}

/** https://www.postgresql.org/docs/current/ddl-system-columns.html */
const SYSTEM_COLUMNS = new Set(["ctid", "xmin", "xmax", "cmin", "cmax", "tableoid"]);

export const postgresqlViews: ViewRules = { refusals, systemColumns: SYSTEM_COLUMNS };
