/**
 * What stands over the frame's picture follows the camera: bubbles and marks of the plane at their places,
 * names and marks where the engine of labels puts them once the camera rests.
 */

import { type RefObject, useEffect, useRef } from "react";
import { askPlaces, RESTS, type Spots, spotOf, type Tag } from "../spots";
import type { FrameScene } from "./FrameScene";

/** Half of a joint's bubble, in pixels. */
const BUBBLE = 12;

export function useOverlay(
  over: RefObject<HTMLDivElement | null>,
  scene: RefObject<FrameScene | null>,
): void {
  const spots = useRef<Spots>(new Map());
  const sizes = useRef(new Map<string, [number, number]>());
  const asked = useRef("");
  const resting = useRef<{ timer: number; gone: AbortController } | null>(null);

  useEffect(() => {
    const s = scene.current;
    if (!s) return;
    const put = () => {
      const host = over.current;
      if (!host) return;
      const tags: Tag[] = [];
      const boxes: number[][] = [];
      let leaders = "";
      for (const el of host.children as Iterable<HTMLElement>) {
        const at = el.dataset.at?.split(",").map(Number);
        if (!at) continue;
        const [x, y] = s.project(at) as [number, number];
        const key = el.dataset.tag;
        if (key === undefined) {
          el.style.transform = `translate(${x}px, ${y}px)`;
          if (el.classList.contains("bubble"))
            boxes.push([x - BUBBLE, y - BUBBLE, x + BUBBLE, y + BUBBLE]);
          continue;
        }
        const [wide, high] = sizes.current.get(key) ?? [el.offsetWidth, el.offsetHeight];
        sizes.current.set(key, [wide, high]);
        const tag: Tag = {
          key,
          at: [x, y],
          wide,
          high,
          clear: 5,
          weight: el.classList.contains("lit") ? 2 : 1,
        };
        tags.push(tag);
        el.dataset.px = `${Math.round(x)},${Math.round(y)}`;
        const spot = spotOf(tag, spots.current);
        el.style.visibility = spot ? "" : "hidden";
        if (!spot) continue;
        el.style.transform = `translate(${spot.x - wide / 2}px, ${spot.y - high / 2}px)`;
        if (spot.leader) leaders += `M${spot.leader.slice(0, 2)}L${spot.leader.slice(2)}`;
      }
      host.querySelector(".leaders path")?.setAttribute("d", leaders);
      ask(host, tags, boxes);
    };
    const ask = (host: HTMLElement, tags: Tag[], boxes: number[][]) => {
      const view: [number, number] = [host.clientWidth, host.clientHeight];
      const what = `${view} ${tags.map((t) => `${t.key} ${t.at.map(Math.round)} ${t.weight}`)}`;
      if (what === asked.current || tags.length === 0 || view[0] < 1) return;
      asked.current = what;
      clearTimeout(resting.current?.timer);
      resting.current?.gone.abort();
      const gone = new AbortController();
      const timer = window.setTimeout(async () => {
        const places = await askPlaces(tags, { boxes, lines: [] }, view, spots.current, gone.signal);
        if (!places) {
          // No answer: the next picture asks again.
          if (!gone.signal.aborted) asked.current = "";
          return;
        }
        spots.current = places;
        s.drawn?.();
      }, RESTS);
      resting.current = { timer, gone };
    };
    s.drawn = put;
    put();
  });

  useEffect(
    () => () => {
      clearTimeout(resting.current?.timer);
      resting.current?.gone.abort();
    },
    [],
  );
}
