import type { Draft } from "../hazards/hazard.ts";

/** Changes a draft, and likewise what is left of it when the whole script is known. */
export function inEveryForm(draft: Draft, change: (form: Draft) => Draft): Draft {
  const { settle } = draft;
  const changed = change(draft);
  if (!settle) return changed;
  return {
    ...changed,
    settle(script) {
      const settled = settle(script);
      return settled ? inEveryForm(settled, change) : settled;
    },
  };
}
