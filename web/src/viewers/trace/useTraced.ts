import { useEffect, useState } from "react";
import { answer, api, said } from "../../api/client";
import type { Piece, TracedResult } from "../../api/types";
import { draft } from "../../document/draft";

/** An edit rests so long before the picture is asked. */
const RESTS_MS = 40;

/** What the tracing of a piece comes to; the last answer stands until the next. */
export function useTraced(piece: Piece): { traced: TracedResult | null; of: unknown; trouble: string } {
  const [traced, setTraced] = useState<TracedResult | null>(null);
  const [of, setOf] = useState<unknown>(null);
  const [trouble, setTrouble] = useState("");
  const { tracing } = piece;
  useEffect(() => {
    if (!tracing) return;
    const gone = new AbortController();
    const ask = async () => {
      const { job } = draft.getState();
      if (!job) return;
      // The one piece is enough: what it comes to depends on no other.
      const alone = { ...job, pieces: [{ ...piece, lines: [] }], frames: [], briefs: [] };
      try {
        const body = { job: alone, piece: piece.id };
        setTraced(answer(await api.POST("/api/trace", { body, signal: gone.signal })));
        setOf(tracing);
        setTrouble("");
      } catch (e) {
        if (!gone.signal.aborted) setTrouble(said(e));
      }
    };
    const timer = setTimeout(() => void ask(), RESTS_MS);
    return () => {
      clearTimeout(timer);
      gone.abort();
    };
    // Its values beside the tracing are read with the next change of it.
  }, [tracing, piece.id]);
  return { traced, of, trouble };
}
