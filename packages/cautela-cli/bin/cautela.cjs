#!/usr/bin/env node
"use strict";
// Starts the bundle. The code that V8 has compiled is kept in the user's cache folder, which makes a start three times
// as fast: by Node itself where it can do that (22.1 and later), else here. NODE_DISABLE_COMPILE_CACHE=1 turns it off.
const { mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } = require("node:fs");
const { createRequire, enableCompileCache } = require("node:module");
const { join } = require("node:path");
const { homedir } = require("node:os");
const vm = require("node:vm");

const dist = join(__dirname, "../dist");
const path = join(dist, "cautela.cjs");

/** The folder of this user for things that can be made again. */
function cacheFolder() {
  const { env, platform } = process;
  if (env.XDG_CACHE_HOME) return join(env.XDG_CACHE_HOME, "cautela");
  if (platform === "win32" && env.LOCALAPPDATA) return join(env.LOCALAPPDATA, "cautela", "cache");
  return join(homedir(), platform === "darwin" ? "Library/Caches" : ".cache", "cautela");
}

/** What `read` gives, or undefined where the file system refuses. */
function attempt(read) {
  try {
    return read();
  } catch {
    return undefined;
  }
}

/** What is run is read only where nobody else can have written it. */
function isOurs(file) {
  const { uid, mode } = statSync(file);
  return process.getuid === undefined || (uid === process.getuid() && (mode & 0o022) === 0);
}

const MONTH = 30 * 24 * 60 * 60 * 1000;

/** The bundle, compiled from the cache where that fits it; what was compiled is kept for the next start. */
function cachedBundle(source, { size, mtimeMs }) {
  const folder = join(cacheFolder(), "code");
  // The bundle is in ASCII: read as Latin 1 it is one byte a character. V8 compares versions and flags itself, but of the source only its length.
  const file = join(folder, `${process.version}-${process.arch}-${size}-${Math.trunc(mtimeMs)}.code`);
  const cachedData = attempt(() => (isOurs(file) ? readFileSync(file) : undefined));
  const script = new vm.Script(`(function (exports, require, module, __filename, __dirname) {${source}\n})`, {
    filename: path,
    cachedData,
  });
  const module = { exports: {} };
  const required = createRequire(path);
  script.runInThisContext().call(module.exports, module.exports, required, module, path, dist);
  const keep = () => {
    // A machine of a pipeline is new every time: what it keeps is not read again.
    if (process.env.CI || (cachedData !== undefined && script.cachedDataRejected !== true)) return;
    attempt(() => {
      mkdirSync(folder, { recursive: true, mode: 0o700 });
      for (const old of readdirSync(folder))
        if (Date.now() - statSync(join(folder, old)).mtimeMs > MONTH) rmSync(join(folder, old), { force: true });
      module.exports.reviewExamples();
      const written = `${file}.${process.pid}`;
      writeFileSync(written, script.createCachedData(), { mode: 0o600 });
      renameSync(written, file);
    });
  };
  return { run: module.exports.run, keep };
}

async function start() {
  const written = attempt(() => statSync(path));
  if (written === undefined) {
    console.error("cautela: not built yet; run npm ci (or npm run build) first");
    return 2;
  }
  const args = process.argv.slice(2);
  if (enableCompileCache) {
    enableCompileCache(cacheFolder());
    return require(path).run(args);
  }
  if (process.env.NODE_DISABLE_COMPILE_CACHE === "1") return require(path).run(args);
  const { run, keep } = cachedBundle(readFileSync(path, "latin1"), written);
  const status = await run(args);
  keep();
  return status;
}

start().then((status) => {
  if (process.exitCode === undefined) process.exitCode = status;
});
