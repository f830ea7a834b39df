/** The search path that a routine sets for itself (PostgreSQL 15 manual, CREATE FUNCTION); null: that of its caller. */
export function ownPath(definition: string): readonly string[] | null {
  // What stands outside of its body, which is quoted.
  const [head] = definition.split(/\$|'/, 1);
  const tail = /[$'][^$']*$/.exec(definition.slice(-2000))?.[0] ?? "";
  for (const text of [head.slice(-2000), tail]) {
    const [, list] =
      /\bset\s{1,20}search_path\s{0,20}(?:=|\bto\b)\s{0,20}((?:"[^"]{1,63}"|[\w]{1,63})(?:\s{0,9},\s{0,9}(?:"[^"]{1,63}"|[\w]{1,63})){0,20})/i.exec(
        text,
      ) ?? [];
    if (list !== undefined)
      return list.split(",").map((one) => {
        const name = one.trim();
        return name.startsWith('"') ? name.slice(1, -1) : name.toLowerCase();
      });
  }
  return null;
}
