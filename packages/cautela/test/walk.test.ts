import { readFileSync } from "node:fs";
import { afterAll, describe, expect, test } from "vitest";
import { clients, differences, walk } from "./walking.ts";

// Scripts of a few statements, from the count to the restore, by the client programs of the engines.

interface Written {
  name: string;
  flags: string;
  script: string;
  /** What others do before the restore, which has to stay. */
  meanwhile: string;
}

/** A schema and its scripts; those that every engine takes go with the first one. */
function walksOf(name: string): { ddl: string; scripts: Written[] } {
  const read = (file: string) => readFileSync(new URL(`walks/${file}.sql`, import.meta.url), "utf8");
  const [head, ...own] = read(name).split(/^-- script: /m);
  const parts = name.includes("-")
    ? own
    : [
        ...own,
        ...read("common")
          .split(/^-- script: /m)
          .slice(1),
      ];
  const scripts = parts.map((part) => {
    const end = part.indexOf("\n");
    const [title, flags = ""] = part.slice(0, end).split(" | ");
    const [script, meanwhile = ""] = part.slice(end + 1).split("-- meanwhile\n");
    return { name: title, flags, script, meanwhile };
  });
  return { ddl: head.replace("-- schema\n", ""), scripts };
}

describe.each((await clients()).map((client) => [client.dialect, client] as const))("%s", (dialect, client) => {
  const walks = [dialect, `people-${dialect}`].flatMap((name) => {
    const { ddl, scripts } = walksOf(name);
    return scripts.map((one) => ({ ...one, ddl }));
  });
  afterAll(() => client.close());

  test.each(walks.map((one) => [one.name, one] as const))("%s", (_, { ddl, flags, script, meanwhile }) => {
    const { failed, before, changed, after, texts } = walk(client, ddl, script, meanwhile);
    const fails = /fails in (\w+)/.exec(flags)?.[1] ?? null;
    const said = [script, texts.before, texts.change, texts.after, texts.restore, failed?.message].join("\n=====\n");
    expect(failed?.phase ?? null, said).toBe(fails);
    if (!flags.includes("changes nothing")) expect(differences(before, changed), said).not.toEqual([]);
    if (meanwhile !== "") {
      client.fresh(ddl);
      expect(client.run(meanwhile)).toBeNull();
      Object.assign(before, client.state(true));
    }
    const left = differences(before, after).filter((name) => name !== "structure" || !flags.includes("in other words"));
    expect(left, `${said}\n${left.map((name) => `${name}\n- ${before[name]}\n+ ${after[name]}`).join("\n")}`).toEqual(
      [],
    );
  });
});
