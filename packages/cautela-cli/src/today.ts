/** The moment by the clock of this machine, as reviews take it: `2026-12-24T17:30`. */
export function now(): string {
  const date = new Date();
  const two = (n: number): string => String(n).padStart(2, "0");
  const day = `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
  return `${day}T${two(date.getHours())}:${two(date.getMinutes())}`;
}

/** A day as the names of copies have it, `20261224`; today if none is given. */
export function compactDay(date: string | undefined): string {
  return (date ?? now()).slice(0, 10).replaceAll("-", "");
}
