// How many changes of the code the tests notice, told from changes drawn by chance out of all of analysis/ and hazards/:
//
//   npm run mutate:sample               200 changes, some minutes
//   npm run mutate:sample -- 50 7       50 changes, from seed 7
//
// A changed place is met by thousands of tests, and a test runner that starts again for each change takes hours. Here all
// drawn changes are built into one bundle, each behind a switch, with the tests in it as plain functions.
import { fork } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join, relative } from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { rolldown } from "rolldown";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const source = (name) => join(root, `packages/cautela/src/${name}.ts`);
/** The test files that need no engine and take seconds. */
const TESTS = [
  "hazards",
  "said",
  "review",
  "quiet-scripts",
  "upgrades",
  "reports",
  "rehearsal-reasons",
  "statistics",
  "own-hazard",
  "undo",
  "catalog-cases",
  "baseline",
];
/** How long a change may keep one process busy before it counts as noticed: it made the review go on for ever. */
const PATIENCE_MS = 60_000;

if (process.argv[2] === "--worker") await work(process.argv[3], process.argv.slice(4).map(Number));
else await sample(Number(process.argv[2] ?? 200), Number(process.argv[3] ?? Date.now() % 1_000_000));

async function sample(count, seed) {
  const { Instrumenter } = await import(instrumenterPath());
  const files = ["analysis", "hazards"].flatMap((room) => {
    const folder = join(root, "packages/cautela/src", room);
    return readdirSync(folder, { recursive: true })
      .filter((name) => name.endsWith(".ts"))
      .sort()
      .map((name) => ({
        name: join(folder, name),
        mutate: true,
        content: readFileSync(join(folder, name), "utf8"),
      }));
  });
  const silent = { debug() {}, info() {}, isDebugEnabled: () => false };
  const { mutator, ignoreStatic } = JSON.parse(readFileSync(join(root, "stryker.config.json"), "utf8"));
  const options = { plugins: null, ignorers: [], noHeader: false, ...mutator };
  const instrument = (of) => new Instrumenter(silent).instrument(of, options);

  // Once to know all changes, and again with the drawn ones only: a switch at every place would slow the whole.
  const all = (await instrument(files)).mutants.filter(({ status }) => status === undefined);
  const random = numbers(seed);
  const drawn = new Map();
  while (drawn.size < Math.min(count, all.length)) {
    const mutant = all[random(all.length)];
    drawn.set(keyOf(mutant), mutant);
  }
  const places = [...drawn.values()];
  const touched = files.flatMap(({ name, content }) => {
    const mutate = places.filter(({ fileName }) => fileName === name).map(({ location }) => location);
    return mutate.length === 0 ? [] : [{ name, content, mutate }];
  });
  const instrumented = await instrument(touched);
  const mutants = instrumented.mutants.filter((mutant) => drawn.has(keyOf(mutant)));
  const folder = mkdtempSync(join(root, "node_modules/.mutate-"));
  try {
    const bundle = join(folder, "tests.mjs");
    await build(bundle, new Map(instrumented.files.map(({ name, content }) => [name, content])));
    console.log(`${mutants.length} of ${all.length} changes, from seed ${seed}`);
    const ends = await share(bundle, mutants);
    tell(mutants, ends, ignoreStatic === true);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Where the package that makes the changes is: it comes with the test runner's. */
function instrumenterPath() {
  const core = createRequire(createRequire(import.meta.url).resolve("@stryker-mutator/core"));
  return core.resolve("@stryker-mutator/instrumenter");
}

function keyOf({ fileName, location: { start, end }, mutatorName, replacement }) {
  return [fileName, start.line, start.column, end.line, end.column, mutatorName, replacement].join("\u0000");
}

/** Numbers by chance, the same for the same seed. */
function numbers(seed) {
  let state = seed;
  return (n) => {
    state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff;
    return (state >> 4) % n;
  };
}

async function build(file, changed) {
  const paths = TESTS.map((name) => join(root, `packages/cautela/test/${name}.test.ts`));
  const stand = join(root, "scripts/collected-tests.ts");
  // Each file is imported after the collector has been told its name.
  const entry = [
    `import ${JSON.stringify(join(root, "scripts/test-seed.ts"))};`,
    `import { beginFile, collected } from ${JSON.stringify(stand)};`,
    ...paths.flatMap((path) => [`beginFile(${JSON.stringify(path)});`, `await import(${JSON.stringify(path)});`]),
    "export { collected };",
  ].join("\n");
  const bundle = await rolldown({
    input: "entry",
    // The test files state their tests as they are loaded.
    treeshake: false,
    platform: "node",
    external: (id) => id !== "entry" && id !== "vitest" && !/^(?:[./]|cautela)/.test(id),
    resolve: { alias: { "cautela/tools": source("tools"), cautela: source("index"), vitest: stand } },
    plugins: [
      {
        name: "drawn",
        resolveId: (id) => (id === "entry" ? id : null),
        load(id) {
          if (id === "entry") return entry;
          const code = changed.get(id) ?? (id.startsWith(root) ? readFileSync(id, "utf8") : undefined);
          return code?.replaceAll("import.meta.url", JSON.stringify(pathToFileURL(id).href));
        },
      },
    ],
  });
  await bundle.write({ file, format: "esm", codeSplitting: false });
}

/** Runs the changes in two processes; a process that hangs is ended, and another goes on with the rest. */
async function share(bundle, mutants) {
  const ends = new Map();
  const halves = [0, 1].map((half) => mutants.map(({ id }) => Number(id)).filter((_, i) => i % 2 === half));
  await Promise.all(
    halves.map(async (ids) => {
      let rest = ids;
      while (rest.length > 0) {
        await new Promise((resolve) => {
          const child = fork(fileURLToPath(import.meta.url), ["--worker", bundle, ...rest.map(String)]);
          let begun = null;
          let timer;
          const stop = () => {
            if (begun !== null) ends.set(begun, "hung");
            child.kill("SIGKILL");
          };
          child.on("message", ({ id, end }) => {
            clearTimeout(timer);
            if (end === undefined) begun = id;
            else ends.set(id, end);
            timer = setTimeout(stop, PATIENCE_MS);
          });
          child.on("exit", (code) => {
            clearTimeout(timer);
            // Out of memory or stack: the change made it so.
            if (code !== 0 && begun !== null && !ends.has(begun)) ends.set(begun, "hung");
            if (begun === null) throw new Error("the tests do not hold as they are");
            resolve();
          });
        });
        rest = rest.filter((id) => !ends.has(id));
      }
    }),
  );
  return ends;
}

/** In a process of its own: runs the tests once as they are, and for each change those that meet it. */
async function work(bundle, ids) {
  const { collected } = await import(bundle);
  globalThis.__stryker__ ??= {};
  const state = globalThis.__stryker__;
  const failure = async (check) => {
    try {
      await check.run();
      return null;
    } catch (error) {
      return error;
    }
  };
  const meets = new Map();
  for (const [i, check] of collected.entries()) {
    state.currentTestId = String(i);
    const began = performance.now();
    const error = await failure(check);
    if (error !== null) throw new Error(`does not hold as it is: ${check.name}`, { cause: error });
    const took = performance.now() - began;
    for (const id of Object.keys(state.mutantCoverage?.perTest[i] ?? {})) {
      const known = meets.get(Number(id)) ?? [];
      known.push({ check, took });
      meets.set(Number(id), known);
    }
  }
  state.currentTestId = undefined;
  for (const id of ids) {
    process.send({ id });
    const met = (meets.get(id) ?? []).sort((a, b) => a.took - b.took);
    state.activeMutant = String(id);
    let noticed = false;
    for (const { check } of met) {
      noticed = (await failure(check)) !== null;
      if (noticed) break;
    }
    state.activeMutant = undefined;
    const atStart = met.length === 0 && state.mutantCoverage?.static[id] !== undefined;
    process.send({ id, end: noticed ? "noticed" : atStart ? "static" : met.length === 0 ? "unmet" : "survived" });
  }
  process.disconnect();
}

function tell(mutants, ends, ignoreStatic) {
  const counted = mutants.filter(({ id }) => !(ignoreStatic && ends.get(Number(id)) === "static"));
  const of = (end) => counted.filter(({ id }) => ends.get(Number(id)) === end);
  for (const mutant of [...of("survived"), ...of("unmet")]) {
    const { fileName, location, mutatorName, replacement, id } = mutant;
    const line = readFileSync(fileName, "utf8").split("\n")[location.start.line];
    console.log(`\n${relative(root, fileName)}:${location.start.line + 1} ${mutatorName}, ${ends.get(Number(id))}`);
    console.log(`  ${line.trim()}\n  ${replacement?.replace(/\s+/g, " ").slice(0, 160)}`);
  }
  const noticed = of("noticed").length + of("hung").length;
  console.log(
    `\n${noticed} of ${counted.length} noticed (${Math.round((100 * noticed) / counted.length)} %), ${of("survived").length} survived, ${of("unmet").length} met by no test, ${mutants.length - counted.length} run at the start only and not counted`,
  );
}
