import { useEffect, useState } from "react";
import { answer, api, said } from "../api/client";
import type { BendPictures, PieceView } from "../api/types";
import { draft } from "../document/draft";

interface Seen {
  bend: string;
  pictures?: BendPictures;
  /** Why there is no picture. */
  trouble?: string;
}

/**
 * The pictures of a bend of the piece as it was last made. The last ones of the same bend stay until the next
 * are there.
 */
export function useBendPictures(piece: PieceView, bend: string | undefined): Seen | undefined {
  const [seen, setSeen] = useState<Seen>();
  useEffect(() => {
    const { resultOf: job } = draft.getState();
    if (!job || !bend) return;
    const asked = new AbortController();
    const ask = async () => {
      try {
        const body = { job, piece: piece.id, bend };
        const pictures = answer(await api.POST("/api/bend", { body, signal: asked.signal }));
        setSeen({ bend, pictures });
      } catch (e) {
        if (!asked.signal.aborted) setSeen({ bend, trouble: said(e) });
      }
    };
    void ask();
    return () => asked.abort();
  }, [piece, bend]);
  return seen?.bend === bend ? seen : undefined;
}
