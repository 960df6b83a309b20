import type { PieceView } from "../../api/types";
import { loopPath } from "../../evaluation/paths";

/** Outlines that fit all that a start tells, where it tells too little for one. */
export function Family({ piece }: { piece: PieceView }) {
  const points = piece.family.flat();
  const xs = points.map((p) => p[0] ?? 0);
  const ys = points.map((p) => p[1] ?? 0);
  const [west, south] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - west, Math.max(...ys) - south];
  const room = 0.12 * Math.max(wide, high, 1);
  const box = [west - room, -(south + high) - room, wide + 2 * room, high + 2 * room];
  const [first, ...others] = piece.family;
  return (
    <section className="pane wide" aria-label="outlines that fit">
      <h2>
        Outlines that still fit
        <span className="old-said">what is missing stands at the line on the left</span>
      </h2>
      <svg className="family" viewBox={box.join(" ")} role="img" aria-label="several outlines that fit">
        <g transform="scale(1 -1)">
          {others.map((loop, i) => (
            <path key={i} className="other" d={loopPath(loop)} />
          ))}
          {first && <path className="one" d={loopPath(first)} />}
        </g>
      </svg>
    </section>
  );
}
