import type { Policy } from "../../policy.ts";
import type { DialectId } from "../../sql/dialects/dialect.ts";
import type { History } from "../history.ts";

/** The settings of the session that decide what fires. */
export interface SessionState {
  /** Foreign keys are enforced; null: the engine's default says no, and whoever connects may have said yes (sqlite). */
  keys: boolean | null;
  /** Triggers of ordinary sessions fire (false under `session_replication_role = replica`). */
  triggers: boolean;
  /** A trigger can fire itself again: `recursive_triggers` (sqlite). */
  recursion: boolean;
}

/** The session as the script has set it, else the policy, else the engine's default. */
export function sessionState(dialect: DialectId, history: History, policy: Policy): SessionState {
  const setting = (name: string): string | null =>
    (history.setting(name) ?? policy.settings?.[name] ?? null)?.toLowerCase() ?? null;
  const on = (value: string): boolean => /^(?:on|1|true|yes)$/.test(value);
  switch (dialect) {
    case "sqlite": {
      const keys = setting("foreign_keys");
      const recursive = setting("recursive_triggers");
      return {
        keys: keys === null ? null : on(keys),
        triggers: true,
        recursion: recursive !== null && on(recursive),
      };
    }
    case "mysql":
    case "mariadb": {
      const keys = setting("foreign_key_checks") ?? setting("@@foreign_key_checks");
      return { keys: keys === null || on(keys), triggers: true, recursion: true };
    }
    case "postgresql": {
      const replica = setting("session_replication_role") === "replica";
      return { keys: !replica, triggers: !replica, recursion: true };
    }
    default:
      return { keys: true, triggers: true, recursion: true };
  }
}
