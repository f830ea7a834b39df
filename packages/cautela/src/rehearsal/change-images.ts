import { shownName } from "../catalog/model.ts";
import type { Added, Kept } from "../writing/kept.ts";
import type { SqlWriter } from "../writing/writer.ts";
import { type Room, takenBy } from "./room.ts";
import type { Written } from "./script-steps.ts";
import type { Sheet } from "./sheet.ts";

/** An image of a table from before the change, and the table with the differences. */
export interface Image {
  written: Written;
  room: Room;
  name: string;
  drop: readonly string[];
  take: readonly string[];
  kept: Kept | null;
  added: Added | null;
}

/** Tables that the differences go to, and what is run before and after the change to find them. */
export function takeImages(images: readonly Image[], sheet: Sheet): { first: string[]; last: string[] } {
  const first: string[] = [];
  const last: string[] = [];
  const { writer } = sheet;
  for (const { written, room, name, take, drop, kept, added } of images) {
    const { table } = written;
    const shown = shownName(table);
    const make = (sql: string): void => {
      if (room.when === "within") first.push(sql);
      else sheet.add("before", "copy", `A table for what changes in ${shown}, filled in the change`, sql);
    };
    if (kept) make(writer.emptyCopy(kept.copy, kept.table, null));
    if (added) make(writer.emptyCopy(added.list, table, added.key));
    first.push(...take);
    if (kept) last.push(differences(writer, kept, name, takenBy(sheet, room, table, "s")));
    if (added) {
      const t = writer.from(table, added.only);
      last.push(
        `INSERT INTO ${added.list}\nSELECT ${writer.columns("t", table, added.key)}\nFROM ${t}${writer.as("t")}\nWHERE NOT EXISTS (SELECT 1 FROM ${name}${writer.as("s")} WHERE ${writer.match("s", "t", table, added.key)})`,
      );
    }
    last.push(...drop);
  }
  return { first, last };
}

/** The rows of an image that are gone, or hold other values. */
function differences(
  writer: SqlWriter,
  { table, only, copy, key, changed }: Kept,
  image: string,
  list: string,
): string {
  const from = writer.from(table, only);
  const all = table.columns.map((one) => one.name);
  if (!key) {
    const same = writer.anyDiffers("t", "s", table, writer.writable(table)) ?? "1 = 0";
    return `INSERT INTO ${copy}\nSELECT ${list}\nFROM ${image}${writer.as("s")}\nWHERE NOT EXISTS (SELECT 1 FROM ${from}${writer.as("t")} WHERE NOT (${same}))`;
  }
  const comparable = table.columns.filter((one) => changed.includes(one.name)).every((one) => writer.comparable(one));
  const differing = comparable ? writer.anyDiffers("t", "s", table, changed.length > 0 ? changed : all) : null;
  const or = differing === null ? (changed.length > 0 ? "\n   OR 1 = 1" : "") : `\n   OR ${differing}`;
  return `INSERT INTO ${copy}\nSELECT ${list}\nFROM ${image}${writer.as("s")}\nLEFT JOIN ${from}${writer.as("t")} ON ${writer.match("t", "s", table, key)}\nWHERE t.${writer.column(table, key[0])} IS NULL${or}`;
}
