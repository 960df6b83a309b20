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

/** The piece on the bench, and where it stands in the job. */
export function usePiece(): { piece: Piece | undefined; index: number } {
  const index = useDraft((d) => d.job?.pieces?.findIndex((p) => p.id === d.piece) ?? -1);
  const piece = useDraft((d) => (index >= 0 ? d.job?.pieces?.[index] : undefined));
  return { piece, index };
}

/** The frame on the bench, and where it stands in the job. */
export function useFrame(): { frame: Frame | undefined; index: number } {
  const index = useDraft((d) => d.job?.frames?.findIndex((f) => f.id === d.frame) ?? -1);
  const frame = useDraft((d) => (index >= 0 ? d.job?.frames?.[index] : undefined));
  return { frame, index };
}
