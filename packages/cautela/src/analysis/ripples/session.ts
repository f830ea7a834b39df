import type { Policy } from "../../policy/policy.ts";
import type { Dialect, SessionState } from "../../sql/dialects/dialect.ts";

/** The session as the script has set it (`setting`), else the policy, else the engine's default. */
export function sessionState(dialect: Dialect, setting: (name: string) => string | null, policy: Policy): SessionState {
  return dialect.run.session((name) => (setting(name) ?? policy.settings?.[name] ?? null)?.toLowerCase() ?? null);
}
