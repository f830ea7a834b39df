import { NO_RELATIONS, refused, type ViewRules } from "../../../analysis/views/refusals.ts";

export const sqliteViews: ViewRules = {
  refusals: () => refused("SQLite writes through no view: only an INSTEAD OF trigger can"),
  ...NO_RELATIONS,
};
