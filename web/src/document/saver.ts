/**
 * Carries out what the machine of saving asks for: one save at a time, one saver a job, alive until all is on
 * the disk.
 */

import { answer, api, Refusal } from "../api/client";
import type { Job } from "../api/types";
import * as left from "./leftover";
import { adopt, type Compared, compare, type Part } from "./merge";
import { due, type Event, next, opened, type Saving, unsaved } from "./saving";

/** No answer for so long counts as none. */
const NO_ANSWER_MS = 20_000;
/** The browser sends no more than this while a page is left. */
const LAST_WORDS = 60_000;

/** Drafts that are not saved yet, by job: a page may leave a job and come back. */
const alive = new Map<string, Saver>();

export class Saver {
  saving: Saving;
  /** Somebody saved in between, where this draft was changed too. */
  conflict: { theirs: Job; revision: number; compared: Compared } | null = null;
  /** What a merge took from others, for a word on the screen. */
  merged = "";
  /** The browser's own store does not take the draft. */
  unkept = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private left = false;
  private fetching = false;
  /** Called when anything here changed. */
  tell: () => void = () => {};
  /**
   * Called when the draft was brought onto theirs: `parts` are now as they have them; `old` is what both
   * began from.
   */
  rebase: (old: Job, theirs: Job, parts: Part[]) => void = () => {};
  /** What the save that is out carries. */
  private sentJob: Job | null = null;

  constructor(
    readonly id: string,
    /** As it stands on the server at `saving.revision`. */
    public base: Job,
    public job: Job,
    revision: number,
    archived: boolean,
  ) {
    this.saving = opened(revision, archived);
  }

  /** The saver of a job that still has something to save. */
  static of(id: string): Saver | undefined {
    return alive.get(id);
  }

  static unsaved(): Saver[] {
    return [...alive.values()].filter((s) => unsaved(s.saving));
  }

  edit(job: Job): void {
    this.job = job;
    this.did({ type: "edit", at: Date.now() });
  }

  note(note: string): void {
    this.did({ type: "note", note, at: Date.now() });
  }

  /** Now, rather than in a moment. */
  now(): void {
    this.did({ type: "tick", at: Date.now(), token: left.token(), now: true });
  }

  /** The page goes to another job: what waits is sent at once, and the rest goes on by itself. */
  leave(): void {
    this.tell = () => {};
    this.rebase = () => {};
    this.now();
    this.settle();
  }

  /**
   * The page is closed: the newest goes out with it where the browser lets it; it stands in the browser's
   * store in any case.
   */
  lastWords(): void {
    if (!unsaved(this.saving) || this.saving.phase === "conflict" || this.left) return;
    const { revision, sent, note, count } = this.saving;
    this.left = true;
    // A save that is out is cut off with the page and may never have left it: it goes out again under its own
    // name, by which it is filed once.
    const body = JSON.stringify(
      sent?.count === count
        ? { job: this.job, note: sent.note, token: sent.token, after: sent.after }
        : { job: this.job, note, token: left.token(), after: sent ? [...sent.after, sent.token] : [] },
    );
    if (body.length > LAST_WORDS) return;
    void fetch(`/api/jobs/${encodeURIComponent(this.id)}`, {
      method: "PUT",
      keepalive: true,
      headers: { "content-type": "application/json", "if-match": `"${revision}"` },
      body,
    }).catch(() => {});
  }

  /** The page is shown again after it had been put away. */
  back(): void {
    if (!this.left) return;
    this.left = false;
    this.now();
  }

  private did(e: Event): void {
    const before = this.saving;
    this.saving = next(before, e);
    const s = this.saving;
    if (this.sentJob && before.sent && s.kept >= before.sent.count && s.kept > before.kept)
      this.base = this.sentJob;
    if (s.phase === "sending" && s.sent !== before.sent) void this.send();
    if (s.phase === "asking" && before.phase !== "asking") void this.ask();
    if (s.phase === "conflict" && (before.phase !== "conflict" || s.newer !== before.newer))
      void this.meet(s.newer);
    this.settle();
    this.tell();
  }

  /** Clock, list of the living and the browser's store follow the state. */
  private settle(): void {
    clearTimeout(this.timer);
    const when = due(this.saving);
    if (when !== undefined)
      this.timer = setTimeout(
        () => this.did({ type: "tick", at: Date.now(), token: left.token() }),
        Math.max(when - Date.now(), 0),
      );
    if (unsaved(this.saving)) {
      alive.set(this.id, this);
      this.unkept = !left.put({
        job: this.id,
        revision: this.saving.revision,
        token: this.saving.sent?.token ?? "",
        title: [this.job.number, this.job.title].filter(Boolean).join(" "),
        ...left.depart(this.base, this.job),
      });
    } else {
      if (alive.get(this.id) === this) alive.delete(this.id);
      this.unkept = false;
      left.drop({ job: this.id });
    }
  }

  private async send(): Promise<void> {
    const { sent, revision } = this.saving;
    if (!sent) return;
    const job = this.job;
    this.sentJob = job;
    try {
      const got = answer(
        await api.PUT("/api/jobs/{id}", {
          params: { path: { id: this.id }, header: { "If-Match": `"${revision}"` } },
          body: { job, note: sent.note, token: sent.token, after: sent.after },
          signal: AbortSignal.timeout(NO_ANSWER_MS),
        }),
      );
      this.did({ type: "saved", ...got });
    } catch (e) {
      this.failed(e);
    }
  }

  private async ask(): Promise<void> {
    try {
      const head = answer(
        await api.GET("/api/jobs/{id}/head", {
          params: { path: { id: this.id } },
          signal: AbortSignal.timeout(NO_ANSWER_MS),
        }),
      );
      this.did({ type: "head", ...head, at: Date.now(), fresh: left.token() });
    } catch (e) {
      this.failed(e);
    }
  }

  private failed(e: unknown): void {
    const at = Date.now();
    if (!(e instanceof Refusal))
      this.did({
        type: "lost",
        at,
        why: "The server does not answer; what you do is kept in this browser and saved when it does",
      });
    else if (e.status === 409) this.did({ type: "stale", current: e.current ?? 0 });
    else if (e.status >= 500 || e.status === 408 || e.status === 429)
      this.did({ type: "busy", at, wait: (e.retryAfter ?? 5) * 1000, why: e.message });
    else this.did({ type: "refused", why: e.message });
  }

  /** Somebody saved in between: brought together where different parts were touched, else shown. */
  private async meet(revision: number): Promise<void> {
    if (this.fetching) return;
    this.fetching = true;
    try {
      const theirs = answer(
        await api.GET("/api/jobs/{id}", {
          params: { path: { id: this.id } },
          signal: AbortSignal.timeout(NO_ANSWER_MS),
        }),
      );
      const compared = compare(await canonical(this.base), await canonical(this.job), theirs.job);
      if (compared.clashes.length > 0) {
        this.conflict = { theirs: theirs.job, revision: theirs.revision, compared };
        this.tell();
        return;
      }
      const what = compared.taken.map((p) => p.label).join(", ") || "the same changes";
      this.merged = `Saved elsewhere as revision ${theirs.revision}: ${what}. Yours stands on top of it.`;
      this.onto(theirs.job, theirs.revision, compared.taken, false);
    } catch {
      // Tried again: a conflict is not left without its other side.
      setTimeout(
        () => this.saving.phase === "conflict" && !this.conflict && void this.meet(revision),
        3000,
      );
    } finally {
      this.fetching = false;
    }
  }

  /** The draft goes on on top of their revision, these parts as they have them. */
  private onto(theirs: Job, revision: number, parts: Part[], clean: boolean): void {
    const old = this.base;
    this.conflict = null;
    this.job = adopt(this.job, theirs, parts);
    this.base = theirs;
    this.rebase(old, theirs, parts);
    this.did({ type: "rebased", revision, at: Date.now(), clean });
  }

  /**
   * Each part that both changed is taken from the side that was chosen. Where anything is taken from them,
   * mine is filed whole first, so
   * that both stand in the history.
   */
  async resolve(choose: (part: Part) => "mine" | "theirs"): Promise<void> {
    const c = this.conflict;
    if (!c) return;
    const parts = [
      ...c.compared.taken,
      ...c.compared.clashes.map((x) => x.part).filter((p) => choose(p) === "theirs"),
    ];
    let { revision } = c;
    if (parts.length > c.compared.taken.length) {
      const kept = answer(
        await api.PUT("/api/jobs/{id}", {
          params: { path: { id: this.id }, header: { "If-Match": `"${revision}"` } },
          body: {
            job: this.job,
            note: `set aside: changed beside revision ${revision}`,
            token: left.token(),
            after: [],
          },
          signal: AbortSignal.timeout(NO_ANSWER_MS),
        }),
      );
      revision = kept.revision;
    }
    this.onto(c.theirs, revision, parts, false);
  }
}

/** A job as the server keeps it: every field that a file may leave out is there. */
export async function canonical(job: Job): Promise<Job> {
  return answer(
    await api.POST("/api/canonical", { body: job, signal: AbortSignal.timeout(NO_ANSWER_MS) }),
  );
}

/** All that is not saved goes out when pages are left, and is tried again when the network is back. */
export function watchThePage(): () => void {
  left.announce();
  const leave = () => {
    for (const s of alive.values()) s.lastWords();
  };
  const back = () => {
    for (const s of alive.values()) s.back();
  };
  const online = () => {
    for (const s of alive.values()) if (s.saving.phase === "away") s.now();
  };
  const warn = (e: BeforeUnloadEvent) => {
    if (Saver.unsaved().length > 0) e.preventDefault();
  };
  const seen = () => document.visibilityState === "visible" && online();
  window.addEventListener("pagehide", leave);
  window.addEventListener("pageshow", back);
  window.addEventListener("online", online);
  window.addEventListener("beforeunload", warn);
  document.addEventListener("visibilitychange", seen);
  return () => {
    window.removeEventListener("pagehide", leave);
    window.removeEventListener("pageshow", back);
    window.removeEventListener("online", online);
    window.removeEventListener("beforeunload", warn);
    document.removeEventListener("visibilitychange", seen);
  };
}
