import { type Freeze, WEEKDAYS } from "./policy.ts";

/** A moment as a policy and a call write it: a day, or a day and a time. */
const MOMENT = /^(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2})(?::\d{2})?)?$/;
const HOURS = /^(\d{2}):(\d{2})\s*-\s*(\d{2}):(\d{2})$/;

const DAY = 24 * 60;

/** Minutes of a span of time, since 1970 by the calendar; the end does not belong to it. */
export interface Span {
  from: number;
  to: number;
}

/**
 * The span of time that a date means: all of a day, or one minute; null where it is no date.
 *
 * @example
 * spanOf("2026-12-24") // all day
 * spanOf("2026-02-30") // null
 */
export function spanOf(date: string): Span | null {
  const match = MOMENT.exec(date);
  if (!match) return null;
  const [year, month, day, hour = null, minute = null] = match.slice(1).map((part) => (part ? Number(part) : null));
  if (year === null || month === null || day === null || (hour ?? 0) > 24 || (minute ?? 0) > 59) return null;
  const at = new Date(Date.UTC(year, month - 1, day));
  if (at.getUTCMonth() !== month - 1 || at.getUTCDate() !== day) return null;
  const from = at.getTime() / 60_000;
  if (hour === null) return { from, to: from + DAY };
  return { from: from + hour * 60 + (minute ?? 0), to: from + hour * 60 + (minute ?? 0) + 1 };
}

/** The minutes of a day that `16:00-24:00` means; null where it is no such span. */
export function hoursOf(text: string): Span | null {
  const match = HOURS.exec(text.trim());
  if (!match) return null;
  const [h0, m0, h1, m1] = match.slice(1).map(Number);
  const span = { from: h0 * 60 + m0, to: h1 * 60 + m1 };
  return m0 < 60 && m1 < 60 && span.to <= DAY && span.from < span.to ? span : null;
}

/**
 * Whether a date falls into a time in which nothing is changed. A day without a time does where any minute of it does.
 *
 * @example
 * isFrozen({ days: ["fri"], hours: "16:00-24:00", because: "no releases before the weekend" }, "2026-11-27T17:30") // true
 */
export function isFrozen({ from, to, days, hours }: Freeze, date: string): boolean {
  const asked = spanOf(date);
  if (!asked) return false;
  // A day as the end belongs to the span; a moment ends it.
  const first = from === undefined ? Number.NEGATIVE_INFINITY : (spanOf(from)?.from ?? Number.NEGATIVE_INFINITY);
  const end = to === undefined ? null : spanOf(to);
  const last = end === null ? Number.POSITIVE_INFINITY : end.to - end.from === DAY ? end.to : end.from;
  const day = Math.floor(asked.from / DAY);
  // 1970-01-01 was a Thursday.
  const weekday = WEEKDAYS[(day + 4) % 7];
  if (days !== undefined && !days.includes(weekday)) return false;
  const part = hours === undefined ? null : hoursOf(hours);
  const open = Math.max(first, asked.from, part ? day * DAY + part.from : asked.from);
  const close = Math.min(last, asked.to, part ? day * DAY + part.to : asked.to);
  return open < close;
}
