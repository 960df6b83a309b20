/**
 * Where the labels of a view stand: the engine that sets them on paper is asked once the view rests; until
 * it has answered, and while the view moves, each stays where it stood beside what it speaks of.
 */

import { useEffect, useRef, useState } from "react";
import { answer, api } from "../api/client";
import type { LabelPlace, LabelsAsk } from "../api/types";

export interface Tag {
  key: string;
  /** What it speaks of, in pixels of the view. */
  at: [number, number];
  wide: number;
  high: number;
  clear: number;
  /** Heavier ones find their place first. */
  weight: number;
}

export interface Spot {
  /** Its middle. */
  x: number;
  y: number;
  leader?: [number, number, number, number];
}

/** By key; null for one that has no room. */
export type Spots = Map<string, LabelPlace | null>;

/** The view rests when it has not moved for so long, ms. */
export const RESTS = 70;
/** Outlines of very many sides are no help to a label. */
const LINES = 1500;

/** Beside its anchor where nothing is known of it yet: above. */
const first = (t: Tag): LabelPlace => ({ off: [0, -t.clear - t.high / 2 - 2] });

/** Where a label stands now. */
export function spotOf(t: Tag, spots: Spots): Spot | null {
  const place = spots.has(t.key) ? spots.get(t.key) : first(t);
  if (!place) return null;
  const [x, y] = t.at;
  const [dx, dy] = place.off as [number, number];
  const l = place.leader as [number, number, number, number] | undefined | null;
  return { x: x + dx, y: y + dy, leader: l ? [x + l[0], y + l[1], x + l[2], y + l[3]] : undefined };
}

/** What the engine is asked. */
export function askOf(
  tags: Tag[],
  keep: { boxes: number[][]; lines: number[][] },
  view: [number, number],
  spots: Spots,
): LabelsAsk {
  const tenth = (v: number) => Math.round(v * 10) / 10;
  const tenths = <T extends number[]>(list: T) => list.map(tenth) as T;
  return {
    view,
    labels: tags.map((t) => ({
      at: tenths(t.at),
      wide: tenth(t.wide),
      high: tenth(t.high),
      clear: tenth(t.clear),
      weight: t.weight,
      before: spots.get(t.key)?.off ?? null,
    })),
    boxes: keep.boxes.map((b) => tenths(b) as [number, number, number, number]),
    lines: keep.lines.slice(0, LINES).map((l) => tenths(l) as [number, number, number, number]),
  };
}

/** The engine's answer; none where it gives none: the places that the labels have serve until the next. */
export async function askPlaces(
  tags: Tag[],
  keep: { boxes: number[][]; lines: number[][] },
  view: [number, number],
  spots: Spots,
  signal: AbortSignal,
): Promise<Spots | null> {
  try {
    const places = answer(
      await api.POST("/api/labels", { body: askOf(tags, keep, view, spots), signal }),
    );
    return signal.aborted ? null : new Map(tags.map((t, i) => [t.key, places[i] ?? null]));
  } catch {
    return null;
  }
}

/** Places of labels in a view of this size; how many have no room in it. */
export function useSpots(
  tags: Tag[],
  keep: { boxes: number[][]; lines: number[][] },
  view: [number, number],
): { spots: Spots; left: number } {
  const [spots, setSpots] = useState<Spots>(() => new Map());
  const now = useRef(spots);
  now.current = spots;
  // Its own answers are no reason to ask again.
  const asked = JSON.stringify(askOf(tags, keep, view, new Map()));
  const keys = tags.map((t) => t.key).join("\n");
  useEffect(() => {
    if (tags.length === 0 || view[0] < 1) return;
    const gone = new AbortController();
    const rest = setTimeout(async () => {
      const places = await askPlaces(tags, keep, view, now.current, gone.signal);
      if (places) setSpots(places);
    }, RESTS);
    return () => {
      clearTimeout(rest);
      gone.abort();
    };
  }, [asked, keys]);
  return { spots, left: tags.filter((t) => spots.get(t.key) === null).length };
}
