import { type RefObject, useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";

/** Pixels of a flat point: x·k + tx, −y·k + ty. */
export interface View {
  k: number;
  tx: number;
  ty: number;
}

export interface Box {
  min: number[];
  max: number[];
}

/** How far in and out a view goes, pixels a mm. */
const [FARTHEST, NEAREST] = [1e-3, 400];

/** Where fingers hold a view: the middle between them, how far they are apart, how many. */
export interface Held {
  x: number;
  y: number;
  apart: number;
  count: number;
}

export function held(fingers: Map<number, [number, number]>): Held {
  const [a = [0, 0], b = a] = [...fingers.values()];
  return {
    x: (a[0]! + b[0]!) / 2,
    y: (a[1]! + b[1]!) / 2,
    apart: Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!),
    count: fingers.size,
  };
}

/** The view once fingers went from here to there: what lies between them stays between them. */
export function pinched(v: View, from: Held, to: Held, [left, top]: [number, number]): View {
  const by = from.apart > 1 && to.apart > 1 ? to.apart / from.apart : 1;
  const k = Math.min(Math.max(v.k * by, FARTHEST), NEAREST);
  const at = (v: number, from: number, to: number) => to - ((from - v) * k) / now;
  const now = v.k;
  return {
    k,
    tx: at(v.tx, from.x - left, to.x - left),
    ty: at(v.ty, from.y - top, to.y - top),
  };
}

/**
 * Pan by dragging, zoom by wheel or two fingers about what lies under them, fit again by double click; fits
 * by itself until it is moved by hand.
 */
export function usePanZoom(box: Box | undefined, margin: number[]) {
  const host = useRef<SVGSVGElement>(null);
  const [size, setSize] = useState({ w: 0, h: 0 });
  const [hand, setHand] = useState<View | null>(null);
  const dragged = useRef(false);

  useLayoutEffect(() => {
    const el = host.current;
    if (!el) return;
    const look = () => setSize({ w: el.clientWidth, h: el.clientHeight });
    look();
    const watch = new ResizeObserver(look);
    watch.observe(el);
    return () => watch.disconnect();
  }, []);

  const [south = 0, north = 0, west = 0, east = 0] = margin;
  let fitted: View = { k: 1, tx: 0, ty: 0 };
  if (box && size.w > 0) {
    const [bw, bh] = [
      Math.max(box.max[0]! - box.min[0]!, 1e-6),
      Math.max(box.max[1]! - box.min[1]!, 1e-6),
    ];
    const k = Math.max(Math.min((size.w - west - east) / bw, (size.h - south - north) / bh), 1e-4);
    fitted = {
      k,
      tx: west + (size.w - west - east - bw * k) / 2 - box.min[0]! * k,
      ty: north + (size.h - south - north - bh * k) / 2 + box.max[1]! * k,
    };
  }
  const view = hand ?? fitted;
  const now = useRef(view);
  now.current = view;

  const fit = useCallback(() => setHand(null), []);
  /** Nearer or further, about a point of the view; its middle where none is told. */
  const zoom = useCallback((by: number, about?: [number, number]) => {
    const el = host.current;
    if (!el) return;
    const [px, py] = about ?? [el.clientWidth / 2, el.clientHeight / 2];
    const v = now.current;
    const k = Math.min(Math.max(v.k * by, FARTHEST), NEAREST);
    setHand({ k, tx: px - ((px - v.tx) * k) / v.k, ty: py - ((py - v.ty) * k) / v.k });
  }, []);

  useEffect(() => {
    const el = host.current;
    if (!el) return;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const r = el.getBoundingClientRect();
      zoom(Math.exp(-e.deltaY * 0.0015), [e.clientX - r.left, e.clientY - r.top]);
    };
    el.addEventListener("wheel", wheel, { passive: false });
    return () => el.removeEventListener("wheel", wheel);
  }, [zoom]);

  // Fingers on the view: one moves it, two bring it nearer about the place between them.
  const fingers = useRef(new Map<number, [number, number]>());
  const onPointerDown = (e: React.PointerEvent) => {
    if (e.button !== 0 && e.button !== 1) return;
    const down = fingers.current;
    if (down.size === 0) dragged.current = false;
    down.set(e.pointerId, [e.clientX, e.clientY]);
    if (down.size > 1) return;
    let begun = now.current;
    let from = held(down);
    const move = (m: PointerEvent) => {
      if (!down.has(m.pointerId)) return;
      const was = down.size;
      down.set(m.pointerId, [m.clientX, m.clientY]);
      // A finger that came or went begins anew from where the view stands.
      if (from.count !== was) {
        [begun, from] = [now.current, held(down)];
        return;
      }
      const to = held(down);
      const [dx, dy] = [to.x - from.x, to.y - from.y];
      if (!dragged.current && to.count === 1 && Math.hypot(dx, dy) < 4) return;
      dragged.current = true;
      const r = host.current?.getBoundingClientRect();
      setHand(pinched(begun, from, to, [r?.left ?? 0, r?.top ?? 0]));
    };
    const up = (u: PointerEvent) => {
      down.delete(u.pointerId);
      if (down.size > 0) return;
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      window.removeEventListener("pointercancel", up);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
    window.addEventListener("pointercancel", up);
  };

  return {
    host: host as RefObject<SVGSVGElement>,
    size,
    view,
    fit,
    zoom,
    onPointerDown,
    dragged,
    moved: hand !== null,
  };
}
