import { existsSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** The Chromium of this machine: CHROMIUM, or where Debian's package puts it; null without one. */
export function findChromium() {
  const places = [process.env.CHROMIUM, "/usr/bin/chromium", "/usr/bin/chromium-browser"];
  return places.find((place) => place && existsSync(place)) ?? null;
}

/** Starts headless Chromium, with nothing that looks for hosts outside. */
export async function launchChromium() {
  const { chromium } = await import("playwright-core");
  return chromium.launch({
    executablePath: findChromium(),
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
      `--crash-dumps-dir=${mkdtempSync(join(tmpdir(), "cautela-"))}`,
    ],
  });
}
