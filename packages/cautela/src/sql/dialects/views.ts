import { type Refusals, refused, type ViewRules } from "../../analysis/views/refusals.ts";
import type { ViewShape } from "../../analysis/views/shape.ts";
import type { View } from "../../catalog/model.ts";
import type { Dialect, DialectId } from "./dialect.ts";
import { jetViews } from "./jet/views.ts";
import { mariadbViews } from "./mariadb/views.ts";
import { mysqlViews } from "./mysql/views.ts";
import { plsqlViews } from "./plsql/views.ts";
import { postgresqlViews } from "./postgresql/views.ts";
import { sqliteViews } from "./sqlite/views.ts";
import { tsqlViews } from "./tsql/views.ts";

const RULES: Readonly<Record<DialectId, ViewRules>> = {
  postgresql: postgresqlViews,
  mysql: mysqlViews,
  mariadb: mariadbViews,
  sqlite: sqliteViews,
  tsql: tsqlViews,
  plsql: plsqlViews,
  jet: jetViews,
};

/** Why the engine of a dialect refuses writes through a view of this shape. */
export function refusals(view: View, shape: ViewShape, { id }: Dialect): Refusals {
  if (view.materialized) return refused("a materialized view holds a copy of its rows, which only a refresh renews");
  return RULES[id].refusals(view, shape);
}

/** What the engine of a dialect says of writing through views. */
export function viewRules({ id }: Dialect): ViewRules {
  return RULES[id];
}

/** Columns that every table of a dialect has and nobody writes, in lower case. */
export function systemColumns({ id }: Dialect): ReadonlySet<string> {
  return RULES[id].systemColumns;
}
