/** Keeps the result in step with the draft: one request at a time, the newest draft next, tried again with growing pauses. */

import { useEffect } from "react";
import { answer, api, Refusal, said } from "../api/client";
import { evaluated } from "../api/decode";
import { PAGE } from "./leftover";
import { useDraft } from "./store";

const NO_ANSWER_MS = 45_000;
const PAUSES_MS = [400, 800, 1600, 3200, 6400, 12_800];

/** How figures that are not there yet are to be seen. */
export type Waiting =
  /** They belong to the draft. */
  | "current"
  /** Asked for; the ones shown belong to an older draft. */
  | "asked"
  /** The server did not answer; it is asked again. */
  | "retrying"
  /** Given up until the next change or a hand that asks. */
  | "given up";

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
    const again = () => useDraft.getState().waiting !== "current" && evaluateNow();
    const seen = () => document.visibilityState === "visible" && again();
    window.addEventListener("online", again);
    document.addEventListener("visibilitychange", seen);
    return () => {
      window.removeEventListener("online", again);
      document.removeEventListener("visibilitychange", seen);
    };
  }, []);
}

let running: AbortController | null = null;
let wake: (() => void) | null = null;

/** Asks for the figures of what stands now; what is on its way for older text is given up once it takes long. */
export function evaluateNow(): void {
  wake?.();
  if (!running) void evaluate();
  else if (Date.now() - begun > OLDER_MAY_TAKE_MS) running.abort("newer");
}

/** An answer for older text is still worth waiting for so long: it keeps the picture moving while somebody types. */
const OLDER_MAY_TAKE_MS = 700;
let begun = 0;

async function evaluate(): Promise<void> {
  let tries = 0;
  let watch: ReturnType<typeof setInterval> | undefined;
  try {
    for (;;) {
      const { job, piece, frame, id, resultOf, result } = useDraft.getState();
      if (!job) return;
      const shown = frame ? result?.frame?.id === frame : !piece || result?.piece?.id === piece;
      if (resultOf === job && shown && result) {
        useDraft.setState({ waiting: "current", evaluating: "" });
        return;
      }
      if (useDraft.getState().waiting === "current") useDraft.setState({ waiting: "asked" });
      running = new AbortController();
      begun = Date.now();
      const timeout = setTimeout(() => running?.abort("late"), NO_ANSWER_MS);
      // A draft that was typed on meanwhile does not wait for the older one's end.
      watch = setInterval(() => {
        if (useDraft.getState().job !== job && Date.now() - begun > OLDER_MAY_TAKE_MS)
          running?.abort("newer");
      }, 100);
      try {
        // Only what stands on the bench comes back with its geometry.
        const body = { job, piece: frame ? "" : piece, frame, geometry: false };
        const ask = async (geometry: boolean) => {
          const options = {
            body: { ...body, geometry },
            headers: { "x-steelk-page": PAGE },
            signal: running?.signal,
          };
          // Read, unpacked and shown in a task each: keys and frames go between.
          const next = () => geometry && new Promise((go) => setTimeout(go));
          const packed = answer(await api.POST("/api/evaluate", options));
          await next();
          const got = evaluated(packed);
          await next();
          return got;
        };
        let got = await ask(false);
        tries = 0;
        const here = () => {
          const now = useDraft.getState();
          return now.id === id && now.job === job && now.piece === piece && now.frame === frame;
        };
        if (useDraft.getState().id === id) useDraft.getState().show(job, got);
        // The figures came first and alone; the picture of many holes follows while nothing newer is said.
        if (got.piece?.drawn === false && here()) {
          got = await ask(true);
          if (useDraft.getState().id === id) useDraft.getState().show(job, got);
        }
        if (here()) {
          useDraft.setState({ waiting: "current", evaluating: "" });
          return;
        }
      } catch (e) {
        if (running.signal.reason === "newer" || (e instanceof Refusal && e.status === 409)) continue;
        if (e instanceof Refusal && e.status < 500 && e.status !== 408 && e.status !== 429) {
          useDraft.setState({ waiting: "given up", evaluating: e.message });
          return;
        }
        const pause = PAUSES_MS[tries];
        const wait = e instanceof Refusal && e.retryAfter ? Math.max(e.retryAfter * 1000, pause ?? 0) : pause;
        if (pause === undefined) {
          useDraft.setState({
            waiting: "given up",
            evaluating: `${said(e)}; the figures shown belong to an older state of the job`,
          });
          return;
        }
        tries++;
        useDraft.setState({ waiting: "retrying", evaluating: `${said(e)}; it is asked again` });
        await new Promise<void>((go) => {
          wake = go;
          setTimeout(go, wait);
        });
        wake = null;
      } finally {
        clearTimeout(timeout);
        clearInterval(watch);
      }
    }
  } finally {
    running = null;
    // What came while this one ended is not forgotten.
    const { job, resultOf, waiting } = useDraft.getState();
    if (job && resultOf !== job && waiting !== "given up") void evaluate();
  }
}
