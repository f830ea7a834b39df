import type { At, Draft, Weight } from "../hazards/hazard.ts";
import type { Region } from "../text/region.ts";
import type { Declarations } from "./declarations.ts";
import { type Finding, heavier, type Verdict } from "./result.ts";

/**
 * The findings of a script, each cause told once. What one hazard finds for one cause at several places is one finding with
 * `places`. What is declared to say the same of a statement as another hazard (`subsumes`) becomes a reason of that one,
 * with what it advises; a finding that its author has accepted takes in no other: what was accepted is the one, and not what
 * comes with it.
 *
 * @example
 * // every-row, and no-way-back of the same DELETE: one finding, which says that no copy is kept
 */
export class Findings {
  readonly list: Finding[] = [];
  readonly #declared: Declarations;
  readonly #byCause = new Map<string, Finding>();
  readonly #causes = new Map<Finding, string>();
  /** What differs between the places of a finding, and the message that names all of it. */
  readonly #about = new Map<Finding, { of: Set<string>; together: (about: readonly string[]) => string }>();
  /** The finding that takes in another hazard's at a statement. */
  readonly #takers = new Map<string, Finding>();

  constructor(declared: Declarations) {
    this.#declared = declared;
  }

  /** Takes a finding; returns whether it has become one of its own, whose place a report shows. */
  add(hazard: string, weight: Weight, draft: Draft, at: At, accepted: string | null): boolean {
    const taker = this.#takers.get(`${at.statement} ${hazard}`);
    if (taker) {
      // Who accepts what is taken in has not accepted the one.
      if (accepted === null) takeIn(taker, draft);
      return false;
    }
    const cause = draft.cause ?? [draft.message, ...draft.because].join("\0");
    const key = `${hazard}\0${weight}\0${accepted ?? "\0"}\0${cause}`;
    const known = this.#byCause.get(key);
    const { message, because, remedy } = draft;
    const place = { statement: at.statement, ...at.region };
    const fix = draft.fix ?? null;
    const finding = known ?? { hazard, weight, ...place, message, because, remedy, accepted, places: [], fix };
    // What mends one place mends the others likewise, or none of them.
    if (known) known.fix = known.fix && fix ? { ...known.fix, edits: [...known.fix.edits, ...fix.edits] } : null;
    if (accepted === null)
      for (const id of this.#declared.subsumed.get(hazard) ?? []) this.#takers.set(`${at.statement} ${id}`, finding);
    if (draft.together && draft.about !== undefined) {
      const about = this.#about.get(finding);
      if (about) about.of.add(draft.about);
      else this.#about.set(finding, { of: new Set([draft.about]), together: draft.together });
    }
    if (known) {
      // Two things that one statement does at one place are one place.
      if (known.statement !== at.statement || !sameRegion(known, at.region)) known.places.push(place);
      return false;
    }
    this.#byCause.set(key, finding);
    this.#causes.set(finding, key);
    if (accepted === null) for (const id of this.#declared.subsumed.get(hazard) ?? []) this.#takeBack(id, finding);
    this.list.push(finding);
    return true;
  }

  /** Takes in what has been found before at the same statement and says the same, where it stands there alone. */
  #takeBack(hazard: string, taker: Finding): void {
    for (let i = this.list.length - 1; i >= 0 && this.list[i].statement === taker.statement; i--) {
      const one = this.list[i];
      if (one.hazard !== hazard || one.accepted !== null || one.places.length > 0) continue;
      this.list.splice(i, 1);
      this.#byCause.delete(this.#causes.get(one) ?? "");
      takeIn(taker, one);
    }
  }

  /** The heaviest weight at each statement, of what nobody has accepted; each place counts. */
  verdicts(): ReadonlyMap<number, Verdict> {
    const verdicts = new Map<number, Verdict>();
    for (const { accepted, weight, statement, places } of this.list) {
      if (accepted !== null) continue;
      for (const at of [statement, ...places.map((place) => place.statement)])
        verdicts.set(at, heavier(verdicts.get(at) ?? "clear", weight));
    }
    return verdicts;
  }

  /** All of them in the order of the script. */
  sorted(): Finding[] {
    for (const [finding, { of, together }] of this.#about) if (of.size > 1) finding.message = together([...of]);
    for (const finding of this.list) {
      finding.places.sort(byPlace);
      if (finding.fix?.edits.length === 0) finding.fix = null;
      // A message that ends with its reason has given it.
      if (finding.because.some((reason) => saidIn(finding, reason)))
        finding.because = finding.because.filter((reason) => !saidIn(finding, reason));
    }
    const rank = ({ hazard }: Finding): number => this.#declared.rank.get(hazard) ?? 0;
    return this.list.sort((a, b) => byPlace(a, b) || rank(a) - rank(b));
  }
}

function sameRegion(a: Region, b: Region): boolean {
  return a.line === b.line && a.column === b.column && a.endLine === b.endLine && a.endColumn === b.endColumn;
}

function saidIn({ message }: Finding, reason: string): boolean {
  return message.endsWith(`: ${reason}.`);
}

function byPlace(a: Region & { statement: number }, b: Region & { statement: number }): number {
  return a.line - b.line || a.column - b.column || a.statement - b.statement;
}

/** The one that takes in another decides how heavy both are. */
function takeIn(taker: Finding, { message, remedy }: Pick<Draft, "message" | "remedy">): void {
  const reason = `${message[0].toLowerCase()}${message.slice(1).replace(/\.$/, "")}`;
  if (!taker.because.includes(reason)) taker.because.push(reason);
  if (remedy === "" || taker.remedy.includes(remedy)) return;
  const copy = remedy.startsWith(COPY_FIRST) ? remedy.slice(COPY_FIRST.length) : null;
  // Two ways out of one trouble are one too many.
  if (copy === null) taker.remedy ||= remedy;
  // "…, keep a copy first." and "Copy first: CREATE TABLE …" are one sentence; further copies follow the first.
  else if (taker.remedy.endsWith(KEEP_COPY)) taker.remedy = `${taker.remedy.slice(0, -1)}: ${copy}`;
  else if (!taker.remedy.includes(copy) && !namesCopy(taker.remedy, copy))
    taker.remedy += taker.remedy.includes(KEPT_COPY)
      ? `; ${copy}`
      : `${/[.!?]$/.test(taker.remedy) ? "" : "."} ${remedy}`;
}

/** Whether a remedy makes the copy of that name already: made a second time it would be refused. */
function namesCopy(remedy: string, copy: string): boolean {
  const made = /(?:^CREATE TABLE|\sINTO)\s(\S{1,200})/.exec(copy);
  return made !== null && remedy.includes(made[0].trimStart());
}

const COPY_FIRST = "Copy first: ";
const KEEP_COPY = "keep a copy first.";
const KEPT_COPY = "keep a copy first: ";
