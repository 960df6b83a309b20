import { useEffect, useRef, useState } from "react";
import { useStore } from "zustand";
import type { Frame, Piece } from "../api/types";
import { type Documents, type Draft, draft, type Made } from "../document/draft";

/** A part of the job that is being edited, drawn anew when it changes. */
export function useDraft<T>(of: (d: Draft) => T): T {
  return useStore(draft, of);
}

/** A part of the draft that is told of changes in these of its fields only. */
function only<K extends keyof Draft>(keys: readonly K[]) {
  return {
    ...(draft as { getState(): Pick<Draft, K>; getInitialState(): Pick<Draft, K> }),
    subscribe: (tell: (now: Pick<Draft, K>, before: Pick<Draft, K>) => void) =>
      draft.subscribe((now, before) => {
        if (keys.some((k) => now[k] !== before[k])) tell(now, before);
      }),
  };
}

const documents = only(["job", "piece", "frame", "brief"]);
const made = only(["job", "piece", "frame", "brief", "result", "picked"]);

/** A part of what is told: of a key's many changes (asked, sent, saved, shown) one is of the document. */
export function useDocument<T>(of: (d: Documents) => T): T {
  return useStore(documents, of);
}

export const isStale = (d: Draft = draft.getState()): boolean =>
  d.result === null || d.resultOf !== d.job;

/** Whether the figures on the screen do not belong to what stands in the fields. */
export function useStale(): boolean {
  return useDraft(isStale);
}

/** What follows a key within this, ms, is not told to be of an older state: it would only flicker. */
const SOON = 150;

/** Whether the figures on the screen do not belong to what stands in the fields, and have not for a while. */
export function useOld(): boolean {
  const [old, setOld] = useState(false);
  useEffect(() => {
    let soon: ReturnType<typeof setTimeout> | undefined;
    const look = () => {
      if (isStale()) soon ??= setTimeout(() => setOld(true), SOON);
      else {
        clearTimeout(soon);
        soon = undefined;
        setOld(false);
      }
    };
    look();
    const end = draft.subscribe(look);
    return () => {
      clearTimeout(soon);
      end();
    };
  }, []);
  return old;
}

/** The piece on the bench. */
export function usePiece(): Piece | undefined {
  return useDocument((d) => d.job?.pieces?.find((p) => p.id === d.piece));
}

/** The frame on the bench. */
export function useFrame(): Frame | undefined {
  return useDocument((d) => d.job?.frames?.find((f) => f.id === d.frame));
}

/** For what is made anew at each look: the one before stays, and nothing is drawn, while it says the same. */
export function useSteady<T>(of: (d: Made) => T): T {
  const last = useRef<{ text: string | undefined; value: T } | null>(null);
  return useStore(made, (d) => {
    const value = of(d);
    const text = JSON.stringify(value);
    if (!last.current || last.current.text !== text) last.current = { text, value };
    return last.current.value;
  });
}
