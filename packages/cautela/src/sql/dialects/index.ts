import { CautelaError } from "../../text/cautela-error.ts";
import type { Dialect, DialectId } from "./dialect.ts";
import { jet } from "./jet/dialect.ts";
import { mariadb } from "./mariadb/dialect.ts";
import { mysql } from "./mysql/dialect.ts";
import { plsql } from "./plsql/dialect.ts";
import { postgresql } from "./postgresql/dialect.ts";
import { sqlite } from "./sqlite/dialect.ts";
import { tsql } from "./tsql/dialect.ts";

/** Every dialect by its id. */
export const dialects: Readonly<Record<DialectId, Dialect>> = {
  postgresql,
  mysql,
  mariadb,
  sqlite,
  tsql,
  plsql,
  jet,
};

/** The ids of the dialects, in the order of the design. */
export const dialectIds = Object.keys(dialects) as readonly DialectId[];

/** The dialect a script is read as when neither its caller nor anything in it names one. */
export const usualDialect: DialectId = "postgresql";

/**
 * The dialect of an id that a caller gives; types do not hold where the caller is JavaScript.
 *
 * @throws CautelaError where no dialect has that id
 */
export function dialectOf(id: DialectId): Dialect {
  if (!isDialectId(id))
    throw new CautelaError(`no dialect is called ${JSON.stringify(id)}; the dialects are ${dialectIds.join(", ")}`);
  return dialects[id];
}

/** Whether a text is the id of a dialect. */
export function isDialectId(text: string): text is DialectId {
  return Object.hasOwn(dialects, text);
}
