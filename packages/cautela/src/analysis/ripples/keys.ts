import { type ForeignKey, shownName, type Table } from "../../catalog/model.ts";
import type { Dialect, SessionState } from "../../sql/dialects/dialect.ts";
import { PLAIN } from "../changes/row-change.ts";
import { NO_VALUES, type PropagatedChange, type Step } from "./propagated-change.ts";
import type { Spread } from "./ripple.ts";

/** A change of a table, and one that refers to it. */
interface Referred {
  wave: PropagatedChange;
  table: Table;
  child: Table;
  /** Columns that triggers of the table change besides. */
  rewritten: readonly string[];
}

/** What a foreign key makes of a change: another one, or a refusal. */
type Carried =
  | { held: { name: string; text: string; certain: boolean }; wave?: undefined; step?: undefined }
  | { held?: undefined; wave: PropagatedChange; step: Step };

/** What a foreign key does when rows that it refers to go or change; null where it has nothing to do with that. */
export function carriedBy(
  foreign: ForeignKey,
  { wave, table, child, rewritten }: Referred,
  dialect: Dialect,
  session: SessionState,
): Carried | null {
  const shown = shownName(child);
  const name = foreign.name ?? `${child.name}(${foreign.columns.join(", ")})`;
  const referenced = foreign.referenced.length > 0 ? foreign.referenced : (table.primaryKey?.columns ?? []);
  const off = session.keys === null ? " (while foreign_keys is on; SQLite's default is off)" : "";
  const step = (reason: string, certain: boolean): Step => ({
    how: "cascade",
    name,
    reason,
    certain,
    definition: keyText(foreign, child, table),
  });
  if (wave.action === "truncate") {
    if (wave.cascades && (dialect.engine.truncateCascades || foreign.onDelete === "cascade"))
      return {
        wave: {
          ...wave,
          relation: child,
          columns: null,
          values: NO_VALUES,
          spread: "every",
          only: false,
          manner: PLAIN,
        },
        step: step(`TRUNCATE … CASCADE empties \`${shown}\`, which refers to it`, true),
      };
    if (child === table) return null;
    return { held: { name, text: `\`${shown}\` refers to it by \`${name}\`, so TRUNCATE is refused`, certain: true } };
  }
  const deletes = wave.action === "delete";
  const touched = referenced.some((column) => wave.columns?.includes(column) || rewritten.includes(column));
  if (!deletes && wave.columns !== null && !touched) return null;
  const action = deletes ? foreign.onDelete : foreign.onUpdate;
  if (action === "no action" || action === "restrict") {
    const what = deletes ? "delete" : "update";
    const text = `rows of \`${shown}\` may refer to these by \`${name}\`, and then the ${what} is refused${off}`;
    return { held: { name, text, certain: false } };
  }
  const goes = deletes && action === "cascade";
  const next: PropagatedChange = {
    relation: child,
    action: goes ? "delete" : "update",
    columns: goes ? null : foreign.columns,
    values:
      action === "set null" ? new Map(foreign.columns.map((column) => [column, { type: "null" as const }])) : NO_VALUES,
    spread: childSpread(wave, child, foreign),
    // The engine looks for the rows of each parent by a statement of its own.
    times: wave.spread,
    fires: dialect.engine.cascadesFireTriggers,
    rowless: false,
    cascades: false,
    only: false,
    replaced: false,
    manner: PLAIN,
  };
  const taken = goes ? `rows of \`${shown}\` that refer to them go too` : `\`${shown}\` takes over the new key`;
  const becomes = `\`${foreign.columns.join("`, `")}\` of \`${shown}\` becomes ${action === "set null" ? "NULL" : "its default"}`;
  const what = action === "cascade" ? taken : becomes;
  const event = deletes ? "DELETE" : "UPDATE";
  return {
    wave: next,
    step: step(`key \`${name}\`, ON ${event} ${action.toUpperCase()}: ${what}${off}`, session.keys === true),
  };
}

/** How many rows of a child depend on those of the parent: as many, where the key is unique there. */
function childSpread(wave: PropagatedChange, child: Table, foreign: ForeignKey): Spread {
  const unique = [child.primaryKey, ...child.uniqueKeys].some(
    (key) => key && !key.partial && key.columns.length > 0 && key.columns.every((one) => foreign.columns.includes(one)),
  );
  return unique && (wave.spread === "same" || wave.spread === "one") ? wave.spread : "some";
}

/** A foreign key as the statement that makes it. */
function keyText(foreign: ForeignKey, child: Table, parent: Table): string {
  const referenced = foreign.referenced.length > 0 ? ` (${foreign.referenced.join(", ")})` : "";
  const actions = [
    foreign.onDelete === "no action" ? "" : ` ON DELETE ${foreign.onDelete.toUpperCase()}`,
    foreign.onUpdate === "no action" ? "" : ` ON UPDATE ${foreign.onUpdate.toUpperCase()}`,
  ].join("");
  const name = foreign.name ? `CONSTRAINT ${foreign.name} ` : "";
  return `ALTER TABLE ${shownName(child)} ADD ${name}FOREIGN KEY (${foreign.columns.join(", ")}) REFERENCES ${shownName(parent)}${referenced}${actions}`;
}
