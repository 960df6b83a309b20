import { useRef } from "react";
import { useStore } from "zustand";
import type { Frame, Piece } from "../api/types";
import { type Draft, draft } from "../document/draft";

/** A part of the job that is being edited, drawn anew when it changes. */
export function useDraft<T>(of: (d: Draft) => T): T {
  return useStore(draft, of);
}

/** Whether the figures on the screen belong to what stands in the fields. */
export function useStale(): boolean {
  return useDraft((d) => d.result === null || d.resultOf !== d.job);
}

/** The piece on the bench. */
export function usePiece(): Piece | undefined {
  return useDraft((d) => d.job?.pieces?.find((p) => p.id === d.piece));
}

/** The frame on the bench. */
export function useFrame(): Frame | undefined {
  return useDraft((d) => d.job?.frames?.find((f) => f.id === d.frame));
}

/** For what is made anew at each look: the one before stays, and nothing is drawn, while it says the same. */
export function useSteady<T>(of: (d: Draft) => T): T {
  const last = useRef<{ text: string | undefined; value: T } | null>(null);
  return useDraft((d) => {
    const value = of(d);
    const text = JSON.stringify(value);
    if (!last.current || last.current.text !== text) last.current = { text, value };
    return last.current.value;
  });
}
