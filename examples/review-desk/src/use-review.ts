import type { DialectId } from "cautela";
import { useEffect, useRef, useState } from "react";
import type { CatalogEntry } from "./catalog-entries.ts";
import type { Answer, Failure, Request } from "./messages.ts";

/** What the newest text was answered with: one of the two, or neither while it is read for the first time. */
interface Reviewed {
  answer: Answer | null;
  failure: string | null;
}

/** Reviews the script in a worker while it is typed; the answer is that of the newest text. */
export function useReview(text: string, dialect: DialectId, catalog: string[]): Reviewed {
  const [reviewed, setReviewed] = useState<Reviewed>({ answer: null, failure: null });
  const worker = useRef<Worker | null>(null);
  const newest = useRef(0);
  const entries = useRef<CatalogEntry[]>([]);

  useEffect(() => {
    const started = new Worker(new URL("./review-worker.ts", import.meta.url), { type: "module" });
    started.addEventListener("message", ({ data }: MessageEvent<Answer | Failure>) => {
      // An old verdict never stands beside a text that it was not given for.
      if ("failure" in data) {
        if (data.id === newest.current) setReviewed({ answer: null, failure: data.failure });
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

  return reviewed;
}
