import type { DialectId } from "cautela";
import { useEffect, useRef, useState } from "react";
import type { CatalogEntry } from "./catalog-entries.ts";
import type { Answer, Request } from "./messages.ts";

/** Reviews the script in a worker while it is typed; the answer is that of the newest text. */
export function useReview(text: string, dialect: DialectId, catalog: string[]): Answer | null {
  const [answer, setAnswer] = useState<Answer | null>(null);
  const worker = useRef<Worker | null>(null);
  const newest = useRef(0);
  const entries = useRef<CatalogEntry[]>([]);

  useEffect(() => {
    const started = new Worker(new URL("./review-worker.ts", import.meta.url), { type: "module" });
    started.addEventListener("message", (event: MessageEvent<Answer>) => {
      if (event.data.entries) entries.current = event.data.entries;
      if (event.data.id === newest.current) setAnswer({ ...event.data, entries: entries.current });
    });
    worker.current = started;
    return () => started.terminate();
  }, []);

  useEffect(() => {
    const request: Request = { id: ++newest.current, text, dialect, catalog };
    const timer = setTimeout(() => worker.current?.postMessage(request), 60);
    return () => clearTimeout(timer);
  }, [text, dialect, catalog]);

  return answer;
}
