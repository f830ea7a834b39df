import type { DialectId } from "cautela";

const files = import.meta.glob<string>("../../../demo/**/*.sql", { query: "?raw", import: "default", eager: true });

/** One of the harbour office's change scripts. */
export interface Demo {
  name: string;
  dialect: DialectId;
  text: string;
}

/** The demo scripts, by dialect and name. */
export const demos: Demo[] = Object.entries(files)
  .flatMap(([path, text]) => {
    const match = /\/scripts\/([a-z]+)\/([^/]+)\.sql$/.exec(path);
    return match ? [{ dialect: match[1] as DialectId, name: match[2], text }] : [];
  })
  .sort((a, b) => (a.dialect + a.name < b.dialect + b.name ? -1 : 1));

/** The harbour office's database in one dialect: its structure and its rows. */
export function demoCatalog(dialect: DialectId): string[] {
  return ["schema", "data"].flatMap((folder) => {
    const text = files[`../../../demo/${folder}/${dialect}.sql`];
    return text === undefined ? [] : [text];
  });
}
