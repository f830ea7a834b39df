import type { DialectId, Rehearsal } from "cautela";
import { useEffect, useRef, useState } from "react";
import type { CatalogEntry } from "./catalog-entries.ts";
import type { Answer, Failure, RehearsalRequest, Rehearsed, Request } from "./messages.ts";

/** What the newest text was answered with: one of the two, or neither while it is read for the first time. */
interface Reviewed {
  answer: Answer | null;
  failure: string | null;
}

/**
 * Reviews the script in a worker while it is typed; the answer is that of the newest text. The rehearsal comes after it,
 * and only where it is wanted; null until it is there.
 */
export function useReview(
  text: string,
  dialect: DialectId,
  catalog: string[],
  rehearsalWanted: boolean,
): Reviewed & { rehearsal: Rehearsal | null } {
  const [reviewed, setReviewed] = useState<Reviewed>({ answer: null, failure: null });
  const [rehearsed, setRehearsed] = useState<Rehearsed | null>(null);
  const worker = useRef<Worker | null>(null);
  const newest = useRef(0);
  const entries = useRef<CatalogEntry[]>([]);

  useEffect(() => {
    const started = new Worker(new URL("./review-worker.ts", import.meta.url), { type: "module" });
    started.addEventListener("message", ({ data }: MessageEvent<Answer | Failure | Rehearsed>) => {
      // An old verdict never stands beside a text that it was not given for.
      if ("failure" in data) {
        if (data.id === newest.current) setReviewed({ answer: null, failure: data.failure });
        return;
      }
      if ("rehearsal" in data) {
        if (data.id === newest.current) setRehearsed(data);
        return;
      }
      if (data.entries) entries.current = data.entries;
      if (data.id === newest.current) setReviewed({ answer: { ...data, entries: entries.current }, failure: null });
    });
    started.addEventListener("error", (event) =>
      setReviewed({ answer: null, failure: event.message || "the part that reviews could not be loaded" }),
    );
    worker.current = started;
    return () => started.terminate();
  }, []);

  useEffect(() => {
    const request: Request = { id: ++newest.current, text, dialect, catalog };
    const timer = setTimeout(() => worker.current?.postMessage(request), 60);
    return () => clearTimeout(timer);
  }, [text, dialect, catalog]);

  const id = reviewed.answer?.id ?? null;
  useEffect(() => {
    if (id === null || !rehearsalWanted || rehearsed?.id === id) return;
    const request: RehearsalRequest = { rehearse: id };
    worker.current?.postMessage(request);
  }, [id, rehearsalWanted, rehearsed?.id]);

  return { ...reviewed, rehearsal: rehearsed?.id === id ? (rehearsed?.rehearsal ?? null) : null };
}
