/**
 * Keeps the result in step with the draft: one request at a time, the newest draft next, tried again with
 * growing pauses.
 */

import { answer, api, Refusal, said } from "../api/client";
import { draft } from "../document/draft";
import { PAGE } from "../document/leftover";
import { evaluated } from "./decode";

const NO_ANSWER_MS = 45_000;
const PAUSES_MS = [400, 800, 1600, 3200, 6400, 12_800];

let running: AbortController | null = null;
let wake: (() => void) | null = null;

/**
 * Asks for the figures of what stands now; what is on its way for older text is given up once it takes long.
 */
export function evaluateNow(): void {
  wake?.();
  if (!running) void evaluate();
  else if (Date.now() - begun > OLDER_MAY_TAKE_MS) running.abort("newer");
}

/**
 * An answer for older text is still worth waiting for so long: it keeps the picture moving while somebody
 * types.
 */
const OLDER_MAY_TAKE_MS = 700;
let begun = 0;

async function evaluate(): Promise<void> {
  let tries = 0;
  let watch: ReturnType<typeof setInterval> | undefined;
  try {
    for (;;) {
      const { job, piece, frame, brief, id, lists, resultOf, result } = draft.getState();
      if (!job) return;
      const part = frame ? result?.frame?.id === frame : !piece || result?.piece?.id === piece;
      const listed = lists === 0 || Boolean(result?.cut_list);
      const shown = part && listed && (!brief || result?.brief?.id === brief);
      if (resultOf === job && shown && result) {
        draft.setState({ waiting: "current", evaluating: "" });
        return;
      }
      if (draft.getState().waiting === "current") draft.setState({ waiting: "asked" });
      running = new AbortController();
      begun = Date.now();
      const timeout = setTimeout(() => running?.abort("late"), NO_ANSWER_MS);
      // A draft that was typed on meanwhile does not wait for the older one's end.
      watch = setInterval(() => {
        if (draft.getState().job !== job && Date.now() - begun > OLDER_MAY_TAKE_MS)
          running?.abort("newer");
      }, 100);
      try {
        // Only what stands on the bench comes back with its geometry.
        const body = { job, piece: frame ? "" : piece, frame, brief, geometry: false, list: lists > 0 };
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
          const now = draft.getState();
          const same =
            now.piece === piece && now.frame === frame && now.brief === brief && now.lists <= lists;
          return now.id === id && now.job === job && same;
        };
        if (draft.getState().id === id) draft.getState().show(job, got);
        // The figures came first and alone; the picture of many holes follows while nothing newer is said.
        if (got.piece?.drawn === false && here()) {
          got = await ask(true);
          if (draft.getState().id === id) draft.getState().show(job, got);
        }
        if (here()) {
          draft.setState({ waiting: "current", evaluating: "" });
          return;
        }
      } catch (e) {
        if (running.signal.reason === "newer" || (e instanceof Refusal && e.status === 409)) continue;
        if (e instanceof Refusal && e.status < 500 && e.status !== 408 && e.status !== 429) {
          draft.setState({ waiting: "given up", evaluating: e.message });
          return;
        }
        const pause = PAUSES_MS[tries];
        const wait =
          e instanceof Refusal && e.retryAfter ? Math.max(e.retryAfter * 1000, pause ?? 0) : pause;
        if (pause === undefined) {
          draft.setState({
            waiting: "given up",
            evaluating: `${said(e)}; the figures shown belong to an older state of the job`,
          });
          return;
        }
        tries++;
        draft.setState({ waiting: "retrying", evaluating: `${said(e)}; it is asked again` });
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
    const { job, resultOf, waiting } = draft.getState();
    if (job && resultOf !== job && waiting !== "given up") void evaluate();
  }
}
