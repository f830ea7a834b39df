import { sep } from "node:path";

/** Scripts of a folder that run one after the other. */
export interface Lane {
  /** Scripts that have run before, and belong to several lanes. */
  before: string[];
  scripts: string[];
}

/**
 * Splits the scripts of a folder, given by their names in it in the order in which they run, into those that run on one
 * database one after the other. Folders whose names differ in numbers alone follow each other (2024 and 2025, v1.9 and v1.10);
 * others that stand side by side know nothing of each other, and each goes on from the scripts in the folder above them.
 *
 * @example
 * lanesOf(["1.sql", "harbour/2.sql", "office/2.sql"])
 * // three: 1.sql; harbour/2.sql after it; office/2.sql after it
 */
export function lanesOf(names: readonly string[]): Lane[] {
  const own = new Map<string, string[]>();
  for (const name of names) {
    const key = laneKey(name);
    const list = own.get(key);
    if (list) list.push(name);
    else own.set(key, [name]);
  }
  const keys = [...own.keys()];
  const above = (key: string): string | null => {
    let nearest: string | null = null;
    for (const other of keys)
      if (other !== key && (other === "" || key.startsWith(`${other}/`)) && (nearest?.length ?? -1) < other.length)
        nearest = other;
    return nearest;
  };
  const below = new Map<string, number>();
  for (const key of keys) {
    const parent = above(key);
    if (parent !== null) below.set(parent, (below.get(parent) ?? 0) + 1);
  }
  /** The lane to which the scripts of a key belong: where one folder alone goes on from another, they are one lane. */
  const laneOf = (key: string): string => {
    const parent = above(key);
    return parent !== null && below.get(parent) === 1 ? laneOf(parent) : key;
  };
  const lanes = new Map<string, Lane>();
  for (const key of keys) {
    const lane = laneOf(key);
    const known = lanes.get(lane);
    const scripts = own.get(key) ?? [];
    if (known) known.scripts.push(...scripts);
    else lanes.set(lane, { before: earlierOf(lane, above, own), scripts: [...scripts] });
  }
  return [...lanes.values()];
}

/** The scripts of all folders above a lane. */
function earlierOf(lane: string, above: (key: string) => string | null, own: ReadonlyMap<string, string[]>): string[] {
  const names: string[] = [];
  for (let key = above(lane); key !== null; key = above(key)) names.unshift(...(own.get(key) ?? []));
  return names;
}

/** The folders of a script, with one sign for all numbers. */
function laneKey(name: string): string {
  return name
    .split(sep)
    .slice(0, -1)
    .map((step) => step.toLowerCase().replace(/\d+(?:[._-]\d+)*/g, "#"))
    .join("/");
}
