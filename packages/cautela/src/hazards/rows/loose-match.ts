import { filterParts } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A pattern that matches more than it shows.
 *
 * @example
 * DELETE FROM berth WHERE code LIKE 'N_1';   -- note: N11 and NX1 match as well
 */
export const looseMatch: Hazard = {
  id: "loose-match",
  family: "rows",
  weight: "note",
  needs: Trait.like,
  title: "A pattern that matches more than it shows",
  explanation:
    "In LIKE an underscore stands for any character and a per cent sign for any text (in Jet ? and *). An underscore that is " +
    "meant as itself, in a code or a file name, matches its neighbours too; a pattern open on both sides finds the word inside others.",
  remedy: "Escape the underscore (LIKE 'N!_1' ESCAPE '!'), or compare with =; list the rows with a SELECT first.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE berth (berth_id integer PRIMARY KEY, code varchar(20) NOT NULL, quay varchar(20));",
    dangerous: "UPDATE berth SET quay = 'north' WHERE code LIKE 'N_01';",
    sound: "UPDATE berth SET quay = 'north' WHERE code LIKE 'N!_01' ESCAPE '!';",
  },
  check({ changes, dialect, show }) {
    const drafts: Draft[] = [];
    for (const { change, softener } of changes) {
      if (softener) continue;
      for (const part of filterParts(change.conditions)) {
        if (part.kind !== "like" || part.negated || !/^(?:like|ilike|alike)$/.test(part.op)) continue;
        const pattern = constant(part.pattern);
        if (pattern?.type !== "string") continue;
        const jet = dialect.engine.likeStar && part.op === "like";
        if (jet && /[%]/.test(pattern.value) && !/[*?]/.test(pattern.value)) {
          drafts.push({
            weight: "ask",
            message: `\`${show(part)}\`: the wildcards are * and ? here, so % stands for itself and hardly a row is met.`,
            because: ["in Jet's own LIKE the percent sign is an ordinary character"],
            remedy: `Write LIKE '${pattern.value.replaceAll("%", "*").replaceAll("_", "?")}'`,
          });
          continue;
        }
        const escaped = part.escape ? constant(part.escape) : null;
        const mark = escaped?.type === "string" ? escaped.value : dialect.engine.backslashInLike ? "\\" : "";
        const bare =
          mark === ""
            ? pattern.value
            : pattern.value
                .split(mark)
                .map((piece, i) => (i === 0 ? piece : piece.slice(1)))
                .join("");
        if (!jet && /[A-Za-z0-9]_(?:[A-Za-z0-9]|%$)/.test(bare)) {
          drafts.push({
            message: `\`${show(part)}\`: the underscore stands for any character.`,
            because: [`'${pattern.value}' matches '${bare.replace("_", "X")}' as well`],
            remedy: `If the underscore itself is meant: LIKE '${pattern.value.replace(/_/g, "!_")}' ESCAPE '!'`,
          });
        } else if (
          /^[%*].*[%*]$/.test(pattern.value) &&
          pattern.value.length > 2 &&
          (change.action === "delete" || pattern.value.length < 6)
        ) {
          drafts.push({
            message: `\`${show(part)}\` finds the text inside longer words too.`,
            because: ["the pattern is open on both sides"],
            remedy: "List the rows with a SELECT first, or close the pattern on one side.",
          });
        }
      }
    }
    return drafts;
  },
};
