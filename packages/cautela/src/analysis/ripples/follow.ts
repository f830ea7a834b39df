import type { Catalog, RelationObject } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/keys.ts";
import {
  type Routine,
  type Rule,
  shownName,
  shownTrigger,
  type Table,
  type Trigger,
  unknownTable,
  type View,
} from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import {
  bodyStatements,
  conditionTree,
  defaultTree,
  type Parsed,
  packageMembers,
  packageOf,
} from "../../catalog/parsed-code.ts";
import type { Dialect, SessionState } from "../../sql/dialects/dialect.ts";
import { dialects } from "../../sql/dialects/index.ts";
import type { Name, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { wordIn } from "../../text/word-in.ts";
import { PLAIN, type RowChange, rowChangesOf } from "../changes/row-change.ts";
import type { ConstantValue } from "../conditions/conditions.ts";
import { writesNoRows } from "../statement/unfollowed.ts";
import type { WriteAction } from "../views/refusals.ts";
import { knownUpdatability, type Updatability } from "../views/updatability.ts";
import { edgesFrom } from "./chain.ts";
import { isChildless } from "./childless.ts";
import { type CodeEffects, effectsOf, type Guard, isPseudo } from "./code-effects.ts";
import { firingTriggers } from "./firing-triggers.ts";
import { decide, endsItself, type FiredBy, leavesAlone, runs, valuesKey } from "./guards.ts";
import { carriedBy } from "./keys.ts";
import { ownPath } from "./own-path.ts";
import { firedBy, NO_VALUES, type PropagatedChange, type Step, spreadOf } from "./propagated-change.ts";
import type { Ripple, RippleEdge, RippleNode, RippleNote, Spread } from "./ripple.ts";
import { doesNothing, ruleRefusal } from "./rule-refusals.ts";

/** This many places are followed, and this many one after the other; beyond them the ripple is reported as not followed. */
const LIMIT = 2000;
const DEEPEST = 150;

/** Follows one change through views, rules, triggers, routines, cascades and partitions to its end. */
export function follow(
  firing: RowChange & { relation: RelationObject },
  catalog: Catalog,
  session: SessionState,
): Ripple {
  const follower = new Follower(catalog, session);
  follower.wave(
    {
      relation: firing.relation,
      action: firing.action,
      columns: firing.columns,
      values: firing.values,
      spread: "same",
      times: "one",
      fires: true,
      rowless: firing.reach.bound === "none",
      cascades: firing.cascades,
      only: firing.only,
      replaced: firing.replaced,
      manner: firing.manner,
      change: firing.change,
    },
    null,
    null,
  );
  return follower.ripple;
}

/** Follows the call of a routine, once or many times; null where the catalog does not hold it. */
export function followCall(name: Name, catalog: Catalog, session: SessionState, many: boolean): Ripple | null {
  const routine = catalog.routine(name);
  if (!routine) return null;
  const follower = new Follower(catalog, session);
  follower.routine(routine, null, null, many ? "some" : "one");
  return follower.ripple;
}

class Follower {
  readonly #catalog: Catalog;
  readonly #dialect: Dialect;
  readonly #session: SessionState;
  readonly #nodes: RippleNode[] = [];
  readonly #edges: RippleEdge[] = [];
  readonly #notes: RippleNote[] = [];
  readonly #noted = new Set<string>();
  readonly #known = new Map<string, number>();
  /** The nodes between the statement and here, and the triggers that are at work. */
  readonly #path: number[] = [];
  /** The package whose member is followed. */
  #package: Routine | null = null;
  readonly #active: string[] = [];

  #cutOff: string | null = null;

  constructor(catalog: Catalog, session: SessionState) {
    this.#catalog = catalog;
    this.#dialect = dialects[catalog.dialect];
    this.#session = session;
  }

  get ripple(): Ripple {
    this.#widen();
    return { nodes: this.#nodes, edges: this.#edges, notes: this.#notes, cutOff: this.#cutOff };
  }

  /** A place that is reached more than once holds the rows of every arrival, and so does all that lies after it. */
  #widen(): void {
    const arrivals = new Map<number, number>([[0, 1]]);
    for (const { to } of this.#edges) arrivals.set(to, (arrivals.get(to) ?? 0) + 1);
    const wide = [...arrivals].filter(([, count]) => count > 1).map(([id]) => id);
    if (wide.length === 0) return;
    const from = edgesFrom(this.#edges);
    const seen = new Set(wide);
    for (let at = wide.pop(); at !== undefined; at = wide.pop()) {
      if (this.#nodes[at].spread !== "every") this.#nodes[at].spread = "some";
      for (const { to } of from.get(at) ?? []) {
        if (seen.has(to)) continue;
        seen.add(to);
        wide.push(to);
      }
    }
  }

  #note(note: RippleNote): void {
    const key = `${note.kind}\u0000${note.node}\u0000${note.name}\u0000${note.text}`;
    if (this.#noted.has(key)) return;
    this.#noted.add(key);
    this.#notes.push(note);
  }

  /** A change arrives at a table or view. */
  wave(arriving: PropagatedChange, from: number | null, step: Step | null): void {
    // What REPLACE takes away is a whole row; only a view is asked where the columns of the new one are.
    const wave = arriving.replaced && arriving.relation.object === "table" ? { ...arriving, columns: null } : arriving;
    const { relation, action, columns } = wave;
    if (step && this.#refusesOwnTable(relation, step)) return;
    const key = `${tableKey(relation.schema, relation.name)}\u0000${action}\u0000${columns ? [...columns].sort().join() : "*"}\u0000${wave.fires}${wave.replaced}${valuesKey(wave.values)}`;
    const known = this.#known.get(key);
    if (known !== undefined) {
      if (from !== null && step) this.#edges.push({ from, to: known, ...step });
      if (this.#path.includes(known) && step && this.#goesRound(wave)) this.#loop(known, step);
      return;
    }
    if (this.#nodes.length >= LIMIT || this.#path.length >= DEEPEST) {
      const many = this.#nodes.length >= LIMIT;
      this.#cutOff = many
        ? `more than ${LIMIT} places are reached; what lies beyond is not followed`
        : `more than ${DEEPEST} places are reached one after the other; what lies beyond is not followed`;
      this.#note({
        kind: "opaque",
        node: from ?? 0,
        name: shownName(relation),
        text: this.#cutOff,
        columns: [],
        certain: true,
      });
      return;
    }
    const node = this.#node(relation.object, shownName(relation), action, columns, wave.spread);
    node.written = relation.object === "table" && !wave.rowless;
    node.relation = relation;
    node.rows = relation.object === "table" ? relation.rows : null;
    this.#known.set(key, node.id);
    if (from !== null && step) this.#edges.push({ from, to: node.id, ...step });
    this.#path.push(node.id);
    if (relation.object === "view") this.#throughView(wave, node);
    else this.#atTable(wave, relation, node, step?.how !== "partition");
    this.#path.pop();
  }

  #node(
    object: RippleNode["object"],
    name: string,
    action: RippleNode["action"],
    columns: readonly string[] | null,
    spread: Spread,
  ): RippleNode {
    const node: RippleNode = {
      id: this.#nodes.length,
      object,
      name,
      action,
      columns,
      spread,
      written: false,
      rows: null,
      relation: null,
    };
    this.#nodes.push(node);
    return node;
  }

  /** MySQL and Oracle: a row trigger may not change a table that the statement is changing. */
  #refusesOwnTable(relation: RelationObject, step: Step): boolean {
    const { engine, title } = this.#dialect;
    if (!engine.mutatingTables) return false;
    if (step.how !== "trigger" && step.how !== "routine") return false;
    const own = this.#path.find((node) => this.#nodes[node].name === shownName(relation) && this.#nodes[node].written);
    if (own === undefined || this.#active.length === 0) return false;
    this.#note({
      kind: "loop",
      node: own,
      name: step.name,
      text: `${step.how} \`${step.name}\` changes \`${shownName(relation)}\`, which the statement is changing: ${title} refuses that`,
      columns: [],
      certain: step.certain,
    });
    return true;
  }

  /** Whether a trigger that is at work would fire and act again for this change. */
  #goesRound(wave: PropagatedChange): boolean {
    const by = { ...firedBy(wave), depth: this.#active.length };
    for (const trigger of this.#catalog.triggersOf(tableKey(wave.relation.schema, wave.relation.name))) {
      if (!this.#active.includes(`${trigger.table}\u0000${trigger.name}`)) continue;
      const condition = trigger.condition === null ? null : conditionTree(trigger, this.#dialect.id);
      if (condition && decide(condition.tree, by) === false) continue;
      const parsed = this.#triggerBody(trigger);
      if (!parsed) return true;
      const inside = { ...by, depth: by.depth + 1 };
      const effects = effectsOf(parsed, this.#dialect);
      if (
        effects.statements.some((one) => runs(one.guards, inside) !== false && !endsItself(one.statement, one.guards))
      )
        return true;
    }
    return false;
  }

  /** The same change of the same table again, while it is still going on. */
  #loop(node: number, step: Step): void {
    if (step.how === "cascade" || step.how === "partition" || step.how === "view") return;
    this.#note({
      kind: "loop",
      node,
      name: step.name,
      text: `${step.how} \`${step.name}\` changes \`${this.#nodes[node].name}\` again, which sets it off again`,
      columns: this.#nodes[node].columns ?? [],
      certain: step.certain,
    });
  }

  // ------------------------------------------------------------ views

  #throughView(wave: PropagatedChange, node: RippleNode): void {
    if (wave.relation.object !== "view") return;
    const view = wave.relation;
    const action: WriteAction = wave.action === "truncate" ? "delete" : wave.action;
    const found = knownUpdatability(view, this.#catalog, this.#dialect);
    if (!found.known) {
      this.#opaque(node.id, shownName(view), "its query, or what it is based on, is not in the catalog");
      return;
    }
    // The row that REPLACE takes away goes from the table in which the new one is put, without the view's own triggers and rules.
    if (wave.replaced) {
      if (found.through.insert === "view") this.#below(wave, view, found, node);
      return;
    }
    if (this.#refusedForRules(wave, node)) return;
    for (const rule of found.rules[action] ?? []) this.#rule(rule, wave, node);
    switch (found.through[action]) {
      case "trigger":
        for (const trigger of found.triggers[action] ?? []) this.#trigger(trigger, wave, node, []);
        return;
      case "rule":
        return;
      case null:
        if (wave.manner.beside && found.alone && action === "update") break;
        this.#note({
          kind: "sealed",
          node: node.id,
          name: shownName(view),
          text: found.reason[action] ?? "it cannot be written",
          columns: [],
          certain: true,
        });
        return;
      default:
    }
    this.#below(wave, view, found, node);
  }

  /** The change arrives at the tables and views that a view reads. */
  #below(wave: PropagatedChange, view: View, found: Updatability, node: RippleNode): void {
    // One view after the other: each may have rules and triggers of its own.
    const targets = new Map<RelationObject, { columns: string[]; values: Map<string, ConstantValue> }>();
    const written =
      wave.columns ?? (wave.action === "insert" || wave.replaced ? found.columns.map(({ name }) => name) : null);
    for (const column of written ?? []) {
      const below = found.columns.find((one) => one.name === column)?.below;
      if (!below) continue;
      const target = targets.get(below.relation) ?? { columns: [], values: new Map<string, ConstantValue>() };
      target.columns.push(below.column);
      const value = wave.values.get(column);
      if (value) target.values.set(below.column, value);
      targets.set(below.relation, target);
    }
    if (written === null) for (const one of found.below) targets.set(one, { columns: [], values: new Map() });
    for (const [table, target] of targets) {
      this.wave(
        {
          ...wave,
          relation: table,
          columns: written === null ? null : target.columns,
          values: target.values,
          manner: found.joined ? { ...wave.manner, beside: true } : wave.manner,
        },
        node.id,
        {
          how: "view",
          name: shownName(view),
          reason: `the view \`${shownName(view)}\` is based on \`${shownName(table)}\``,
          certain: true,
          definition: view.query ?? "",
        },
      );
    }
  }

  /** Whether the engine takes no such statement for the rules that stand here. */
  #refusedForRules({ relation, action, manner }: PropagatedChange, node: RippleNode): boolean {
    if (!this.#dialect.engine.rules || manner === PLAIN) return false;
    const rules = this.#catalog.rulesOf(tableKey(relation.schema, relation.name));
    const text = rules.length === 0 ? null : ruleRefusal(rules, action, manner);
    if (text === null) return false;
    this.#note({ kind: "sealed", node: node.id, name: node.name, text, columns: [], certain: true });
    return true;
  }

  /** A rule writes in place of the statement, or besides it (postgresql). */
  #rule(rule: Rule, wave: PropagatedChange, node: RippleNode): void {
    const parsed = bodyStatements(rule, this.#dialect.id);
    const condition = rule.condition === null ? null : conditionTree(rule, this.#dialect.id);
    const answer = rule.condition === null ? true : condition ? decide(condition.tree, firedBy(wave)) : null;
    if (answer === false) return;
    if (rule.body === null || doesNothing(rule)) {
      if (rule.instead)
        this.#note({
          kind: "swallows",
          node: node.id,
          name: rule.name,
          text: `rule \`${rule.name}\` does nothing instead`,
          columns: [],
          certain: answer === true,
        });
      return;
    }
    if (!parsed) {
      this.#opaque(node.id, rule.name, "what the rule does could not be read");
      return;
    }
    const step: Step = {
      how: "rule",
      name: rule.name,
      reason: `rule \`${rule.name}\` acts ${rule.instead ? "instead" : "besides"}`,
      certain: answer === true,
      definition: rule.body,
    };
    this.#body(parsed, wave, node, step, { times: wave.spread });
  }

  // ------------------------------------------------------------ tables

  /** `whole`: it is not reached as a partition of a table at which its triggers and keys have been followed already. */
  #atTable(wave: PropagatedChange, table: Table, node: RippleNode, whole: boolean): void {
    const key = tableKey(table.schema, table.name);
    const above = whole ? this.#above(table) : [];
    if (wave.only && wave.action === "truncate" && table.kind === "partitioned") {
      const text = "TRUNCATE ONLY does not take a partitioned table, which has no rows of its own";
      this.#note({ kind: "sealed", node: node.id, name: node.name, text, columns: [], certain: true });
      node.written = false;
      return;
    }
    // A rule rewrites the statement that names the table, not what goes on below it.
    const instead = !wave.below && this.#tableRules(wave, key, node);
    if (instead) {
      node.written = false;
      return;
    }
    const rewritten: string[] = [];
    const fired = this.#triggers(wave, key, node, above);
    const insteadOf = fired.filter((one) => one.timing === "instead");
    if (insteadOf.length > 0) {
      // T-SQL: the trigger writes instead of the statement.
      node.written = false;
      for (const trigger of insteadOf) this.#trigger(trigger, wave, node, rewritten);
      return;
    }
    for (const trigger of fired) if (trigger.timing === "before") this.#trigger(trigger, wave, node, rewritten);
    this.#columns(wave, table, node, rewritten);
    this.#defaults(wave, table, node);
    this.#keys(wave, table, node, rewritten, above);
    if (!wave.only) this.#children(wave, table, node);
    for (const trigger of fired) if (trigger.timing === "after") this.#trigger(trigger, wave, node, rewritten);
    if (wave.moves && table.kind !== "partitioned")
      for (const action of ["delete", "insert"] as const) {
        const moved = { ...wave, action, columns: null, values: NO_VALUES };
        for (const trigger of this.#triggers(moved, key, node, this.#above(table)))
          if (trigger.level === "row") this.#trigger(trigger, moved, node, []);
      }
  }

  /** The tables that this one is a partition of: their row triggers and the keys that refer to them hold for it too. */
  #above(table: Table): Table[] {
    const list: Table[] = [];
    for (let at = table.partitionOf; at !== null && list.length < DEEPEST; at = list[list.length - 1].partitionOf) {
      const parent = this.#catalog.byKey(at);
      if (!parent) break;
      list.push(parent);
    }
    return list;
  }

  /** Rules of a table; true when one of them acts in place of the statement for sure. */
  #tableRules(wave: PropagatedChange, key: string, node: RippleNode): boolean {
    if (!this.#dialect.engine.rules || wave.action === "truncate") return false;
    if (this.#refusedForRules(wave, node)) return true;
    let instead = false;
    for (const rule of this.#catalog.rulesOf(key)) {
      if (rule.event !== wave.action || !rule.enabled) continue;
      if (rule.instead && rule.condition === null) instead = true;
      this.#rule(rule, wave, node);
    }
    return instead;
  }

  #triggers(wave: PropagatedChange, key: string, node: RippleNode, above: readonly Table[]): Trigger[] {
    const triggers = this.#catalog.triggersOf(key);
    for (const { schema, name } of above)
      for (const one of this.#catalog.triggersOf(tableKey(schema, name)))
        if (one.level === "row" && !triggers.some((own) => own.name === one.name)) triggers.push(one);
    const { fires, skipped } = firingTriggers(wave, triggers, this.#dialect, this.#session);
    for (const { trigger, text } of skipped)
      this.#note({ kind: "skipped", node: node.id, name: shownTrigger(trigger), text, columns: [], certain: true });
    return fires;
  }

  #trigger(trigger: Trigger, wave: PropagatedChange, node: RippleNode, rewritten: string[]): void {
    const { id } = this.#dialect;
    const key = `${trigger.table}\u0000${trigger.name}`;
    const by = { ...firedBy(wave, rewritten), depth: this.#active.length };
    let certain = !wave.moves || wave.action === "update";
    if (trigger.condition !== null) {
      const condition = conditionTree(trigger, id);
      const answer = condition ? decide(condition.tree, by) : null;
      if (answer === false) return;
      certain &&= answer === true;
    }
    if (this.#active.includes(key)) {
      // SQLite and SQL Server do not fire a trigger inside itself unless that is switched on.
      // In SQL Server that holds for a trigger that sets itself off at once; by way of another one it goes round to level 32.
      const around = this.#dialect.engine.indirectRecursion && this.#active[this.#active.length - 1] !== key;
      if ((!this.#session.recursion && !around) || !this.#goesRound(wave)) return;
      this.#loop(node.id, { how: "trigger", name: shownTrigger(trigger), reason: "", certain, definition: "" });
      return;
    }
    const parsed = this.#triggerBody(trigger);
    const kind = trigger.timing === "instead" ? "INSTEAD OF" : trigger.timing.toUpperCase();
    const step: Step = {
      how: "trigger",
      name: shownTrigger(trigger),
      reason: `trigger \`${shownTrigger(trigger)}\` fires ${kind} ${wave.action.toUpperCase()} on \`${node.name}\``,
      certain,
      definition: this.#triggerText(trigger),
    };
    if (!parsed) {
      this.#opaque(node.id, shownTrigger(trigger), "what this trigger does is not known");
      return;
    }
    this.#active.push(key);
    this.#body(parsed, wave, node, step, {
      times: trigger.level === "row" && !this.#dialect.engine.statementTriggers ? wave.spread : wave.times,
      trigger,
      rewritten,
      by: { ...by, depth: by.depth + 1 },
    });
    this.#active.pop();
  }

  #triggerBody(trigger: Trigger): Parsed<readonly Statement[]> | null {
    const routine = trigger.calls === null ? null : this.#catalog.object("routine", trigger.calls);
    if (trigger.calls !== null) return routine?.object === "routine" ? bodyStatements(routine, this.#dialect.id) : null;
    return bodyStatements(trigger, this.#dialect.id);
  }

  #triggerText(trigger: Trigger): string {
    if (trigger.calls === null) return trigger.body ?? "";
    const routine = this.#catalog.object("routine", trigger.calls);
    return routine?.object === "routine" ? (routine.definition ?? "") : "";
  }

  // ------------------------------------------------------------ code

  #body(
    parsed: Parsed<readonly Statement[]>,
    wave: PropagatedChange,
    node: RippleNode,
    step: Step,
    how: { times: Spread; trigger?: Trigger; rewritten?: string[]; by?: FiredBy | null },
  ): void {
    const effects = effectsOf(parsed, this.#dialect);
    const by = how.by === undefined ? firedBy(wave) : how.by;
    const answers = (guards: readonly Guard[]): boolean | null => runs(guards, by);
    if (how.trigger) this.#stopsAndRewrites(effects, how.trigger, wave, node, step, answers, how.rewritten ?? []);
    // A rule has been settled when it was made.
    this.#effects(effects, node, step, answers, { times: how.times, definition: how.trigger ? step.definition : null });
  }

  /** What a trigger does to the row itself, or to the statement. */
  #stopsAndRewrites(
    effects: CodeEffects,
    trigger: Trigger,
    wave: PropagatedChange,
    node: RippleNode,
    step: Step,
    answers: (guards: readonly Guard[]) => boolean | null,
    rewritten: string[],
  ): void {
    for (const { what, message, guards } of effects.stops) {
      // Only a row trigger that fires before drops the row by returning NULL.
      const plpgsql = this.#dialect.engine.nullSwallowsRow;
      if (what === "swallows" && plpgsql && (trigger.timing !== "before" || trigger.level === "statement")) continue;
      const answer = answers(guards);
      if (answer === false || leavesAlone(guards, firedBy(wave))) continue;
      this.#note({
        kind: what,
        node: node.id,
        name: shownTrigger(trigger),
        text: message,
        columns: [],
        certain: answer === true && step.certain,
      });
    }
    if (trigger.timing !== "before" || wave.action === "delete" || trigger.level === "statement") return;
    for (const { column, value, form, guards } of effects.rewrites) {
      const answer = answers(guards);
      if (answer === false) continue;
      if (!rewritten.includes(column)) rewritten.push(column);
      // What was tidied when it was written is tidy still, unless it was written before the trigger was there.
      const beside = wave.action === "update" && wave.columns !== null && !wave.columns.includes(column);
      const kept = value === "tidy" && wave.action === "insert";
      this.#note({
        kind: value === "stamp" ? "stamps" : value === "tidy" && (beside || kept) ? "tidies" : "rewrites",
        node: node.id,
        name: shownTrigger(trigger),
        text: `trigger \`${shownTrigger(trigger)}\` gives \`${column}\` a value of its own`,
        against: value === "tidy" && beside ? this.#tidiedOtherwise(trigger, column, form) : null,
        columns: [column],
        certain: answer === true && step.certain,
      });
    }
  }

  /** The trigger that gives new rows another form of a column than this one gives to changed rows; null: none. */
  #tidiedOtherwise({ table, name }: Trigger, column: string, form: string): string | null {
    for (const other of this.#catalog.triggersOf(table)) {
      if (other.name === name || other.timing !== "before" || !other.events.includes("insert")) continue;
      const parsed = this.#triggerBody(other);
      for (const one of parsed ? effectsOf(parsed, this.#dialect).rewrites : [])
        if (one.column === column && one.value === "tidy" && one.form !== form) return other.name;
    }
    return null;
  }

  #effects(
    effects: CodeEffects,
    node: RippleNode,
    step: Step,
    answers: (guards: readonly Guard[]) => boolean | null,
    { times, definition }: { times: Spread; definition: string | null },
  ): void {
    const path = definition === null || !this.#dialect.engine.searchPath ? null : ownPath(definition);
    const catalog = path ? this.#catalog.along(path) : this.#catalog;
    for (const { statement, guards, many } of effects.statements) {
      const answer = answers(guards);
      if (answer === false) continue;
      for (const firing of rowChangesOf(statement, catalog, this.#dialect)) {
        const certain = answer === true && step.certain && firing.certain;
        if (!firing.relation && isPseudo(firing.written)) continue;
        // Where no catalog was given nobody knows what follows from there.
        const relation = firing.relation ?? (catalog.complete ? null : unknownTable(firing.written));
        if (!relation) {
          this.#opaque(node.id, step.name, `it writes \`${firing.written}\`, which is not in the catalog`);
          continue;
        }
        this.wave(
          {
            relation,
            action: firing.action,
            columns: firing.columns,
            values: firing.values,
            spread: spreadOf(firing.reach, many ? "some" : times),
            times: many ? "some" : times,
            fires: true,
            rowless: firing.reach.bound === "none",
            cascades: firing.cascades,
            only: firing.only,
            replaced: firing.replaced,
            manner: firing.manner,
          },
          node.id,
          { ...step, certain },
        );
      }
    }
    for (const { name, procedure, guards, many } of effects.calls) {
      const answer = answers(guards);
      if (answer === false) continue;
      const routine = catalog.routine(name) ?? this.#sibling(name);
      if (!routine) {
        if (procedure && !writesNoRows(name))
          this.#opaque(
            node.id,
            name.parts.map(({ text }) => text).join("."),
            "it is called, and is not in the catalog",
          );
        continue;
      }
      if (!procedure && (routine.volatility === "immutable" || routine.volatility === "stable")) continue;
      this.routine(routine, node, { ...step, certain: step.certain && answer === true }, many ? "some" : times);
    }
    for (const { why, guards } of effects.opaque) if (answers(guards) !== false) this.#opaque(node.id, step.name, why);
  }

  /** A routine is called; it is a place of its own only where it writes. */
  routine(routine: Routine, from: RippleNode | null, step: Step | null, spread: Spread): void {
    const name = shownName(routine);
    const key = `routine\u0000${tableKey(routine.schema, routine.name)}`;
    const known = this.#known.get(key);
    if (known !== undefined) {
      if (from && step) this.#edges.push({ from: from.id, to: known, ...step });
      return;
    }
    const parsed = bodyStatements(routine, this.#dialect.id);
    const effects = parsed ? effectsOf(parsed, this.#dialect) : null;
    const idle = effects?.statements.every(({ statement }) => statement.kind === "select" && !statement.query.with);
    if (effects && idle && from && effects.calls.length === 0 && effects.opaque.length === 0) return;
    const node = this.#node("routine", name, "call", null, spread);
    this.#known.set(key, node.id);
    if (from && step) this.#edges.push({ from: from.id, to: node.id, ...step });
    if (!effects) {
      const foreign =
        routine.language !== "" && !/^(?:sql|plpgsql|tsql|plsql|mysql|mariadb|sqlite)$/i.test(routine.language);
      this.#opaque(node.id, name, foreign ? `it is written in ${routine.language}` : "its body could not be read");
      return;
    }
    this.#path.push(node.id);
    const own: Step = {
      how: "routine",
      name,
      reason: `routine \`${name}\` is called`,
      certain: true,
      definition: routine.definition ?? "",
    };
    const { definition } = routine;
    const outer = this.#package;
    this.#package = packageOf(routine);
    this.#effects(effects, node, own, (guards) => runs(guards, null), { times: spread, definition });
    this.#package = outer;
    this.#path.pop();
  }

  /** What a member of a package calls by its name alone may be another member. */
  #sibling(name: Name): Routine | undefined {
    if (!this.#package || name.parts.length > 1) return undefined;
    return packageMembers(this.#package, this.#dialect).get(foldName(name.parts[0], this.#dialect));
  }

  #opaque(node: number, name: string, text: string): void {
    this.#note({ kind: "opaque", node, name, text, columns: [], certain: true });
  }

  // ------------------------------------------------------------ columns, keys, partitions

  /** Columns that the engine itself writes. */
  #columns(wave: PropagatedChange, table: Table, node: RippleNode, rewritten: readonly string[]): void {
    if (wave.action === "delete" || wave.action === "truncate" || wave.rowless) return;
    for (const column of table.columns) {
      if (wave.action === "update" && column.onUpdate !== null && wave.fires && !wave.columns?.includes(column.name))
        this.#engineWrites("stamps", node, column.name, `the engine sets \`${column.name}\` at every UPDATE`);
      else if (
        wave.action === "update" &&
        this.#dialect.engine.rowversion &&
        /^(?:rowversion|timestamp)$/.test(column.type)
      )
        this.#engineWrites("stamps", node, column.name, `\`${column.name}\` counts the changes of its row`);
      else if (wave.action === "update" && column.expression !== null && wave.columns) {
        const { expression } = column;
        const source = [...wave.columns, ...rewritten].find((one) => wordIn(expression, one));
        if (source)
          this.#engineWrites("computes", node, column.name, `\`${column.name}\` is computed from \`${source}\``);
      }
    }
  }

  /** Columns that an INSERT leaves out are given their defaults, and a default may call a routine that writes. */
  #defaults(wave: PropagatedChange, table: Table, node: RippleNode): void {
    if (wave.action !== "insert" || wave.columns === null) return;
    for (const column of table.columns) {
      const { name } = column;
      if (!column.default?.includes("(") || wave.columns.includes(name)) continue;
      const tree = defaultTree(column, this.#dialect.id);
      if (!tree) continue;
      walk(tree.tree, (one) => {
        const routine = one.kind === "call" ? this.#catalog.routine(one.name) : undefined;
        if (routine && routine.volatility !== "immutable" && routine.volatility !== "stable") {
          const reason = `the default of \`${name}\` calls it`;
          this.routine(
            routine,
            node,
            { how: "routine", name: shownName(routine), reason, certain: true, definition: "" },
            "some",
          );
        }
        return undefined;
      });
    }
  }

  #engineWrites(kind: "stamps" | "computes", node: RippleNode, column: string, text: string): void {
    this.#note({ kind, node: node.id, name: column, text, columns: [column], certain: true });
  }

  /** Foreign keys of other tables that refer to this one. */
  #keys(
    wave: PropagatedChange,
    table: Table,
    node: RippleNode,
    rewritten: readonly string[],
    above: readonly Table[],
  ): void {
    if (wave.action === "insert" || wave.rowless || this.#session.keys === false) return;
    for (const one of [table, ...above]) this.#keysOf(wave, one, node, rewritten);
  }

  #keysOf(wave: PropagatedChange, table: Table, node: RippleNode, rewritten: readonly string[]): void {
    const key = tableKey(table.schema, table.name);
    for (const child of this.#catalog.referencing(key)) {
      for (const foreign of child.foreignKeys) {
        if (foreign.table !== key || !foreign.enabled) continue;
        if (wave.change && isChildless(wave.change, table, child, foreign)) continue;
        const carried = carriedBy(foreign, { wave, table, child, rewritten }, this.#dialect, this.#session);
        if (carried?.held) {
          const { name, text, certain } = carried.held;
          this.#note({ kind: "held", node: node.id, name, text, columns: foreign.columns, certain });
        } else if (carried) this.wave(carried.wave, node.id, carried.step);
      }
    }
  }

  /** Partitions, and tables that inherit: their rows are rows of the parent too. */
  #children(wave: PropagatedChange, table: Table, node: RippleNode): void {
    if (wave.action === "insert" && table.kind !== "partitioned") return;
    for (const child of this.#catalog.childrenOf(tableKey(table.schema, table.name))) {
      if (child === table) continue;
      const spread = wave.spread === "every" ? "every" : "some";
      // The partition key is part of every key (PostgreSQL 15 manual, 5.11.2.3, and UPDATE, "Notes").
      const moves =
        wave.moves ||
        (wave.action === "update" && child.partitionOf !== null && touches(wave.columns, table.primaryKey?.columns));
      this.wave({ ...wave, relation: child, spread, below: true, moves }, node.id, {
        how: "partition",
        name: shownName(child),
        reason:
          child.partitionOf === null
            ? `\`${shownName(child)}\` inherits from it, so its rows are met too`
            : `\`${shownName(child)}\` is a partition of it`,
        certain: false,
        definition: "",
      });
    }
  }
}

/** Whether a change gives one of the columns a value; null: all of them. */
function touches(changed: readonly string[] | null, columns: readonly string[] | undefined): boolean {
  return columns?.some((one) => changed === null || changed.includes(one)) ?? false;
}
