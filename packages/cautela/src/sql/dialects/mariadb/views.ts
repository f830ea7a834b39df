import type { ViewRules } from "../../../analysis/views/refusals.ts";
import { familyRefusals, mysqlViews } from "../mysql/views.ts";

export const mariadbViews: ViewRules = { ...mysqlViews, refusals: familyRefusals };
