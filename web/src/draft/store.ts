import { create } from "zustand";
import type { Evaluated, Frame, FrameLine, Job, Line, Mend, Piece } from "../api/types";
import { set as put } from "./pointer";

/** How the draft stands against what is saved. */
export type Saving = "saved" | "changed" | "saving" | "offline" | "conflict";

/** What the pointer or the keyboard is on: a recipe line, and named geometry. */
export interface Spot {
  line?: string;
  names: string[];
}

export const NOWHERE: Spot = { names: [] };

interface Step {
  job: Job;
  /** Consecutive edits of one field are one step. */
  key: string;
  at: number;
}

interface Draft {
  id: string;
  revision: number;
  job: Job | null;
  past: Step[];
  future: Step[];
  saving: Saving;
  /** Why it could not be saved. */
  trouble: string;
  /** The newer revision when somebody saved in between. */
  newer: number;
  note: string;
  piece: string;
  /** The frame on the bench; empty at the other stations. */
  frame: string;
  result: Evaluated | null;
  /** The job that `result` belongs to. */
  resultOf: Job | null;
  evaluating: string;
  hover: Spot;
  picked: string;
  open(id: string, revision: number, job: Job): void;
  edit(key: string, change: (job: Job) => Job): void;
  undo(): void;
  redo(): void;
  showPiece(id: string): void;
  showFrame(id: string): void;
  setHover(spot: Spot): void;
  pick(line: string): void;
}

const MOST_STEPS = 300;
const SAME_STEP_MS = 1200;

export const useDraft = create<Draft>((set, get) => ({
  id: "",
  revision: 0,
  job: null,
  past: [],
  future: [],
  saving: "saved",
  trouble: "",
  newer: 0,
  note: "",
  piece: "",
  frame: "",
  result: null,
  resultOf: null,
  evaluating: "",
  hover: NOWHERE,
  picked: "",
  open: (id, revision, job) =>
    set({
      id,
      revision,
      job,
      past: [],
      future: [],
      saving: "saved",
      trouble: "",
      newer: 0,
      note: "",
      result: null,
      resultOf: null,
      hover: NOWHERE,
      picked: "",
    }),
  edit: (key, change) => {
    const { job, past } = get();
    if (!job) return;
    const next = change(job);
    if (next === job) return;
    const now = Date.now();
    const last = past.at(-1);
    const goesOn = key !== "" && last?.key === key && now - last.at < SAME_STEP_MS;
    const steps = goesOn ? [...past.slice(0, -1), { ...last, at: now }] : [...past, { job, key, at: now }].slice(-MOST_STEPS);
    set({ job: next, past: steps, future: [], saving: get().saving === "conflict" ? "conflict" : "changed" });
  },
  undo: () => {
    const { job, past, future, saving } = get();
    const last = past.at(-1);
    if (!job || !last) return;
    set({
      job: last.job,
      past: past.slice(0, -1),
      future: [...future, { ...last, job }],
      saving: saving === "conflict" ? saving : "changed",
    });
  },
  redo: () => {
    const { job, past, future, saving } = get();
    const next = future.at(-1);
    if (!job || !next) return;
    set({
      job: next.job,
      future: future.slice(0, -1),
      past: [...past, { ...next, job }],
      saving: saving === "conflict" ? saving : "changed",
    });
  },
  showPiece: (id) => get().piece !== id && set({ piece: id, hover: NOWHERE, picked: "" }),
  showFrame: (id) => get().frame !== id && set({ frame: id, hover: NOWHERE, picked: "" }),
  setHover: (spot) => {
    const old = get().hover;
    if (old.line !== spot.line || old.names.join() !== spot.names.join()) set({ hover: spot });
  },
  pick: (line) => set({ picked: line }),
}));

/** The piece on the bench, and where it stands in the job. */
export function usePiece(): { piece: Piece | undefined; index: number } {
  const index = useDraft((d) => d.job?.pieces?.findIndex((p) => p.id === d.piece) ?? -1);
  const piece = useDraft((d) => (index >= 0 ? d.job?.pieces?.[index] : undefined));
  return { piece, index };
}

/** Changes the piece on the bench. */
export function editPiece(key: string, change: (piece: Piece) => Piece): void {
  const { piece, edit } = useDraft.getState();
  edit(key && `${piece}:${key}`, (job) => ({ ...job, pieces: job.pieces?.map((p) => (p.id === piece ? change(p) : p)) }));
}

/** Writes one value of the piece at a JSON pointer. */
export function writePiece(path: string, value: unknown): void {
  editPiece(path, (piece) => put(piece, path, value));
}

/** The frame on the bench, and where it stands in the job. */
export function useFrame(): { frame: Frame | undefined; index: number } {
  const index = useDraft((d) => d.job?.frames?.findIndex((f) => f.id === d.frame) ?? -1);
  const frame = useDraft((d) => (index >= 0 ? d.job?.frames?.[index] : undefined));
  return { frame, index };
}

/** Changes the frame on the bench. */
export function editFrame(key: string, change: (frame: Frame) => Frame): void {
  const { frame, edit } = useDraft.getState();
  edit(key && `${frame}:${key}`, (job) => ({ ...job, frames: job.frames?.map((f) => (f.id === frame ? change(f) : f)) }));
}

/** Writes one value of the frame at a JSON pointer. */
export function writeFrame(path: string, value: unknown): void {
  editFrame(path, (frame) => put(frame, path, value));
}

/** Puts a line below the picked one (or last) and picks it. Returns its id. */
export function addFrameLine(say: FrameLine["say"], last = false): string {
  const { picked, pick } = useDraft.getState();
  const stem = say.verb === "members" ? say.name || "member" : (STEMS[say.verb] ?? say.verb);
  let id = "";
  editFrame("", (frame) => {
    const lines = frame.lines ?? [];
    id = freshId(
      stem,
      lines.map((l) => l.id),
    );
    const at = last ? -1 : lines.findIndex((l) => l.id === picked);
    const where = at >= 0 ? at + 1 : lines.length;
    return { ...frame, lines: [...lines.slice(0, where), { id, say }, ...lines.slice(where)] };
  });
  pick(id);
  return id;
}

const STEMS: Record<string, string> = {
  mirror_frame: "mirror",
  notch_end: "notch",
  repeat_frame: "repeat",
  ring_clamp: "clamp",
  fit: "plate",
  base: "foot",
  between: "node",
  on: "node",
};

/** Carries out the mend of a finding. */
export function applyMend(mend: Mend): void {
  editPiece("", (piece) => mend.patch.reduce((p, step) => put(p, step.path, step.value), piece));
}

/** The first free id with this stem: `punch-3`. */
export function freshId(stem: string, taken: string[]): string {
  for (let n = 1; ; n++) {
    const id = `${stem}-${n}`;
    if (!taken.includes(id)) return id;
  }
}

/** Puts a line below the picked one (or last) and picks it. */
export function addLine(say: Line["say"]): void {
  const { picked, pick } = useDraft.getState();
  const stem = say.verb.startsWith("start") ? "start" : say.verb;
  let id = "";
  editPiece("", (piece) => {
    const lines = piece.lines ?? [];
    id = freshId(
      stem,
      lines.map((l) => l.id),
    );
    const at = lines.findIndex((l) => l.id === picked);
    const where = stem === "start" ? 0 : at >= 0 ? at + 1 : lines.length;
    return { ...piece, lines: [...lines.slice(0, where), { id, say }, ...lines.slice(where)] };
  });
  pick(id);
}
