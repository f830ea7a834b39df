import type { DialectId } from "../sql/dialects/dialect.ts";
import { dialects } from "../sql/dialects/index.ts";
import type { Name } from "../sql/nodes/tree.ts";
import { tableKey } from "./keys.ts";
import type { CatalogObject, ObjectKind, Routine, Rule, Table, Trigger, TypeObject, View } from "./model.ts";
import { foldName, tableNameOf } from "./names.ts";
import { packageMembers } from "./parsed-code.ts";

/** A statement of a catalog's DDL that could not be read: what it makes is missing. */
export interface UnreadDdl {
  /** The file it stands in; empty where nobody named one. */
  path: string;
  line: number;
  /** Its first words. */
  text: string;
}

/** A table or a view. */
export type RelationObject = Table | View;

/** Objects of one layer, and what finds them. */
class Layer {
  readonly objects = new Map<ObjectKind, Map<string, CatalogObject | null>>();
  /** Keys of relations and synonyms by their bare name. */
  readonly byName = new Map<string, Set<string>>();
  /** Keys of triggers and rules by the key of their table. */
  readonly byTable = new Map<string, Set<string>>();
  /** Keys of tables by the key of a table that they refer to, inherit from or are a partition of. */
  readonly referring = new Map<string, Set<string>>();
  /** Schemas that it makes, by CREATE SCHEMA or by what stands in them, and schemas that it drops (false). */
  readonly schemas = new Map<string, boolean>();

  of(kind: ObjectKind): Map<string, CatalogObject | null> {
    const known = this.objects.get(kind);
    if (known) return known;
    const map = new Map<string, CatalogObject | null>();
    this.objects.set(kind, map);
    return map;
  }
}

function index(map: Map<string, Set<string>>, at: string, key: string): void {
  const keys = map.get(at);
  if (keys) keys.add(key);
  else map.set(at, new Set([key]));
}

/**
 * What a database holds. A catalog is never changed in place by a review: {@link fork} gives a
 * layer over it that takes the changes of a script and costs nothing until then.
 */
export class Catalog {
  readonly dialect: DialectId;
  readonly #parent: Catalog | null;
  readonly #layer = new Layer();
  /** No part of it is missing on purpose: a table that it lacks does not exist. */
  readonly complete: boolean;
  #searchPath: readonly string[];
  #changes = 0;
  #additions = 0;
  #ties = 0;
  /** The keys that bare names mean, as long as nothing is added or removed. */
  readonly #meant = new Map<string, string | null>();
  #meantAt = -1;
  /** Types by their names, as long as nothing is added. */
  readonly #typed = new Map<string, TypeObject | null>();
  #typedAt = -1;
  /** Whether tables are referred to, as long as no tie changes. */
  readonly #referred = new Map<string, boolean>();
  #referredAt = -1;
  readonly #code: CatalogObject[] = [];
  readonly #unread: UnreadDdl[] = [];
  #holdsBuilt = false;
  /** What takes its changes back since a transaction began; null outside of one. */
  #undo: (() => void)[] | null = null;
  /** The path that comes back when the transaction ends: SET LOCAL. */
  #pathBefore: readonly string[] | null = null;
  readonly #others = new Map<string, Catalog>();
  /** Whether the script itself says where names are looked for. */
  #pathSaid = false;
  /** The database in which tables without one are taken to stand, where a script names it: USE. */
  #unnamed: string | null = null;
  #unsettled = false;
  /** Columns that routines may have added, of which nothing is known but that they were given them. */
  readonly #perhaps = new Set<string>();
  /** The database in use, where schemas stand in databases (tsql). */
  #database: string | null = null;

  constructor(
    dialect: DialectId,
    options: { parent?: Catalog; complete?: boolean; searchPath?: readonly string[] } = {},
  ) {
    this.dialect = dialect;
    this.#parent = options.parent ?? null;
    this.complete = options.complete ?? options.parent?.complete ?? true;
    this.#searchPath = options.searchPath ?? options.parent?.searchPath ?? [dialects[dialect].grammar.defaultSchema];
    this.#unnamed = options.parent ? options.parent.#unnamed : null;
    this.#unsettled = options.parent ? options.parent.#unsettled : false;
    this.#database = options.parent ? options.parent.#database : null;
  }

  /** A catalog that begins as this one and can be changed without touching it. */
  fork(): Catalog {
    return new Catalog(this.dialect, { parent: this });
  }

  /** Another number after each change: what was found out before holds as long as it stays the same. */
  get version(): number {
    return this.#changes + (this.#parent?.version ?? 0);
  }

  /** Another number after relations come or go: until then names mean the same keys. */
  get additions(): number {
    return this.#additions + (this.#parent?.additions ?? 0);
  }

  /** Another number after what depends on tables may have changed: triggers, rules, keys, partitions, views. */
  get ties(): number {
    return this.#ties + (this.#parent?.ties ?? 0);
  }

  /** Where names without a schema are looked for, in order. */
  get searchPath(): readonly string[] {
    return this.#searchPath;
  }

  set searchPath(path: readonly string[]) {
    const before = this.#searchPath;
    const said = this.#pathSaid;
    this.#undo?.push(() => {
      this.#searchPath = before;
      this.#pathSaid = said;
    });
    this.#changed();
    this.#searchPath = path;
    this.#pathSaid = true;
  }

  /** The same objects, with names looked for along a path: inside a routine that sets its own. */
  along(path: readonly string[]): Catalog {
    const key = path.join("\u0000");
    const known = this.#others.get(key);
    if (known) return known;
    const other = this.fork();
    other.searchPath = path;
    this.#others.set(key, other);
    return other;
  }

  /** The search path until the transaction ends (SET LOCAL of PostgreSQL). */
  searchLocally(path: readonly string[]): void {
    this.#pathBefore ??= this.#searchPath;
    this.searchPath = path;
  }

  /** Goes to another database (USE): the first one that a script names is taken for that of the tables without one. */
  use(database: string): void {
    const { engine, grammar } = dialects[this.dialect];
    const { defaultSchema, systemDatabases } = grammar;
    if (engine.threePartNames) {
      if (!systemDatabases.includes(database.toLowerCase())) this.#unnamed ??= database;
      this.#database = database;
      this.searchPath = [this.#within(database, defaultSchema)];
      return;
    }
    if (this.#unnamed === null && this.holdsSchema(defaultSchema) && !this.holdsSchema(database))
      this.#unnamed = database;
    this.searchPath = database === this.#unnamed ? [defaultSchema] : [database, defaultSchema];
  }

  /** A schema of a database: under its own name in the one that the script began in, under both names in another. */
  #within(database: string | null, schema: string): string {
    return database === null || database === this.#unnamed ? schema : `${database}.${schema}`;
  }

  /** The schema that a name gives, or the one in which a bare name is looked for first. */
  #schemaOf({ parts }: Name, schema: string): string {
    const { engine, grammar } = dialects[this.dialect];
    if (!engine.threePartNames) return schema === this.#unnamed ? grammar.defaultSchema : schema;
    // A temporary table is the session's, whatever database is in use.
    if (parts[parts.length - 1].text.startsWith("#")) return schema;
    // Without USE nobody knows which database is meant.
    if (this.#database === null) return schema;
    const named = parts.length > 2 ? foldName(parts[parts.length - 3], dialects[this.dialect]) : this.#database;
    return this.#within(named, schema);
  }

  /** SQL has run that could not be read, and may have altered any table. */
  get unsettled(): boolean {
    return this.#unsettled;
  }

  /** Whether a table may have got a column that it is not known to have. */
  mayHave(table: string, column: string): boolean {
    return this.#perhaps.has(`${table}\u0000${column}`) || (this.#parent?.mayHave(table, column) ?? false);
  }

  mayGet(table: string, column: string): void {
    this.#perhaps.add(`${table}\u0000${column}`);
  }

  unsettle(): void {
    this.#unsettled = true;
  }

  #changed(): void {
    this.#changes++;
    this.#additions++;
    this.#ties++;
  }

  /** Makes a schema (CREATE SCHEMA, CREATE DATABASE). */
  makeSchema(name: string): void {
    this.#setSchema(name, true);
    this.#changed();
  }

  /** Drops a schema; what stands in it is removed by itself. */
  dropSchema(name: string): void {
    this.#setSchema(name, false);
    this.#changed();
  }

  #setSchema(name: string, held: boolean): void {
    const { schemas } = this.#layer;
    const before = schemas.get(name);
    if (before === held) return;
    this.#undo?.push(() => {
      if (before === undefined) schemas.delete(name);
      else schemas.set(name, before);
    });
    schemas.set(name, held);
  }

  /** Whether a schema has been made, or holds anything. */
  holdsSchema(name: string): boolean {
    const own = this.#layer.schemas.get(name);
    return own ?? this.#parent?.holdsSchema(name) ?? false;
  }

  /** Whether a schema has been dropped, and not made again since. */
  #lacksSchema(name: string): boolean {
    const own = this.#layer.schemas.get(name);
    return own === undefined ? (this.#parent ? this.#parent.#lacksSchema(name) : false) : !own;
  }

  /**
   * Where a new object of that name goes: a name without a schema into the first schema of the search path that there is
   * (PostgreSQL 15 manual, 5.9.3), a temporary one into a place of its own.
   */
  place(name: Name, temporary = false): { schema: string; table: string } {
    const dialect = dialects[this.dialect];
    const place = tableNameOf(name, dialect);
    const { temporarySchema } = dialect.grammar;
    if (name.parts.length > 1) {
      if (place.schema === temporarySchema) return { ...place, schema: this.#temporary(this.#searchPath[0]) };
      // The database that USE names may be that of the tables without one.
      const schema = this.#schemaOf(name, place.schema);
      return { ...place, schema: temporary ? this.#temporary(schema) : schema };
    }
    if (temporary && temporarySchema !== "" && !dialect.grammar.temporaryBesides)
      return { ...place, schema: temporarySchema };
    const schema = this.#home();
    return { ...place, schema: temporary ? this.#temporary(schema) : schema };
  }

  /** The schema of temporary tables, where they are made beside those of a schema (MariaDB) the one for these. */
  #temporary(schema: string): string {
    const { temporarySchema, temporaryBesides } = dialects[this.dialect].grammar;
    return temporarySchema === "" ? schema : temporaryBesides ? temporarySchema + schema : temporarySchema;
  }

  /** The schema into which an object goes whose name gives none. */
  #home(): string {
    const dialect = dialects[this.dialect];
    const { defaultSchema } = dialect.grammar;
    if (!this.#pathSaid && this.#searchPath.length === 1) return this.#searchPath[0];
    const there = this.#searchPath.filter((one) => !this.#lacksSchema(one));
    const schema =
      dialect.engine.searchPath && this.complete
        ? (there.find((one) => one === defaultSchema || this.holdsSchema(one)) ?? there[0])
        : there[0];
    return schema ?? defaultSchema;
  }

  /** An object by its kind and key. */
  object(kind: ObjectKind, key: string): CatalogObject | undefined {
    const own = this.#layer.objects.get(kind)?.get(key);
    if (own !== undefined) return own ?? undefined;
    return this.#parent?.object(kind, key);
  }

  /** The table of that schema and name, both folded. */
  get(schema: string, table: string): Table | undefined {
    return this.byKey(tableKey(schema, table));
  }

  byKey(key: string): Table | undefined {
    return this.object("table", key) as Table | undefined;
  }

  view(key: string): View | undefined {
    return this.object("view", key) as View | undefined;
  }

  /** A table or a view by its key; synonyms are followed. */
  relation(key: string, depth = 0): RelationObject | undefined {
    const found = this.byKey(key) ?? this.view(key);
    if (found || depth > 8) return found;
    const synonym = this.object("synonym", key);
    return synonym?.object === "synonym" ? this.relation(synonym.target, depth + 1) : undefined;
  }

  /**
   * The table or view that a name in a statement means. A name without a schema is looked for along
   * the search path, then in any schema that holds just one relation of that name.
   */
  resolveRelation(name: Name): RelationObject | undefined {
    const { parts } = name;
    const last = parts[parts.length - 1];
    if (last.quoted || parts.length > 2 || (parts.length === 2 && parts[0].quoted)) return this.#lookUp(name);
    const version = this.version;
    if (this.#foundAt !== version || this.#foundCount > MEANT) {
      this.#nodeIndexOf.clear();
      this.#foundAt = version;
      this.#foundCount = 0;
    }
    const schema = parts.length === 2 ? parts[0].text : "";
    let within = this.#nodeIndexOf.get(schema);
    if (!within) {
      within = new Map();
      this.#nodeIndexOf.set(schema, within);
    }
    const known = within.get(last.text);
    if (known !== undefined) return known ?? undefined;
    const found = parts.length === 2 ? this.#lookUp(name) : this.#bare(name);
    this.#foundCount++;
    within.set(last.text, found ?? null);
    return found;
  }

  /** What names mean, as long as nothing changes. */
  readonly #nodeIndexOf = new Map<string, Map<string, RelationObject | null>>();
  #foundAt = -1;
  #foundCount = 0;

  #bare(name: Name): RelationObject | undefined {
    const [{ text }] = name.parts;
    const at = this.additions;
    if (this.#meantAt !== at || this.#meant.size > MEANT) {
      this.#meant.clear();
      this.#meantAt = at;
    }
    const key = this.#meant.get(text);
    if (key !== undefined) return key === null ? undefined : this.relation(key);
    const found = this.#lookUp(name);
    this.#meant.set(text, found ? tableKey(found.schema, found.name) : null);
    return found;
  }

  #lookUp(name: Name): RelationObject | undefined {
    const { schema, table } = tableNameOf(name, dialects[this.dialect]);
    const { defaultSchema, temporarySchema, temporaryBesides } = dialects[this.dialect].grammar;
    if (name.parts.length > 1) {
      if (schema === temporarySchema) return this.relation(tableKey(this.#temporary(this.#searchPath[0]), table));
      const own = this.#schemaOf(name, schema);
      const found =
        (temporaryBesides ? this.relation(tableKey(this.#temporary(own), table)) : undefined) ??
        this.relation(tableKey(own, table));
      if (found) return found;
      // A catalog from DDL without schemas: which schema its tables stand in is not known.
      return defaultSchema === "" && !this.holdsSchema(schema) ? this.relation(tableKey("", table)) : undefined;
    }
    if (temporarySchema !== "" && !temporaryBesides && !this.#searchPath.includes(temporarySchema)) {
      const found = this.relation(tableKey(temporarySchema, table));
      if (found) return found;
    }
    for (const one of this.#searchPath) {
      const found =
        (temporaryBesides ? this.relation(tableKey(this.#temporary(one), table)) : undefined) ??
        this.relation(tableKey(one, table));
      if (found) return found;
    }
    // Where nobody says in which schemas names are looked for, the only one that holds it is meant.
    if (this.#pathSaid) return undefined;
    let only: RelationObject | undefined;
    for (const key of this.#keysNamed(table)) {
      const candidate = this.relation(key);
      if (!candidate || candidate === only) continue;
      if (only) return undefined;
      only = candidate;
    }
    return only;
  }

  /** The table that a name means; undefined for views. */
  resolve(name: Name): Table | undefined {
    const found = this.resolveRelation(name);
    return found?.object === "table" ? found : undefined;
  }

  /** A routine by its name in a statement, whatever its arguments. */
  routine(name: Name): Routine | undefined {
    const { schema, table } = tableNameOf(name, dialects[this.dialect]);
    for (const one of name.parts.length > 1 ? [this.#schemaOf(name, schema)] : this.#searchPath) {
      const found = this.object("routine", tableKey(one, table));
      if (found?.object === "routine") return found;
    }
    if (name.parts.length < 2) return undefined;
    const owner = this.routine({ ...name, parts: name.parts.slice(0, -1) });
    return owner && packageMembers(owner, dialects[this.dialect]).get(table);
  }

  /** The key of a routine, a type, a sequence or a synonym as a statement names it: where it is found, or where it would be made. */
  keyOf(kind: ObjectKind, name: Name): string {
    if (name.parts.length === 1) {
      const { table } = tableNameOf(name, dialects[this.dialect]);
      for (const schema of this.#searchPath)
        if (this.object(kind, tableKey(schema, table))) return tableKey(schema, table);
    }
    const { schema, table } = this.place(name);
    return tableKey(schema, table);
  }

  /** A type by its name, with or without a schema. */
  type(name: string): TypeObject | undefined {
    const at = this.additions;
    if (this.#typedAt !== at) {
      this.#typed.clear();
      this.#typedAt = at;
    }
    const known = this.#typed.get(name);
    if (known !== undefined) return known ?? undefined;
    const found = this.#type(name);
    this.#typed.set(name, found ?? null);
    return found;
  }

  #type(name: string): TypeObject | undefined {
    const parts = name.split(".");
    const bare = parts[parts.length - 1];
    for (const schema of parts.length > 1 ? [parts[0]] : this.#searchPath) {
      const found = this.object("type", tableKey(schema, bare));
      if (found?.object === "type") return found;
    }
    return undefined;
  }

  /** Whether a schema held a table when the script began, or holds one now. */
  hasHeldSchema(schema: string): boolean {
    return this.holdsSchema(schema) || (this.#parent?.hasHeldSchema(schema) ?? false);
  }

  /** What of its DDL could not be read, in order. */
  get unread(): readonly UnreadDdl[] {
    const below = this.#parent?.unread ?? [];
    return this.#unread.length === 0 ? below : [...below, ...this.#unread];
  }

  /** Notes a statement that could not be read. */
  lacks(unread: UnreadDdl): void {
    this.#unread.push(unread);
  }

  /** The views, triggers, rules and routines that this layer was given, in order; some may be gone again. */
  get code(): readonly CatalogObject[] {
    return this.#code;
  }

  /** The catalog that this one is a layer over. */
  get below(): Catalog | null {
    return this.#parent;
  }

  put(object: CatalogObject): void {
    this.#changes++;
    if (CODE.has(object.object)) this.#code.push(object);
    const key = tableKey(object.schema, object.name);
    const layer = this.#layer;
    if (layer.schemas.get(object.schema) !== true) this.#setSchema(object.schema, true);
    switch (object.object) {
      case "table": {
        const before = this.byKey(key);
        if (!before) this.#additions++;
        if (!before || !sameTies(before, object)) this.#ties++;
        if (object.built.length > 0) this.#holdsBuilt = true;
        this.#set("table", key, object);
        index(layer.byName, object.name, key);
        for (const { table } of object.foreignKeys) index(layer.referring, table, key);
        for (const table of object.inherits) index(layer.referring, table, key);
        if (object.partitionOf !== null) index(layer.referring, object.partitionOf, key);
        return;
      }
      case "trigger":
      case "rule": {
        // Two tables may each have a trigger of the same name (postgresql).
        const own = `${object.table}\u0000${object.name}`;
        this.#ties++;
        this.#set(object.object, own, object);
        index(layer.byTable, object.table, own);
        return;
      }
      default:
        this.#additions++;
        this.#ties++;
        this.#set(object.object, key, object);
        if (object.object === "view" || object.object === "synonym") index(layer.byName, object.name, key);
    }
  }

  /** Removes an object. */
  remove(kind: ObjectKind, key: string): void {
    this.#changed();
    this.#set(kind, key, this.#parent?.object(kind, key) ? null : undefined);
  }

  /** Puts an object in its place in this layer; null: it is gone, undefined: the layer says nothing of it. */
  #set(kind: ObjectKind, key: string, object: CatalogObject | null | undefined): void {
    const own = this.#layer.of(kind);
    const before = own.get(key);
    this.#undo?.push(() => {
      if (before === undefined) own.delete(key);
      else own.set(key, before);
    });
    if (object === undefined) own.delete(key);
    else own.set(key, object);
  }

  /** Whether a query has filled a table of it so that columns are unique, see `Table.built`. */
  get holdsBuilt(): boolean {
    return this.#holdsBuilt || (this.#parent?.holdsBuilt ?? false);
  }

  /** From here on its changes can be taken back, in the engines where DDL belongs to a transaction. */
  begin(): void {
    this.#undo ??= [];
  }

  /** What has changed since `begin` stays. */
  commit(): void {
    this.#undo = null;
    if (this.#pathBefore === null) return;
    this.searchPath = this.#pathBefore;
    this.#pathBefore = null;
  }

  /** How much has changed since `begin`: what `rollback` takes a catalog back to. */
  get mark(): number {
    return this.#undo?.length ?? 0;
  }

  /** Takes back what has changed since `begin`, or since a mark. */
  rollback(mark = 0): void {
    const undo = this.#undo ?? [];
    if (undo.length > mark) this.#changed();
    for (const takeBack of undo.splice(mark).reverse()) takeBack();
  }

  drop(schema: string, table: string): void {
    this.remove("table", tableKey(schema, table));
  }

  /** The key under which a trigger or a rule is kept. */
  static guardKey(object: Trigger | Rule): string {
    return `${object.table}\u0000${object.name}`;
  }

  /** Every object of a kind, those of the lower layers first. */
  *objects<Kind extends ObjectKind>(kind: Kind): IterableIterator<Extract<CatalogObject, { object: Kind }>> {
    const own = this.#layer.objects.get(kind);
    if (this.#parent) {
      for (const [key, object] of this.#parent.#entries(kind)) if (!own?.has(key)) yield object as never;
    }
    if (own) for (const object of own.values()) if (object) yield object as never;
  }

  /** The objects of this layer alone. */
  *own(kind: ObjectKind): IterableIterator<CatalogObject> {
    for (const object of this.#layer.objects.get(kind)?.values() ?? []) if (object) yield object;
  }

  /** The keys of this layer's objects of a kind with what it makes of them; null: it removes them. */
  changed(kind: ObjectKind): ReadonlyMap<string, CatalogObject | null> {
    return this.#layer.of(kind);
  }

  *#entries(kind: ObjectKind): IterableIterator<[string, CatalogObject]> {
    const own = this.#layer.objects.get(kind);
    if (this.#parent) for (const entry of this.#parent.#entries(kind)) if (!own?.has(entry[0])) yield entry;
    if (own) for (const [key, object] of own) if (object) yield [key, object];
  }

  tables(): IterableIterator<Table> {
    return this.objects("table");
  }

  /** The triggers of a table or view, in the order in which they fire. */
  triggersOf(key: string): Trigger[] {
    const list: Trigger[] = [];
    for (const own of this.#indexed("byTable", key)) {
      const found = this.object("trigger", own);
      if (found?.object === "trigger" && found.table === key) list.push(found);
    }
    return list.sort((a, b) => (a.order ?? 0) - (b.order ?? 0) || (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
  }

  rulesOf(key: string): Rule[] {
    const list: Rule[] = [];
    for (const own of this.#indexed("byTable", key)) {
      const found = this.object("rule", own);
      if (found?.object === "rule" && found.table === key) list.push(found);
    }
    return list.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
  }

  /** The tables whose foreign keys refer to a table. */
  referencing(key: string): Table[] {
    const list: Table[] = [];
    for (const own of this.#indexed("referring", key)) {
      const table = this.byKey(own);
      if (table?.foreignKeys.some((one) => one.table === key)) list.push(table);
    }
    return list;
  }

  /** Whether a foreign key of any table refers to a table. */
  isReferred(key: string): boolean {
    const at = this.ties;
    if (this.#referredAt !== at) {
      this.#referred.clear();
      this.#referredAt = at;
    }
    const known = this.#referred.get(key);
    if (known !== undefined) return known;
    const found = this.referencing(key).length > 0;
    this.#referred.set(key, found);
    return found;
  }

  /** The partitions of a table and the tables that inherit from it. */
  childrenOf(key: string): Table[] {
    const list: Table[] = [];
    for (const own of this.#indexed("referring", key)) {
      const table = this.byKey(own);
      if (table && (table.partitionOf === key || table.inherits.includes(key))) list.push(table);
    }
    return list;
  }

  #indexed(map: "byTable" | "referring", key: string): Set<string> {
    const own = this.#layer[map].get(key);
    const below = this.#parent ? this.#parent.#indexed(map, key) : NONE;
    if (below.size === 0) return own ?? NONE;
    return own ? new Set([...below, ...own]) : below;
  }

  #keysNamed(name: string): Set<string> {
    const own = this.#layer.byName.get(name);
    const below = this.#parent ? this.#parent.#keysNamed(name) : NONE;
    if (below.size === 0) return own ?? NONE;
    return own ? new Set([...below, ...own]) : below;
  }

  /** How many tables it holds. */
  get size(): number {
    let count = 0;
    for (const _ of this.tables()) count++;
    return count;
  }
}

const CODE: ReadonlySet<ObjectKind> = new Set(["view", "trigger", "rule", "routine"]);

const NONE: Set<string> = new Set();

/** This many bare names are remembered. */
const MEANT = 20_000;

/** Whether a table in the place of another refers to the same tables. */
function sameTies(a: Table, b: Table): boolean {
  const same = (one: readonly unknown[], other: readonly unknown[]): boolean =>
    one === other || (one.length === 0 && other.length === 0);
  return a.partitionOf === b.partitionOf && same(a.foreignKeys, b.foreignKeys) && same(a.inherits, b.inherits);
}
