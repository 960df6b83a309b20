import { Alert, Button } from "@mui/material";
import { useEffect, useState } from "react";
import { answer, api } from "../api/client";
import type { Job } from "../api/types";
import { draft } from "../document/draft";
import { abandoned, drop, type Leftover, taken } from "../document/leftover";
import { differences, same } from "../document/merge";
import { canonical } from "../document/saver";
import { useDraft } from "../hooks/useDraft";
import { Differences } from "./Conflict";
import { when } from "./when";

interface Found {
  left: Leftover;
  /** What it departs from, and at which revision that stands. */
  base: Job;
  revision: number;
  draft: Job;
  list: ReturnType<typeof differences>;
}

/**
 * What a page left behind of this job without having saved it: offered with its difference, once the job is
 * open.
 */
export function LeftBehind({ id }: { id: string }) {
  const [found, setFound] = useState<Found[]>([]);
  useEffect(() => {
    let here = true;
    void look(id).then((f) => here && setFound(f));
    return () => {
      here = false;
    };
  }, [id]);
  // Taken up on the revision that it departs from: what others saved since is then merged or shown, never
  // passed over.
  const saved = useDraft((d) => d.saving.phase === "saved");
  const done = (f: Found) => {
    setFound(found.filter((x) => x !== f));
  };
  const takeUp = (f: Found) => {
    const { open, edit, saver } = draft.getState();
    if (saver?.saving.phase !== "saved") return;
    open(id, f.revision, f.base, saver.saving.archived);
    edit("", () => f.draft);
    drop(f.left);
    draft.getState().saver?.now();
    done(f);
  };
  return found.map((f) => (
    <Alert
      key={f.left.page}
      severity="info"
      action={
        <>
          <Button disabled={!saved} onClick={() => takeUp(f)}>
            take it up
          </Button>
          <Button
            onClick={() => {
              drop(f.left);
              done(f);
            }}
          >
            let it go
          </Button>
        </>
      }
    >
      Left behind {when(f.left.at / 1000)} in this browser, never saved:
      <Differences list={f.list} />
    </Alert>
  ));
}

/** A page's last words may reach the server after the page that comes next has asked for the job. */
const JUST_LEFT_MS = 10_000;
const STEP_MS = 400;
const STEPS = 5;

/** The job as the server holds it, once what a page sent while it was closed has had its time to arrive. */
async function afterLastWords(left: Leftover) {
  const ask = { params: { path: { id: left.job } } };
  const open = async () => answer(await api.GET("/api/jobs/{id}", ask));
  const first = await open();
  for (let n = 0; n < STEPS && first.revision === left.revision; n++) {
    if (Date.now() - left.at > JUST_LEFT_MS) break;
    await new Promise((r) => setTimeout(r, STEP_MS));
    const head = answer(await api.GET("/api/jobs/{id}/head", ask));
    if (head.revision !== left.revision) return await open();
  }
  return first;
}

/** The page goes on from what arrived after it was opened, unless something was done on it since. */
function catchUp(id: string, head: { revision: number; job: Job }): void {
  const { open, saver } = draft.getState();
  if (saver?.id !== id || saver.saving.phase !== "saved" || saver.saving.revision >= head.revision)
    return;
  open(id, head.revision, head.job, saver.saving.archived);
}

async function look(id: string): Promise<Found[]> {
  const out: Found[] = [];
  for (const left of await abandoned(id)) {
    try {
      // What a living page of this tab still saves is no leftover.
      if (draft.getState().saver?.id === id && draft.getState().saver?.saving.phase !== "saved") continue;
      const head = await afterLastWords(left);
      const filed = async (revision: number) =>
        answer(
          await api.GET("/api/jobs/{id}/revisions/{revision}", {
            params: { path: { id, revision } },
          }),
        );
      const old = head.revision === left.revision ? head : await filed(left.revision);
      const mine = await canonical(taken(old.job, left));
      // It arrived, and was worked on since: one of the revisions that came next is it.
      const next = Array.from({ length: STEPS }, (_, k) => left.revision + 1 + k);
      const since = next.filter((n) => n < head.revision).map((n) => filed(n).catch(() => null));
      const arrived = (await Promise.all(since)).some((r) => r !== null && same(mine, r.job));
      if (arrived || same(mine, head.job) || same(mine, old.job)) {
        drop(left);
        catchUp(id, head);
        continue;
      }
      // Its save reached the server although its answer never came back: what departs from that is what was
      // left.
      const [base, revision] =
        left.token !== "" && head.token === left.token
          ? [head.job, head.revision]
          : [old.job, left.revision];
      out.push({ left, base, revision, draft: mine, list: differences(base, mine) });
    } catch {
      // It stays where it is, for the next visit.
    }
  }
  return out;
}
