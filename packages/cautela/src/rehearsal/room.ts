import { shownName, type Table } from "../catalog/model.ts";
import type { ScriptStep } from "./script-steps.ts";
import type { Sheet } from "./sheet.ts";

/** Where the copy of a table is made, and which of its columns it holds. */
export interface Room {
  table: Table;
  /**
   * `before`: made and filled before the script. `filled`: made before it and filled at its place, so that it is there, empty,
   * when the change comes to nothing. `within`: made at its place, for a table that is another one by then.
   */
  when: "before" | "filled" | "within";
}

/** Finds room for the copy of a table; `late`: it must not be filled before the change itself. */
export function roomFor(step: ScriptStep, sheet: Sheet, table: Table, late = false): Room {
  if (sheet.early === "before" && !late) return { table, when: "before" };
  const lasting = step.lasting(table);
  return lasting ? { table: lasting, when: "filled" } : { table, when: "within" };
}

/** What a copy takes of a table under an alias. */
export function takenBy(sheet: Sheet, room: Room, table: Table, alias: string): string {
  const { writer } = sheet;
  if (room.table !== table)
    return writer.columns(
      alias,
      table,
      room.table.columns.map(({ name }) => name),
    );
  return room.when === "filled" ? writer.copied(table, alias) : `${alias}.*`;
}

/** Makes the empty table of a copy that is filled later; `extra` are columns besides. */
export function makeRoom(sheet: Sheet, room: Room, copy: string, extra = ""): void {
  const { writer } = sheet;
  const { table } = room;
  sheet.add(
    "before",
    "copy",
    `A table for rows of ${shownName(table)}, filled in the change`,
    writer.copy(
      copy,
      `${writer.copiedColumns(table, "t")}${extra}`,
      `FROM ${writer.table(table)}${writer.as("t")}\nWHERE 1 = 0`,
    ),
  );
}

/** Copies rows of a table; `rest` is the query from FROM on, in which the table has the alias. */
export function copyInto(sheet: Sheet, room: Room, table: Table, copy: string, title: string, rest: string): void {
  const { writer } = sheet;
  const list = takenBy(sheet, room, table, "t");
  if (room.when !== "filled") {
    sheet.add(room.when === "before" ? "before" : "change", "copy", title, writer.copy(copy, list, rest));
    return;
  }
  makeRoom(sheet, room, copy);
  sheet.add("change", "copy", title, `INSERT INTO ${copy}\nSELECT ${list}\n${rest}`);
}
