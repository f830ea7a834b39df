import { execFileSync } from "node:child_process";
import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";

/** What each commit of the demo puts into the repository, branch by branch. */
const HISTORY: { branch: string; message: string; files: Record<string, string> }[] = [
  {
    branch: "main",
    message: "Berths are marked on the quay, and have cranes",
    files: {
      "cautela.policy.json": `{
  "tables": { "tide_reading": "log" },
  "unfiltered-by": { "mooring": "berth_id" },
  "forbidden": [{ "statement": "truncate", "because": "Tables are emptied by the archive job alone." }]
}
`,
      "changes/1_quay-mark.sql": `ALTER TABLE berth ADD COLUMN quay_mark varchar(8);
UPDATE berth SET quay_mark = 'B' || berth_id;
`,
      "changes/1_quay-mark.undo.sql": "ALTER TABLE berth DROP COLUMN quay_mark;\n",
      "changes/2_crane.sql": `CREATE TABLE crane (
  crane_id integer PRIMARY KEY,
  berth_id integer NOT NULL REFERENCES berth (berth_id),
  reach_m numeric(5, 1) NOT NULL
);
`,
    },
  },
  {
    branch: "tariff-2027",
    message: "The tariff of 2027",
    files: {
      "changes/3_tariff-2027.sql": `CREATE TABLE tariff_before_2027 AS SELECT * FROM tariff;

UPDATE tariff
SET per_night = 12.50
WHERE class = 'barge';
`,
      "changes/4_tidy-up.sql": `-- moorings on berth 7 that were cancelled
DELETE FROM mooring
WHERE berth_id = 7 OR status = 'cancelled';

UPDATE crane SET reach_m = 40;
`,
      "changes/5_crane-load.sql": `ALTER TABLE crane ADD COLUMN load_t numeric(6, 1);
ALTER TABLE crane DROP COLUMN reach_m;
`,
      "changes/5_crane-load.undo.sql": "ALTER TABLE crane DROP COLUMN load_t;\n",
    },
  },
  {
    branch: "tariff-2027",
    message: "Marks are longer after all",
    files: {
      "changes/1_quay-mark.sql": `ALTER TABLE berth ADD COLUMN quay_mark varchar(12);
UPDATE berth SET quay_mark = 'B' || berth_id;
`,
    },
  },
];

/** Makes the demo repository: the harbour's schema and scripts on `main`, and a branch that goes on from there. */
export function makeHarbour(folder: string, schema: string): void {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const git = (...args: string[]): void => {
    execFileSync("git", ["-c", "user.name=Harbour office", "-c", "user.email=office@harbour.example", ...args], {
      cwd: folder,
      stdio: "pipe",
    });
  };
  git("init", "-q", "-b", "main");
  let branch = "main";
  let files: Record<string, string> = { "schema.sql": schema };
  for (const commit of HISTORY) {
    files = { ...files, ...commit.files };
    if (commit.branch !== branch) git("checkout", "-q", "-b", commit.branch);
    branch = commit.branch;
    for (const [name, text] of Object.entries(files)) {
      mkdirSync(dirname(join(folder, name)), { recursive: true });
      writeFileSync(join(folder, name), text);
    }
    git("add", ".");
    git("commit", "-q", "-m", commit.message);
  }
}
