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

/**
 * Pan by dragging, zoom by wheel about the pointer, fit again by double click; fits by itself until it is
 * moved by hand.
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
    const k = Math.min(Math.max(v.k * by, 1e-3), 400);
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

  const onPointerDown = (e: React.PointerEvent) => {
    if (e.button !== 0 && e.button !== 1) return;
    dragged.current = false;
    const [x0, y0, v] = [e.clientX, e.clientY, now.current];
    const move = (m: PointerEvent) => {
      const [dx, dy] = [m.clientX - x0, m.clientY - y0];
      if (!dragged.current && Math.hypot(dx, dy) < 4) return;
      dragged.current = true;
      setHand({ k: v.k, tx: v.tx + dx, ty: v.ty + dy });
    };
    const up = () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
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
