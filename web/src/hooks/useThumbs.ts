import { useEffect, useState } from "react";
import { answer, api } from "../api/client";
import type { components } from "../api/schema";
import { draft } from "../document/draft";

export type Thumb = components["schemas"]["Thumb"];

/** Pictures of a job that are there already, by `piece:id` and `frame:id`. */
const kept = new Map<string, Thumb>();
let keptOf = "";
/** Who shows them: however many, they are asked for once. */
const shown = new Set<() => void>();
let wait: ReturnType<typeof setTimeout> | undefined;
let asked: AbortController | undefined;

/** So long after the last key they are drawn anew. */
const REST_MS = 700;

const known = (kind: string) =>
  Object.fromEntries(
    [...kept].filter(([k]) => k.startsWith(kind)).map(([k, t]) => [k.slice(kind.length), t.key]),
  );

async function ask(): Promise<void> {
  const { job, id } = draft.getState();
  if (!job) return;
  asked = new AbortController();
  try {
    const body = { job, pieces: known("piece:"), frames: known("frame:") };
    const got = answer(await api.POST("/api/thumbs", { body, signal: asked.signal }));
    if (draft.getState().id !== id) return;
    for (const t of got.pieces) if (t.path !== null) kept.set(`piece:${t.id}`, t);
    for (const t of got.frames) if (t.path !== null) kept.set(`frame:${t.id}`, t);
    for (const tell of shown) tell();
  } catch {
    // A list without pictures is still a list; the next change asks again.
  }
}

function soon(): void {
  clearTimeout(wait);
  asked?.abort();
  const { id } = draft.getState();
  if (keptOf !== id) kept.clear();
  keptOf = id;
  wait = setTimeout(() => void ask(), kept.size === 0 ? 0 : REST_MS);
}

let stop = () => {};

/** The small pictures of the job's pieces and frames; they follow the draft at leisure, not at every key. */
export function useThumbs(): Map<string, Thumb> {
  const [, drawn] = useState(0);
  useEffect(() => {
    const tell = () => drawn((n) => n + 1);
    shown.add(tell);
    if (shown.size === 1) {
      stop = draft.subscribe((d, was) => d.job !== was.job && soon());
      soon();
    }
    return () => {
      shown.delete(tell);
      if (shown.size > 0) return;
      stop();
      clearTimeout(wait);
      asked?.abort();
    };
  }, []);
  return kept;
}
