import {
  type Baseline,
  baselineFrom,
  type ChangeSetScript,
  catalogFromDdl,
  comparedWith,
  type DialectId,
  type Policy,
  policyFrom,
  type ReviewedScript,
  reviewChangeSet,
} from "cautela";
import type { Repository } from "./repository.ts";

/** Where things stand in the repository. */
export interface Layout {
  dialect: DialectId;
  /** The DDL that the scripts build on. */
  schema: string;
  /** The folder of the change scripts; `3_rates.undo.sql` takes `3_rates.sql` back. */
  scripts: string;
  policy: string;
  baseline: string;
}

/**
 * Reviews what a branch adds and changes in the folder of scripts, on the database that the scripts before them give. The
 * rules are those of the branch that it is to go into: no branch loosens its own.
 */
export function reviewBranch(
  repository: Repository,
  branch: string,
  into: string,
  layout: Layout,
  date: string,
): readonly ReviewedScript[] {
  const base = repository.parting(into, branch);
  const policy = fromJson<Policy>(repository.text(into, layout.policy), policyFrom) ?? {};
  const baseline = fromJson<Baseline>(repository.text(into, layout.baseline), baselineFrom);
  const catalog = catalogFromDdl(repository.text(base, layout.schema) ?? "", { dialect: layout.dialect });
  const scripts = changeSet(repository, branch, base, layout);
  const reviews = reviewChangeSet(scripts, { catalog, policy, date });
  return baseline ? comparedWith(reviews, baseline).reviews : reviews;
}

const byNumber = new Intl.Collator("en", { numeric: true });

/** The scripts of a branch in the order of their numbers; those that have run already only give their DDL. */
function changeSet(repository: Repository, branch: string, base: string, layout: Layout): ChangeSetScript[] {
  const now = repository.files(branch, layout.scripts);
  const before = repository.files(base, layout.scripts);
  const text = (path: string): string => repository.text(branch, path) ?? "";
  return [...now.keys()]
    .filter((path) => path.endsWith(".sql") && !path.endsWith(".undo.sql"))
    .sort(byNumber.compare)
    .map((path) => {
      const undo = path.replace(/\.sql$/, ".undo.sql");
      const isNew = !before.has(path);
      const isOther = now.get(path) !== before.get(path);
      return {
        path,
        text: text(path),
        dialect: layout.dialect,
        ran: !isOther,
        ...(isOther && !isNew ? { rewritten: "it has been in the repository before this branch" } : {}),
        ...(now.has(undo) ? { undo: { path: undo, text: text(undo) } } : {}),
      };
    });
}

function fromJson<T>(text: string | null, read: (value: unknown) => T): T | null {
  return text === null ? null : read(JSON.parse(text));
}
