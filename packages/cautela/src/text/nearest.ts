/** The candidate that is nearest to a name by the letters to change; null where none is near. */
export function nearest(name: string, candidates: Iterable<string>): string | null {
  const wanted = name.toLowerCase();
  let best: string | null = null;
  let least = Math.min(3, Math.floor(name.length / 2) + 1);
  for (const candidate of candidates) {
    if (Math.abs(candidate.length - name.length) >= least) continue;
    const steps = distance(wanted, candidate.toLowerCase());
    if (steps < least) {
      least = steps;
      best = candidate;
    }
  }
  return best;
}

/** How many letters have to be changed, added or left out (Levenshtein). */
export function distance(a: string, b: string): number {
  let before = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      row.push(Math.min(row[j - 1] + 1, before[j] + 1, before[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1)));
    }
    before = row;
  }
  return before[b.length];
}
