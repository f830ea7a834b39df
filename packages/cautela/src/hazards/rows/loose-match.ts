import { filterParts } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Binary } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

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
  needs: Trait.like | Trait.change,
  title: "A pattern that matches more than it shows",
  explanation:
    "In LIKE an underscore stands for any character and a per cent sign for any text (in Jet ? and *). An underscore that is " +
    "meant as itself, in a code or a file name, matches its neighbours too; a pattern open on both sides finds the word inside others. " +
    "An = takes the wildcards for themselves, and meets hardly a row.",
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
        if (part.kind === "binary") {
          const taken = wildcardsOfEqual(part, dialect, show);
          if (taken) drafts.push(taken);
          continue;
        }
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

/** `name = 'Garden%'`: a pattern beside an operator that knows none; `10%` is a value. */
function wildcardsOfEqual(part: Binary, dialect: Dialect, show: HazardContext["show"]): Draft | null {
  const { op, left, right } = part;
  if (op !== "=" && op !== "<>" && op !== "!=") return null;
  const value = right.kind === "literal" ? right : left;
  const other = value === right ? left : right;
  if (value.kind !== "literal" || value.type !== "string" || other.kind !== "column") return null;
  const wild = dialect.engine.likeStar ? WILD_IN_JET : WILD;
  // A column may hold patterns.
  if (!wild.test(value.value) || HOLDS_PATTERNS.test(other.path[other.path.length - 1].text)) return null;
  const none = op === "=";
  return {
    weight: "ask",
    message: `\`${show(part)}\` compares with the text as it stands, so ${none ? "hardly a row is met" : "hardly a row is left out"}.`,
    because: [`\`${op}\` knows no wildcards`],
    remedy: `Write ${none ? "LIKE" : "NOT LIKE"} '${value.value.replaceAll("'", "''")}'`,
  };
}

/** A per cent sign after a letter, at the end; or before one, at the beginning; and nowhere else. */
const WILD = /^(?:%[^\s%\d][^%]*%?|[^%]*[^\s%\d]%)$/;
const WILD_IN_JET = /^(?:\*[^\s*\d][^*]*\*?|[^*]*[^\s*\d]\*)$/;
const HOLDS_PATTERNS = /pattern|format|mask|filter|rule|template|query|expr|regex|like|search/i;
