import type { Browser } from "playwright-core";
export function findChromium(): string | null;
export function launchChromium(): Promise<Browser>;
