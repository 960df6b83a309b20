/**
 * Nothing typed is only in memory: what is not saved yet stands in the browser's own store, written at every
 * edit. Only what departs from
 * the saved revision is kept, so that it is small however large the job is.
 */

import type { Job } from "../api/types";
import { ALL_LISTS, type List } from "./lists";

/** What one page left behind of one job. */
export interface Leftover {
  job: string;
  /** The page that wrote it. */
  page: string;
  /** The revision that it departs from. */
  revision: number;
  /** The save that was on its way. */
  token: string;
  at: number;
  title: string;
  /** Top-level fields that differ, without the lists. */
  fields: Record<string, unknown>;
  /** Fields that were taken out. */
  gone: string[];
  /** Ids in their order, and the items that differ. */
  pieces: Kept;
  frames: Kept;
  /** Not there where an older page wrote it. */
  briefs?: Kept;
}

interface Kept {
  order: string[];
  items: Record<string, unknown>;
}

type Item = { id: string };
type Lists = Pick<Leftover, List>;
const items = (job: Job, key: List): Item[] => (job[key] ?? []) as Item[];

/**
 * What of `mine` departs from `base`. Parts that were not touched are the same objects, so this looks at
 * little.
 */
export function depart(base: Job, mine: Job): Pick<Leftover, "fields" | "gone"> & Lists {
  const [b, m] = [base as unknown as Record<string, unknown>, mine as unknown as Record<string, unknown>];
  const keys = Object.keys(m).filter((k) => !ALL_LISTS.includes(k as List));
  const kept = (key: List): Kept => {
    const known = new Map(items(base, key).map((i) => [i.id, i]));
    return {
      order: items(mine, key).map((i) => i.id),
      items: Object.fromEntries(
        items(mine, key)
          .filter((i) => known.get(i.id) !== i)
          .map((i) => [i.id, i]),
      ),
    };
  };
  return {
    fields: Object.fromEntries(keys.filter((k) => m[k] !== b[k]).map((k) => [k, m[k]])),
    gone: Object.keys(b).filter((k) => !ALL_LISTS.includes(k as List) && !(k in m)),
    pieces: kept("pieces"),
    frames: kept("frames"),
    briefs: kept("briefs"),
  };
}

/** The draft that was left, from the revision that it departed from. */
export function taken(base: Job, left: Pick<Leftover, "fields" | "gone"> & Lists): Job {
  const out = { ...base, ...left.fields } as unknown as Record<string, unknown>;
  for (const k of left.gone) delete out[k];
  for (const key of ALL_LISTS) {
    const kept = left[key];
    if (!kept) continue;
    const known = new Map(items(base, key).map((i) => [i.id, i]));
    const made = kept.order.map((id) => kept.items[id] ?? known.get(id)).filter((i) => i !== undefined);
    if (made.length > 0 || base[key] !== undefined) out[key] = made;
  }
  return out as unknown as Job;
}

const PREFIX = "steelk.draft.";
const key = (job: string, page: string) => `${PREFIX}${job}.${page}`;

/** This page's name, new at every load: what an earlier load left behind is never written over. */
export const PAGE: string = fresh();

/**
 * The name that this tab had before it was loaded again; a copied tab, whose original still lives, has none.
 */
const BEFORE: string = (() => {
  try {
    const kind = (
      performance.getEntriesByType("navigation")[0] as PerformanceNavigationTiming | undefined
    )?.type;
    const had = sessionStorage.getItem("steelk.page") ?? "";
    sessionStorage.setItem("steelk.page", PAGE);
    return kind === "reload" ? had : "";
  } catch {
    return "";
  }
})();

function fresh(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(9)), (b) =>
    b.toString(36).padStart(2, "0"),
  ).join("");
}

/** A name for a save that no other save has. */
export const token = fresh;

/** Puts it down. False when the browser's store does not take it. */
export function put(left: Omit<Leftover, "page" | "at">): boolean {
  try {
    localStorage.setItem(key(left.job, PAGE), JSON.stringify({ ...left, page: PAGE, at: Date.now() }));
    return true;
  } catch {
    return false;
  }
}

export function drop(left: Pick<Leftover, "job"> & { page?: string }): void {
  try {
    localStorage.removeItem(key(left.job, left.page ?? PAGE));
  } catch {
    // A browser without a store has nothing to drop.
  }
}

/** What was left behind of a job, or of all; the newest first. */
export function all(job?: string): Leftover[] {
  const out: Leftover[] = [];
  try {
    for (let i = 0; i < localStorage.length; i++) {
      const k = localStorage.key(i);
      if (!k?.startsWith(job === undefined ? PREFIX : `${PREFIX}${job}.`)) continue;
      try {
        const left = JSON.parse(localStorage.getItem(k) ?? "") as Leftover;
        if (left.job && left.pieces?.order && left.frames?.order && left.fields) out.push(left);
      } catch {
        // Not ours, or cut off: left where it is.
      }
    }
  } catch {
    return [];
  }
  return out.sort((a, b) => b.at - a.at);
}

/** Holds this page's name while it is open, so that others leave its drafts alone. */
export function announce(): void {
  void navigator.locks?.request(`steelk.page.${PAGE}`, () => new Promise(() => {}));
}

/** How long a draft is left alone where the browser does not tell which pages are open. */
const STILL_OPEN_MS = 60_000;

/** What pages left behind that are no longer open; this tab's own from before it was loaded again too. */
export async function abandoned(job?: string): Promise<Leftover[]> {
  const found = all(job);
  if (found.length === 0) return found;
  const state = await navigator.locks?.query();
  const open = new Set((state?.held ?? []).map((l) => l.name));
  const others = found.filter((l) => l.page !== PAGE);
  return others.filter(
    (l) =>
      l.page === BEFORE ||
      (state ? !open.has(`steelk.page.${l.page}`) : Date.now() - l.at > STILL_OPEN_MS),
  );
}
