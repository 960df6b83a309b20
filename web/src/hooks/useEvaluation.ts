import { useEffect } from "react";
import { draft } from "../document/draft";
import { evaluateNow } from "../evaluation/evaluate";
import { useDraft } from "./useDraft";

/** Keeps the figures in step with the draft while a job is open. */
export function useEvaluation(): void {
  const job = useDraft((d) => d.job);
  const piece = useDraft((d) => d.piece);
  const frame = useDraft((d) => d.frame);
  useEffect(() => {
    if (job) evaluateNow();
    void piece;
    void frame;
  }, [job, piece, frame]);
  useEffect(() => {
    const again = () => draft.getState().waiting !== "current" && evaluateNow();
    const seen = () => document.visibilityState === "visible" && again();
    window.addEventListener("online", again);
    document.addEventListener("visibilitychange", seen);
    return () => {
      window.removeEventListener("online", again);
      document.removeEventListener("visibilitychange", seen);
    };
  }, []);
}
