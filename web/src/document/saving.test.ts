import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  due,
  type Event,
  LONGEST_MS,
  next,
  opened,
  PAUSE_MS,
  type Phase,
  type Saving,
  unsaved,
} from "./saving";

const run = (s: Saving, ...events: Event[]) => events.reduce(next, s);
const edit = (at: number): Event => ({ type: "edit", at });
const tick = (at: number, token = "t"): Event => ({ type: "tick", at, token });
const lost = (at: number): Event => ({ type: "lost", at, why: "no answer" });
const head = (revision: number, token: string): Event => ({
  type: "head",
  revision,
  token,
  archived: false,
  at: 9000,
  fresh: "t2",
});
const kept = (revision: number): Event => ({ type: "saved", revision, archived: false });

/** One state of each phase, on the way that leads there. */
const start = opened(5);
const changed = run(start, edit(100));
const sending = run(changed, tick(1000));
const away = run(sending, lost(1100));
const states: Record<Phase, Saving> = {
  saved: start,
  changed,
  sending,
  away,
  asking: run(away, tick(9000)),
  refused: run(sending, { type: "refused", why: "too large" }),
  conflict: run(sending, { type: "stale", current: 6 }),
};

/** The phase that each event leads to from each phase. */
const table: Record<string, [Event, Record<Phase, Phase>]> = {
  edit: [
    edit(10_000),
    {
      saved: "changed",
      changed: "changed",
      sending: "sending",
      asking: "asking",
      away: "away",
      refused: "changed",
      conflict: "conflict",
    },
  ],
  note: [
    { type: "note", note: "x", at: 10_000 },
    {
      saved: "changed",
      changed: "changed",
      sending: "sending",
      asking: "asking",
      away: "away",
      refused: "changed",
      conflict: "conflict",
    },
  ],
  "the clock": [
    tick(20_000),
    {
      saved: "saved",
      changed: "sending",
      sending: "sending",
      asking: "asking",
      away: "asking",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  "a clock too early": [
    tick(101),
    {
      saved: "saved",
      changed: "changed",
      sending: "sending",
      asking: "asking",
      away: "away",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  "a hand": [
    { type: "tick", at: 101, token: "t", now: true },
    {
      saved: "saved",
      changed: "sending",
      sending: "sending",
      asking: "asking",
      away: "asking",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  saved: [
    kept(6),
    {
      saved: "saved",
      changed: "changed",
      sending: "saved",
      asking: "asking",
      away: "away",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  stale: [
    { type: "stale", current: 6 },
    {
      saved: "saved",
      changed: "changed",
      sending: "conflict",
      asking: "asking",
      away: "away",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  refused: [
    { type: "refused", why: "no" },
    {
      saved: "saved",
      changed: "changed",
      sending: "refused",
      asking: "refused",
      away: "away",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  lost: [
    lost(12_000),
    {
      saved: "saved",
      changed: "changed",
      sending: "away",
      asking: "away",
      away: "away",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  busy: [
    { type: "busy", at: 12_000, why: "busy", wait: 2000 },
    {
      saved: "saved",
      changed: "changed",
      sending: "away",
      asking: "away",
      away: "away",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  "head: it arrived": [
    head(6, "t"),
    {
      saved: "saved",
      changed: "changed",
      sending: "sending",
      asking: "saved",
      away: "away",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  "head: it did not arrive": [
    head(5, "other"),
    {
      saved: "saved",
      changed: "changed",
      sending: "sending",
      asking: "sending",
      away: "away",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  "head: somebody else": [
    head(7, "other"),
    {
      saved: "saved",
      changed: "changed",
      sending: "sending",
      asking: "conflict",
      away: "away",
      refused: "refused",
      conflict: "conflict",
    },
  ],
  "rebased, changed": [
    { type: "rebased", revision: 8, at: 13_000, clean: false },
    {
      saved: "changed",
      changed: "changed",
      sending: "changed",
      asking: "changed",
      away: "changed",
      refused: "changed",
      conflict: "changed",
    },
  ],
  "rebased, clean": [
    { type: "rebased", revision: 8, at: 13_000, clean: true },
    {
      saved: "saved",
      changed: "saved",
      sending: "saved",
      asking: "saved",
      away: "saved",
      refused: "saved",
      conflict: "saved",
    },
  ],
};

describe("every event in every state", () => {
  for (const [name, [event, to]] of Object.entries(table))
    for (const [phase, state] of Object.entries(states))
      test(`${phase}: ${name}`, () => {
        expect(state.phase).toBe(phase);
        expect(next(state, event).phase).toBe(to[phase as Phase]);
      });
});

test("an edit while a save is on its way is saved on top of that save, not beside it", () => {
  const s = run(sending, edit(1050), kept(6));
  expect(s).toMatchObject({ phase: "changed", revision: 6 });
  const again = run(s, tick(1051, "t2"));
  expect(again).toMatchObject({ phase: "sending", revision: 6, sent: { token: "t2", count: 2 } });
  expect(run(again, kept(7))).toMatchObject({ phase: "saved", revision: 7 });
});

test("a note filed during a slow save has a revision of its own", () => {
  const s = run(sending, { type: "note", note: "as cut", at: 1050 }, kept(6));
  expect(s).toMatchObject({ phase: "changed", note: "as cut" });
  const again = run(s, tick(1051));
  expect(again.sent?.note).toBe("as cut");
  expect(run(again, kept(7))).toMatchObject({ phase: "saved", note: "" });
});

test("a save whose answer never came is asked for before it is repeated; the next may stand on it", () => {
  const asking = states.asking;
  expect(run(asking, head(6, "t"))).toMatchObject({ phase: "saved", revision: 6 });
  expect(run(asking, head(5, ""))).toMatchObject({
    phase: "sending",
    revision: 5,
    sent: { token: "t2", after: ["t"] },
  });
});

test("steady typing is saved at least every five seconds", () => {
  let s = start;
  for (let at = 0; at < LONGEST_MS; at += 300) {
    s = next(s, edit(at));
    expect(due(s)).toBe(Math.min(at + PAUSE_MS, LONGEST_MS));
  }
});

test("pauses between tries grow, to a bound", () => {
  let s = away;
  const pauses: number[] = [];
  for (let i = 0; i < 8; i++) {
    s = run(s, tick(s.again), lost(100_000 * i));
    pauses.push(s.again - 100_000 * i);
  }
  expect([...pauses].sort((a, b) => a - b)).toEqual(pauses);
  expect(pauses.at(-1)).toBe(15_000);
});

/** A server that files saves as ours does, and a network that loses requests and answers. */
test("alone on the worst of networks: never a conflict, nothing lost, nothing doubled", () => {
  const step = fc.constantFrom(
    "edit",
    "lose the request",
    "lose the answer",
    "answer",
    "answer",
    "tell the head",
    "lose the head",
    "wait",
  );
  fc.assert(
    fc.property(fc.array(step, { minLength: 10, maxLength: 120 }), (steps) => {
      let s = opened(1);
      let at = 0;
      let tokens = 0;
      const fresh = () => `t${++tokens}`;
      const filed: { count: number; token: string }[] = [{ count: 0, token: "" }];
      /** What a save gets from the server. */
      const serve = (s: Saving): Event => {
        const sent = s.sent!;
        const top = filed.at(-1)!;
        if (top.token === sent.token) return { type: "saved", revision: filed.length, archived: false };
        if (filed.length !== s.revision && !sent.after.includes(top.token))
          return { type: "stale", current: filed.length };
        filed.push({ count: sent.count, token: sent.token });
        return { type: "saved", revision: filed.length, archived: false };
      };
      const late: Saving[] = [];
      const act = (what: string) => {
        at += 1000;
        if (what === "edit") s = next(s, edit(at));
        else if (s.phase === "changed" || s.phase === "away")
          s = next(s, { type: "tick", at: at + 60_000, token: fresh() });
        else if (s.phase === "sending") {
          if (what === "lose the request") {
            // It may yet arrive, much later.
            late.push(s);
            s = next(s, lost(at));
          } else if (what === "lose the answer") {
            serve(s);
            s = next(s, lost(at));
          } else s = next(s, serve(s));
        } else if (s.phase === "asking") {
          const top = filed.at(-1)!;
          if (what === "lose the head") s = next(s, lost(at));
          else
            s = next(s, {
              type: "head",
              revision: filed.length,
              token: top.token,
              archived: false,
              at,
              fresh: fresh(),
            });
        }
        if (what === "wait" && late.length > 0) serve(late.shift()!);
        expect(s.phase).not.toBe("conflict");
      };
      steps.forEach(act);
      for (let i = 0; i < 12 && unsaved(s); i++) act("answer");
      expect(s.phase).toBe("saved");
      expect(filed.at(-1)!.count).toBe(s.count);
      expect(filed.map((f) => f.count)).toEqual([...filed.map((f) => f.count)].sort((a, b) => a - b));
      expect(new Set(filed.map((f) => f.token)).size).toBe(filed.length);
    }),
    { numRuns: 400, seed: 20261125 },
  );
});
