import type { SqlWriter } from "../../writing/writer.ts";
import type { Dialect } from "./dialect.ts";
import { JetWriter } from "./jet/writing.ts";
import { MariadbWriter, MysqlWriter } from "./mysql/writing.ts";
import { PlsqlWriter } from "./plsql/writing.ts";
import { PostgresqlWriter } from "./postgresql/writing.ts";
import { SqliteWriter } from "./sqlite/writing.ts";
import { TsqlWriter } from "./tsql/writing.ts";

const WRITERS: Record<Dialect["id"], new (dialect: Dialect, countUpTo: number | null) => SqlWriter> = {
  postgresql: PostgresqlWriter,
  mysql: MysqlWriter,
  mariadb: MariadbWriter,
  sqlite: SqliteWriter,
  tsql: TsqlWriter,
  plsql: PlsqlWriter,
  jet: JetWriter,
};

/** The writer of a dialect. `countUpTo`: counts stop there. */
export function sqlWriter(dialect: Dialect, countUpTo: number | null = null): SqlWriter {
  return new WRITERS[dialect.id](dialect, countUpTo);
}
