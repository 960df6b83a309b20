import { useEffect, useState } from "react";
import { answer, api } from "../api/client";
import type { components } from "../api/schema";
import { draft } from "../document/draft";
import { useDraft } from "./useDraft";

export type Thumb = components["schemas"]["Thumb"];

/** Pictures of a job that are there already, by kind and id. */
const kept = new Map<string, Thumb>();
let keptOf = "";

/** So long after the last key they are drawn anew. */
const REST_MS = 700;

/** The small pictures of the job's pieces and frames, by `piece:id`; they follow the draft at leisure. */
export function useThumbs(): Map<string, Thumb> {
  const job = useDraft((d) => d.job);
  const id = useDraft((d) => d.id);
  const [, drawn] = useState(0);
  useEffect(() => {
    if (keptOf !== id) kept.clear();
    keptOf = id;
    if (!job) return;
    const of = new AbortController();
    const wait = setTimeout(
      async () => {
        const known = (kind: string) =>
          Object.fromEntries(
            [...kept].filter(([k]) => k.startsWith(kind)).map(([k, t]) => [k.slice(kind.length), t.key]),
          );
        try {
          const body = { job, pieces: known("piece:"), frames: known("frame:") };
          const got = answer(await api.POST("/api/thumbs", { body, signal: of.signal }));
          if (draft.getState().id !== id) return;
          for (const t of got.pieces) if (t.path !== null) kept.set(`piece:${t.id}`, t);
          for (const t of got.frames) if (t.path !== null) kept.set(`frame:${t.id}`, t);
          drawn((n) => n + 1);
        } catch {
          // A list without pictures is still a list; the next change asks again.
        }
      },
      kept.size === 0 ? 0 : REST_MS,
    );
    return () => {
      clearTimeout(wait);
      of.abort();
    };
  }, [job, id]);
  return kept;
}
