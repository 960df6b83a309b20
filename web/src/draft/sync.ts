import { useEffect } from "react";
import { answer, api, Refusal } from "../api/client";
import { useDraft } from "./store";

const PAUSE_BEFORE_SAVING_MS = 700;

/** Keeps the result in step with the draft: one request at a time, the newest draft next. */
export function useEvaluation(): void {
  const job = useDraft((d) => d.job);
  const piece = useDraft((d) => d.piece);
  const frame = useDraft((d) => d.frame);
  useEffect(() => {
    if (job) void evaluate();
    void piece;
    void frame;
  }, [job, piece, frame]);
}

let running = false;

async function evaluate(): Promise<void> {
  if (running) return;
  running = true;
  try {
    for (;;) {
      const { job, piece, frame, id } = useDraft.getState();
      if (!job) return;
      // Only what stands on the bench comes back with its geometry.
      const got = answer(await api.POST("/api/evaluate", { body: { job, piece: frame ? "" : piece, frame } }));
      const now = useDraft.getState();
      if (now.id === id) useDraft.setState({ result: got, resultOf: job, evaluating: "" });
      if (now.job === job && now.piece === piece && now.frame === frame) return;
    }
  } catch (e) {
    useDraft.setState({ evaluating: e instanceof Refusal ? e.message : "The server does not answer" });
  } finally {
    running = false;
  }
}

/** Saves a while after the last change, tells how it went, and tries again when the server was away. */
export function useAutosave(): void {
  const job = useDraft((d) => d.job);
  const saving = useDraft((d) => d.saving);
  useEffect(() => {
    if (saving !== "changed" && saving !== "offline") return;
    void job;
    const wait = saving === "offline" ? 3000 : PAUSE_BEFORE_SAVING_MS;
    const timer = setTimeout(() => void save(), wait);
    return () => clearTimeout(timer);
  }, [job, saving]);
  useEffect(() => {
    const leave = () => void save(true);
    const warn = (e: BeforeUnloadEvent) => useDraft.getState().saving !== "saved" && e.preventDefault();
    window.addEventListener("pagehide", leave);
    window.addEventListener("beforeunload", warn);
    return () => {
      window.removeEventListener("pagehide", leave);
      window.removeEventListener("beforeunload", warn);
    };
  }, []);
}

/** Saves the draft now. Resolves when what stands is on the disk. */
export async function save(leaving = false): Promise<void> {
  const { id, revision, job, saving, note } = useDraft.getState();
  if (!job || saving === "saved" || saving === "saving" || saving === "conflict") return;
  useDraft.setState({ saving: "saving" });
  try {
    const got = answer(
      await api.PUT("/api/jobs/{id}", {
        params: { path: { id }, header: { "If-Match": `"${revision}"` } },
        body: { job, note },
        keepalive: leaving,
      }),
    );
    const now = useDraft.getState();
    if (now.id !== id) return;
    useDraft.setState({ revision: got.revision, note: "", trouble: "", saving: now.job === job ? "saved" : "changed" });
  } catch (e) {
    if (e instanceof Refusal && e.status === 409) useDraft.setState({ saving: "conflict", newer: e.current ?? 0, trouble: e.message });
    else if (e instanceof Refusal) useDraft.setState({ saving: "offline", trouble: e.message });
    else useDraft.setState({ saving: "offline", trouble: "The server does not answer; the changes are kept here and saved when it does" });
  }
}

/** After a conflict: our draft on top of the newer revision. */
export function saveOnTop(): void {
  const { newer } = useDraft.getState();
  useDraft.setState({ revision: newer, saving: "changed", trouble: "" });
}
