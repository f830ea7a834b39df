import { connect } from "node:net";

/** Whether something answers on a port of this machine. */
function answers(host: string, port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = connect({ host, port, timeout: 2000 });
    const end = (up: boolean) => {
      socket.destroy();
      resolve(up);
    };
    socket.once("connect", () => end(true));
    socket.once("error", () => end(false));
    socket.once("timeout", () => end(false));
  });
}

/**
 * The MariaDB server of the tests: MARIADB_URL, or root without a password on the standard port.
 * Where none answers the tests skip with one line; with CI=true that is a failure.
 */
export async function mariadbUrl(): Promise<string | null> {
  const url = new URL(process.env.MARIADB_URL ?? "mysql://root@127.0.0.1:3306/test");
  if (await answers(url.hostname, Number(url.port || 3306))) return url.href;
  if (process.env.CI === "true") throw new Error(`no MariaDB server answers at ${url.host} (set MARIADB_URL)`);
  console.log(`no MariaDB server answers at ${url.host} (set MARIADB_URL): its tests are skipped`);
  return null;
}

/** The PostgreSQL server of the tests: POSTGRES_URL, or the user postgres on the standard port. */
export async function postgresUrl(): Promise<string | null> {
  const url = new URL(process.env.POSTGRES_URL ?? "postgres://postgres@127.0.0.1:5432/postgres");
  if (await answers(url.hostname, Number(url.port || 5432))) return url.href;
  if (process.env.CI === "true") throw new Error(`no PostgreSQL server answers at ${url.host} (set POSTGRES_URL)`);
  console.log(`no PostgreSQL server answers at ${url.host} (set POSTGRES_URL): its tests are skipped`);
  return null;
}

/** The name of a database of one test run: two that run at the same time do not meet. */
export function ownName(name: string): string {
  return `cautela_${name}_${process.pid}_${Math.random().toString(36).slice(2, 8)}`;
}
