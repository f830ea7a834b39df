// Installs Debian's Chromium where the browser tests have none: only as root on a Debian machine.
// Anywhere else it says so and leaves the tests to skip.
import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { findChromium } from "./chromium.mjs";

if (findChromium() === null) {
  if (process.getuid?.() === 0 && existsSync("/etc/debian_version")) {
    console.log("installing Debian's chromium package for the browser tests");
    const run = (...args) =>
      spawnSync("apt-get", args, { stdio: "ignore", env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" } });
    run("update");
    run("install", "-y", "--no-install-recommends", "chromium", "fonts-dejavu-core");
  }
  if (findChromium() === null)
    console.log("no Chromium found (set CHROMIUM to its path): the browser tests cannot run");
}
