import { writeFileSync } from "node:fs";
import { afterAll, describe, expect, test } from "vitest";
import { drawWalk } from "./generated-walks.ts";
import { CHANGES_STRUCTURE, clients, differences, walk } from "./walking.ts";

// `npm run walk` walks five hundred for each engine; WALKS and WALK_SEED choose others.
const WALKS = Number(process.env.WALKS ?? 25);
const SEED = Number(process.env.WALK_SEED ?? 20261127);

/** What a sheet says where something is not put back. */
const SAYS_SO =
  /no restore|not kept|no change was written|not put back|not made again|last column|have no key|no copy|cannot be (?:told|compared)/;

describe.each((await clients()).map((client) => [client.dialect, client] as const))("%s", (dialect, client) => {
  afterAll(() => client.close());

  test(
    `${WALKS} drawn scripts from seed ${SEED}`,
    () => {
      const wrong: string[] = [];
      let whole = 0;
      let run = 0;
      for (let i = 0; i < WALKS; i++) {
        const seed = SEED + i;
        const { ddl, script } = drawWalk(dialect, seed);
        client.fresh(ddl);
        const plain = client.run(`${STOP[dialect] ?? ""}${script}`);
        const wanted = client.state(CHANGES_STRUCTURE.test(script));
        const walked = walk(client, ddl, script);
        const { failed, before, changed, after, texts, rehearsal } = walked;
        const other = differences({ structure: changed.structure, ...wanted }, changed);
        const reasons = rehearsal.sheets.flatMap((sheet) => sheet.reasons);
        const said = [
          `seed ${seed}`,
          ddl,
          script,
          texts.before,
          texts.change,
          texts.restore,
          failed?.message,
          plain,
        ].join("\n=====\n");
        if (reasons.some((reason) => reason.includes("no change was written"))) continue;
        run++;
        // What the engine takes, the sheets take; what it refuses, they do not hide.
        // Two runs of what chance decides may be refused or not.
        const drawn = /\b(?:LIMIT|RAND|random)\b/.test(script);
        if (failed && (failed.phase !== "change" || (plain === null && !drawn))) {
          wrong.push(`${failed.phase} fails: ${said}`);
          continue;
        }
        if (!failed && plain !== null && !drawn) wrong.push(`the change goes through and should not: ${said}`);
        if (plain === null && !drawn && other.length > 0) wrong.push(`the change is another one in ${other}: ${said}`);
        if (reasons.some((reason) => SAYS_SO.test(reason))) continue;
        // Of a change that stopped on the way a person undoes what has run, as the restore says.
        if (failed && texts.restore?.includes("leave out what undoes lines")) continue;
        whole++;
        const left = differences(before, after);
        if (left.length > 0)
          wrong.push(
            `${left} left: ${said}\n${left.map((name) => `${name}\n- ${before[name]}\n+ ${after[name]}`).join("\n")}`,
          );
      }
      console.log(
        `${dialect}: ${run} of ${WALKS} drawn scripts run, ${whole} of them restored to the letter (seed ${SEED})`,
      );
      if (process.env.WALK_LOG) writeFileSync(`${process.env.WALK_LOG}.${dialect}`, wrong.join("\n##########\n"));
      expect(wrong.length, wrong[0]).toBe(0);
      if (WALKS >= 20) expect(whole).toBeGreaterThan(run * 0.6);
    },
    WALKS * 5000,
  );
});

const STOP: Partial<Record<string, string>> = { postgresql: "\\set ON_ERROR_STOP on\n", sqlite: ".bail on\n" };
