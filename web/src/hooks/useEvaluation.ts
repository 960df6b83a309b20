import { useEffect } from "react";
import { draft } from "../document/draft";
import { evaluateNow } from "../evaluation/evaluate";

/** Keeps the figures in step with the draft while a job is open. */
export function useEvaluation(): void {
  useEffect(() => {
    if (draft.getState().job) evaluateNow();
    // Asked before the page draws itself anew: server and page work at the same time.
    return draft.subscribe((now, before) => {
      const benches = ["piece", "frame", "brief"] as const;
      const other =
        now.job !== before.job || now.lists > before.lists || benches.some((b) => now[b] !== before[b]);
      if (now.job && other) evaluateNow();
    });
  }, []);
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
