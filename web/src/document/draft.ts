import { createStore } from "zustand/vanilla";
import type { Evaluated, Job, PieceView } from "../api/types";
import { ALL_LISTS, type List } from "./lists";
import { adopt, type Part } from "./merge";
import { Saver } from "./saver";
import { opened, type Saving } from "./saving";

/** What the pointer or the keyboard is on: a recipe line, and named geometry. */
export interface Spot {
  line?: string;
  /** Several lines at once: all that a figure of the job moves. */
  lines?: string[];
  names: string[];
}

export const NOWHERE: Spot = { names: [] };

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

interface Step {
  job: Job;
  /** Typing in one field is one step; empty for an act of its own. */
  key: string;
  at: number;
}

/** A piece or a frame to be shown, because what just changed is there. */
export interface Place {
  kind: List;
  id: string;
}

export interface Draft {
  id: string;
  job: Job | null;
  past: Step[];
  future: Step[];
  saver: Saver | null;
  /** As the saver has it. */
  saving: Saving;
  conflict: Saver["conflict"];
  /** One line about something that was done or not done. */
  word: string;
  piece: string;
  /** The frame on the bench; empty at the other stations. */
  frame: string;
  /** The brief on the bench; empty at the other stations. */
  brief: string;
  result: Evaluated | null;
  /** The job that `result` belongs to. */
  resultOf: Job | null;
  /** The last view of a piece that could be made, with its geometry. */
  lastGood: PieceView | null;
  /** How many on the screen show the cut list. */
  lists: number;
  waiting: Waiting;
  evaluating: string;
  hover: Spot;
  picked: string;
  /** Two things are being picked for a size that is kept: the first of them, empty while none is. */
  sizing: string | null;
  goTo: Place | null;
  open(id: string, revision: number, job: Job, archived: boolean): void;
  /** Back to a draft that is not saved yet; false where there is none. */
  reopen(id: string): boolean;
  leave(): void;
  edit(key: string, change: (job: Job) => Job): void;
  /** The same as `edit`, as part of the step before it. */
  amend(change: (job: Job) => Job): void;
  undo(): void;
  redo(): void;
  show(of: Job, result: Evaluated): void;
  showPiece(id: string): void;
  showFrame(id: string): void;
  showBrief(id: string): void;
  setHover(spot: Spot): void;
  pick(line: string): void;
}

/** What is told, and what of it is on the bench. */
export type Documents = Pick<Draft, "job" | "piece" | "frame" | "brief">;

/** What it came to as well, and the line that is picked. */
export type Made = Documents & Pick<Draft, "result" | "picked">;

const MOST_STEPS = 300;
/** Typing that rests longer than this goes on as a step of its own. */
const SAME_STEP_MS = 1200;

/** When a hand did what is carried out now; a slow page comes to a key long after it was pressed. */
const acted = () => {
  const { event } = globalThis;
  return event?.isTrusted ? event.timeStamp : performance.now();
};

const FRESH = {
  past: [],
  future: [],
  conflict: null,
  word: "",
  result: null,
  resultOf: null,
  lastGood: null,
  waiting: "asked",
  evaluating: "",
  hover: NOWHERE,
  picked: "",
  sizing: null,
  goTo: null,
} as const;

/** The first piece or frame that differs: where an undo is to be seen. */
function changedPlace(before: Job, after: Job): Place | null {
  for (const kind of ALL_LISTS) {
    const [b, a] = [before[kind] ?? [], after[kind] ?? []];
    const there = a.find((item) => !b.some((x) => x === item));
    if (there) return { kind, id: there.id };
  }
  return null;
}

export const draft = createStore<Draft>((set, get) => {
  const follow = (saver: Saver) => {
    saver.tell = () => {
      if (get().saver !== saver) return;
      set({
        saving: saver.saving,
        conflict: saver.conflict,
        ...(saver.merged ? { word: saver.merged } : {}),
      });
      saver.merged = "";
    };
    saver.rebase = (old: Job, theirs: Job, parts: Part[]) => {
      if (get().saver !== saver) return;
      // Undo goes back to what was mine, on top of what is theirs.
      const onto = (s: Step): Step => ({ ...s, job: adopt(s.job, theirs, parts, old) });
      const { job, past, future } = get();
      const chosen =
        job && saver.job !== job ? [...past.map(onto), { job, key: "", at: acted() }] : past.map(onto);
      set({ job: saver.job, past: chosen, future: future.map(onto) });
    };
    set({ saver, saving: saver.saving, conflict: saver.conflict });
  };
  const go = (job: Job, past: Step[], future: Step[]) => {
    const before = get().job;
    set({ job, past, future, goTo: before ? changedPlace(before, job) : null });
    get().saver?.edit(job);
  };
  return {
    id: "",
    job: null,
    saver: null,
    saving: opened(0),
    piece: "",
    frame: "",
    brief: "",
    lists: 0,
    ...FRESH,
    past: [],
    future: [],
    open: (id, revision, job, archived) => {
      if (get().saver?.id !== id) get().saver?.leave();
      const saver = new Saver(id, job, job, revision, archived);
      set({ id, job, ...FRESH, past: [], future: [] });
      follow(saver);
    },
    reopen: (id) => {
      const saver = Saver.of(id);
      if (!saver) return false;
      if (get().saver !== saver) {
        set({ id, job: saver.job, ...FRESH, past: [], future: [] });
        follow(saver);
      }
      return true;
    },
    leave: () => {
      get().saver?.leave();
      set({ id: "", job: null, saver: null, ...FRESH, past: [], future: [] });
    },
    edit: (key, change) => {
      const { job, past, saver } = get();
      if (!job) return;
      const next = change(job);
      if (next === job) return;
      const now = acted();
      const last = past.at(-1);
      const goesOn = key !== "" && last?.key === key && now - last.at < SAME_STEP_MS;
      const steps = goesOn
        ? [...past.slice(0, -1), { ...last, at: now }]
        : [...past, { job, key, at: now }].slice(-MOST_STEPS);
      set({ job: next, past: steps, future: [] });
      saver?.edit(next);
    },
    amend: (change) => {
      const { job, past, saver } = get();
      if (!job) return;
      const next = change(job);
      if (next === job) return;
      const last = past.at(-1);
      set({
        job: next,
        past: last ? [...past.slice(0, -1), { ...last, key: "" }] : [{ job, key: "", at: acted() }],
        future: [],
      });
      saver?.edit(next);
    },
    undo: () => {
      const { job, past, future } = get();
      const last = past.at(-1);
      if (job && last) go(last.job, past.slice(0, -1), [...future, { ...last, job }]);
    },
    redo: () => {
      const { job, past, future } = get();
      const next = future.at(-1);
      // What is done again is no typing to be gone on with.
      if (job && next) go(next.job, [...past, { ...next, key: "", job }], future.slice(0, -1));
    },
    show: (of, result) =>
      set((d) => ({
        result,
        resultOf: of,
        evaluating: "",
        lastGood: result.piece?.made && result.piece.drawn ? result.piece : d.lastGood,
      })),
    showPiece: (id) => get().piece !== id && set({ piece: id, hover: NOWHERE, picked: "", sizing: null }),
    showFrame: (id) => get().frame !== id && set({ frame: id, hover: NOWHERE, picked: "" }),
    showBrief: (id) => get().brief !== id && set({ brief: id, hover: NOWHERE, picked: "" }),
    setHover: (spot) => {
      const old = get().hover;
      const said = (s: Spot) => JSON.stringify([s.line, s.names, s.lines]);
      if (said(old) !== said(spot)) set({ hover: spot });
    },
    pick: (line) => set({ picked: line }),
  };
});

/** Whether sizes are told in inches, in a piece or frame that may depart from its job. */
export function inInches(
  doc: { display?: { length?: string } | null } | undefined,
  of: Documents = draft.getState(),
): boolean {
  return (doc?.display ?? of.job?.display)?.length === "in";
}
