import type { PieceView } from "../../api/types";
import { loopPath } from "../../evaluation/paths";
import { SideLetters } from "./letters";
import { usePanZoom } from "./usePanZoom";

const ROOM = [40, 50, 40, 40];

/** Outlines that fit all that a start tells, where it tells too little for one. */
export function Family({ piece }: { piece: PieceView }) {
  const { host, view } = usePanZoom(piece.flat, ROOM);
  const px = (p: number[]): [number, number] => [p[0]! * view.k + view.tx, -p[1]! * view.k + view.ty];
  const [first, ...others] = piece.family;
  return (
    <section className="pane family-pane" aria-label="outlines that fit">
      <h2>
        Outlines that still fit
        <span className="old-said">what is missing stands at the line</span>
      </h2>
      <svg ref={host} className="flat family" role="img" aria-label="several outlines that fit">
        <g transform={`matrix(${view.k} 0 0 ${-view.k} ${view.tx} ${view.ty})`}>
          {others.map((loop, i) => (
            <path key={i} className="other" d={loopPath(loop)} />
          ))}
          {first && <path className="one" d={loopPath(first)} />}
        </g>
        {first && <SideLetters loop={first} sides={piece.family_sides} px={px} />}
      </svg>
    </section>
  );
}
