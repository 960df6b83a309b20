import { useRef } from "react";
import type { PieceView } from "../../api/types";
import { writeDoc } from "../../document/bench";
import { draft } from "../../document/draft";
import { get } from "../../document/pointer";
import { lengthField } from "../zones";

/** Pulls the tip of a folded panel: its told length follows the pointer, to 0.5 mm or 1/16 in. */
export function useTipDrag(view: PieceView, scale: () => number) {
  const pulling = useRef(false);
  const start = (edge: string, e: React.PointerEvent): boolean => {
    const piece = draft.getState().job?.pieces?.find((p) => p.id === view.id);
    const field = lengthField(view, edge);
    const zone = view.zones.find((z) => z.name === edge.slice(0, -4));
    const told = Number.parseFloat(String(get(piece, field ?? "") ?? ""));
    if (!field || !zone || String(told) !== String(get(piece, field)).trim() || e.button !== 0)
      return false;
    const inches = view.display.length === "in";
    const [x0, y0] = [e.clientX, e.clientY];
    const [ax, ay] = [zone.along[0]!, zone.along[1]!];
    const move = (m: PointerEvent) => {
      const mm = ((m.clientX - x0) * ax - (m.clientY - y0) * ay) / scale();
      if (!pulling.current && Math.hypot(m.clientX - x0, m.clientY - y0) < 4) return;
      pulling.current = true;
      const next = inches ? Math.round((told + mm / 25.4) * 16) / 16 : Math.round((told + mm) * 2) / 2;
      if (next > 0) writeDoc("piece", field, String(next), true);
    };
    const up = () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      // The click that ends a pull offers nothing.
      setTimeout(() => {
        pulling.current = false;
      });
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
    return true;
  };
  return { start, pulling };
}
