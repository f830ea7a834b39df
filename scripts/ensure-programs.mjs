// Installs what the tests ask and npm does not have, from Debian's packages: Chromium for the page, the
// client programs of the engines for the walks. Only as root on a Debian machine; anywhere else it says
// so and leaves the tests to skip.
import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { findChromium } from "./chromium.mjs";

const runs = (program) => spawnSync(program, ["--version"], { stdio: "ignore" }).error === undefined;

const NEEDED = [
  { name: "Chromium", there: () => findChromium() !== null, packages: ["chromium", "fonts-dejavu-core"] },
  { name: "sqlite3", there: () => runs("sqlite3"), packages: ["sqlite3"] },
  { name: "psql and pg_dump", there: () => runs("psql") && runs("pg_dump"), packages: ["postgresql-client"] },
  {
    name: "mariadb and mariadb-dump",
    there: () => runs("mariadb") && runs("mariadb-dump"),
    packages: ["mariadb-client"],
  },
];

const missing = NEEDED.filter((one) => !one.there());
if (missing.length > 0 && process.getuid?.() === 0 && existsSync("/etc/debian_version")) {
  console.log(`installing from Debian's packages, for the tests: ${missing.map(({ name }) => name).join(", ")}`);
  const run = (...args) =>
    spawnSync("apt-get", args, { stdio: "ignore", env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" } });
  run("update");
  run("install", "-y", "--no-install-recommends", ...missing.flatMap(({ packages }) => packages));
}
for (const { name, there } of missing) if (!there()) console.log(`${name} not found: the tests that ask it cannot run`);
