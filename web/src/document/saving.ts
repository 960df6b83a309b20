/**
 * How the draft stands against what the server holds: one small machine, without clock, network or browser.
 * `next` gives the state after
 * an event; what is to be done follows from the state (`due`, and the phases `sending` and `asking`).
 */

export type Phase =
  /** All that was told is on the server's disk. */
  | "saved"
  /** Something was changed and waits a moment for more. */
  | "changed"
  /** A save is on its way. */
  | "sending"
  /** A save went out and its answer never came: the server is asked whether it arrived. */
  | "asking"
  /** The server was not reached, or was busy: it is tried again. */
  | "away"
  /** The server will not take it as it is. */
  | "refused"
  /** Somebody else saved in between, in the same place. */
  | "conflict";

/** A save that went out. */
export interface Sent {
  /** Which state of the draft it carries. */
  count: number;
  /** Its name: sent twice, it is filed once. */
  token: string;
  note: string;
  /** Earlier saves whose answers never came, on any of which this one may stand. */
  after: string[];
}

export interface Saving {
  phase: Phase;
  /** The revision that the draft is based on. */
  revision: number;
  /** Counts the changes. */
  count: number;
  /** The count that is known to be on the disk. */
  kept: number;
  sent: Sent | null;
  /** For the next revision. */
  note: string;
  /** When the first and the last change came that is not on the disk. */
  first: number;
  last: number;
  tries: number;
  /** When to try again, while away. */
  again: number;
  /** Why it could not be saved. */
  trouble: string;
  /** The revision that somebody else saved. */
  newer: number;
  /** The job is in the archive: saves go there. */
  archived: boolean;
}

export type Event =
  | { type: "edit"; at: number }
  | { type: "note"; note: string; at: number }
  /** The clock, or a hand that asks for it at once. */
  | { type: "tick"; at: number; token: string; now?: boolean }
  | { type: "saved"; revision: number; archived: boolean }
  | { type: "stale"; current: number }
  | { type: "refused"; why: string }
  /** No answer came: it may have arrived or not. */
  | { type: "lost"; why: string; at: number }
  /** The server said that it did nothing. */
  | { type: "busy"; why: string; at: number; wait: number }
  | { type: "head"; revision: number; token: string; archived: boolean; at: number; fresh: string }
  /** The draft was brought onto another revision: merged, or taken from it. */
  | { type: "rebased"; revision: number; at: number; clean: boolean };

export const PAUSE_MS = 700;
/** Steady typing is saved at least so often. */
export const LONGEST_MS = 5000;
/** Saves without an answer that are remembered: the server takes no more. */
const MOST_LOST = 16;
const FIRST_TRY_MS = 1000;
const LONGEST_TRY_MS = 15_000;

export function opened(revision: number, archived = false): Saving {
  return {
    phase: "saved",
    revision,
    count: 0,
    kept: 0,
    sent: null,
    note: "",
    first: 0,
    last: 0,
    tries: 0,
    again: 0,
    trouble: "",
    newer: 0,
    archived,
  };
}

/** Whether something is not on the server's disk. */
export function unsaved(s: Saving): boolean {
  return s.count > s.kept || s.sent !== null;
}

/** When the next `tick` is wanted; none while nothing waits for the clock. */
export function due(s: Saving): number | undefined {
  if (s.phase === "changed") return Math.min(s.last + PAUSE_MS, s.first + LONGEST_MS);
  if (s.phase === "away") return s.again;
  return undefined;
}

function changed(s: Saving, at: number): Saving {
  return { ...s, count: s.count + 1, first: s.count > s.kept ? s.first : at, last: at };
}

function send(s: Saving, token: string, after: string[]): Saving {
  return { ...s, phase: "sending", sent: { count: s.count, token, note: s.note, after } };
}

function pause(tries: number): number {
  return Math.min(FIRST_TRY_MS * 2 ** Math.max(tries - 1, 0), LONGEST_TRY_MS);
}

/** The save that is out reached the disk. */
function arrived(s: Saving, revision: number, archived: boolean): Saving {
  const sent = s.sent;
  const kept = Math.max(s.kept, sent?.count ?? 0);
  return {
    ...s,
    phase: s.count > kept ? "changed" : "saved",
    revision,
    archived,
    kept,
    sent: null,
    note: sent && s.note === sent.note ? "" : s.note,
    // What came while it was on its way has waited long enough.
    first: s.count > kept ? s.last - LONGEST_MS : s.first,
    tries: 0,
    trouble: "",
  };
}

export function next(s: Saving, e: Event): Saving {
  switch (e.type) {
    case "edit": {
      const c = changed(s, e.at);
      return s.phase === "saved" || s.phase === "refused" ? { ...c, phase: "changed", trouble: "" } : c;
    }
    case "note": {
      // A note makes a revision of its own, at once.
      const c = { ...changed(s, e.at), note: e.note, first: e.at - LONGEST_MS };
      return s.phase === "saved" || s.phase === "refused" ? { ...c, phase: "changed", trouble: "" } : c;
    }
    case "tick": {
      const when = due(s);
      if (when === undefined || !(e.now || e.at >= when)) return s;
      if (s.phase === "away" && s.sent) return { ...s, phase: "asking" };
      return send(s, e.token, []);
    }
    case "saved":
      return s.phase === "sending" ? arrived(s, e.revision, e.archived) : s;
    case "stale":
      return s.phase === "sending" ? { ...s, phase: "conflict", sent: null, newer: e.current } : s;
    case "refused":
      return s.phase === "sending" || s.phase === "asking"
        ? { ...s, phase: "refused", sent: null, trouble: e.why }
        : s;
    case "lost":
      if (s.phase !== "sending" && s.phase !== "asking") return s;
      return {
        ...s,
        phase: "away",
        tries: s.tries + 1,
        again: e.at + pause(s.tries + 1),
        trouble: e.why,
      };
    case "busy":
      if (s.phase !== "sending" && s.phase !== "asking") return s;
      // A save that was turned away did not arrive; one that is only asked about may have.
      return {
        ...s,
        phase: "away",
        sent: s.phase === "sending" ? null : s.sent,
        tries: s.tries + 1,
        again: e.at + e.wait,
        trouble: e.why,
      };
    case "head": {
      if (s.phase !== "asking" || !s.sent) return s;
      if (e.token === s.sent.token) return arrived(s, e.revision, e.archived);
      // Not there, and perhaps still on its way: the next may stand on it. Or an older one of ours has come
      // through late.
      if (e.revision === s.revision || s.sent.after.includes(e.token))
        return send(
          { ...s, revision: e.revision, archived: e.archived },
          e.fresh,
          [...s.sent.after, s.sent.token].slice(-MOST_LOST),
        );
      return { ...s, phase: "conflict", sent: null, newer: e.revision, archived: e.archived };
    }
    case "rebased": {
      const c = { ...s, revision: e.revision, sent: null, tries: 0, trouble: "", newer: 0 };
      if (e.clean) return { ...c, phase: "saved", kept: s.count };
      return { ...changed(c, e.at), phase: "changed", first: e.at - LONGEST_MS };
    }
  }
}
