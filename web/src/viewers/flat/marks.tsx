import type { Dimension, Finding, PieceView } from "../../api/types";
import { useDraft } from "../../hooks/useDraft";
import type { View } from "./usePanZoom";

export const LEVEL = 22;
export const LABEL = 17;

type Flat = PieceView["flat"];
type Bend = Flat["bends"][number];

/** A bend line straight up through the whole flat is labelled above the outline. */
const runsThrough = (b: Bend, flat: Flat) =>
  Math.abs(b.from[0]! - b.to[0]!) < 1e-6 &&
  Math.abs(b.from[1]! - b.to[1]!) > 0.98 * (flat.max[1]! - flat.min[1]!);

const bendSaid = (b: Bend) => `${b.up ? "up" : "down"} ${b.angle_text} R${b.radius_text}`;

/** Rows of bend labels that the view leaves room for: a slender upright flat stacks them. */
export function labelRows(flat: Flat): number {
  const { bends, min, max } = flat;
  const upright = max[0]! - min[0]! < 1.4 * (max[1]! - min[1]!);
  return Math.min(bends.filter((b) => runsThrough(b, flat)).length, upright ? 4 : 2);
}

/**
 * What a bend is: over it where it runs through the flat, higher where the neighbours are near; along it
 * elsewhere.
 */
export function BendLabels({
  flat,
  view,
  isLit,
}: {
  flat: Flat;
  view: View;
  isLit(names: string[]): boolean;
}) {
  const px = (p: number[]): [number, number] => [p[0]! * view.k + view.tx, -p[1]! * view.k + view.ty];
  const ends: number[] = [];
  const top = px(flat.max)[1];
  return flat.bends.map((b) => {
    const text = bendSaid(b);
    const lit = isLit([b.name]) ? " lit" : "";
    if (!runsThrough(b, flat)) {
      let [p, q] = [px(b.from), px(b.to)];
      if (q[0] < p[0] - 1e-6 || (q[0] < p[0] + 1e-6 && q[1] > p[1])) [p, q] = [q, p];
      const room = Math.hypot(q[0] - p[0], q[1] - p[1]);
      const size = Math.min(12, (room * 1.9) / text.length);
      if (size < 7.5) return null;
      const turn = (Math.atan2(q[1] - p[1], q[0] - p[0]) * 180) / Math.PI;
      return (
        <g
          key={b.name}
          className={`bend-text${lit}`}
          transform={`translate(${(p[0] + q[0]) / 2} ${(p[1] + q[1]) / 2}) rotate(${turn})`}
        >
          <text y={-4} textAnchor="middle" fontSize={size}>
            {text}
          </text>
        </g>
      );
    }
    const x = px(b.to)[0];
    const half = text.length * 3.3 + 4;
    let row = ends.findIndex((end) => x - half > end);
    if (row < 0) row = ends.length;
    ends[row] = x + half;
    const y = top - LEVEL - 14 - row * LABEL;
    return (
      <g key={b.name} className={`bend-text${lit}`}>
        <path d={`M${x} ${top}V${y + 4}`} />
        <text x={x} y={y} textAnchor="middle">
          {text}
        </text>
      </g>
    );
  });
}

/** What the cuts are, above each; moved up a row where two would lie on one another. */
export function Marks({ marks, px }: { marks: Flat["marks"]; px(p: number[]): [number, number] }) {
  const taken: { x: number; y: number; half: number }[] = [];
  return marks.map((m) => {
    const [x, top] = px(m.at);
    const half = m.text.length * 3.1 + 3;
    let y = top - 5;
    while (taken.some((t) => Math.abs(t.x - x) < t.half + half && Math.abs(t.y - y) < 13)) y -= 13;
    taken.push({ x, y, half });
    return (
      <text key={m.name} className="mark" x={x} y={y} textAnchor="middle">
        {m.text}
      </text>
    );
  });
}

export function Dim({
  d,
  view,
  min,
  max,
}: {
  d: Dimension;
  view: View;
  min: [number, number];
  max: [number, number];
}) {
  const px = (p: number[]): [number, number] => [p[0]! * view.k + view.tx, -p[1]! * view.k + view.ty];
  const [p, q] = [px(d.from), px(d.to)];
  const out = LEVEL * (d.level + 1) - 4;
  const flatwise = d.side === "south" || d.side === "north";
  const y = d.side === "south" ? min[1] + out : max[1] - out;
  const x = d.side === "west" ? min[0] - out : max[0] + out;
  const [a, b] = flatwise
    ? [[p[0], y] as const, [q[0], y] as const]
    : [[x, p[1]] as const, [x, q[1]] as const];
  const past = d.side === "south" || d.side === "east" ? 4 : -4;
  const end = (from: [number, number], to: readonly [number, number]) =>
    flatwise ? `M${from}L${to[0]} ${to[1] + past}` : `M${from}L${to[0] + past} ${to[1]}`;
  const tick = ([x, y]: readonly [number, number]) => `M${x - 3} ${y + 3}L${x + 3} ${y - 3}`;
  const [cx, cy] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  // Between near lines the text shrinks, and waits for a closer look rather than run over its neighbours.
  const room = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const size = Math.min(12, (12 * Math.max(room, d.level > 0 ? 60 : 0)) / (d.text.length * 7.2 + 4));
  const width = (d.text.length * 7 + 6) * (size / 12);
  return (
    <g className="dim">
      <path d={`${end(p, a)}${end(q, b)}M${a}L${b}${tick(a)}${tick(b)}`} />
      {size >= 7.5 && (
        <g transform={flatwise ? `translate(${cx} ${cy})` : `translate(${cx} ${cy}) rotate(-90)`}>
          <rect x={-width / 2} y={-8} width={width} height={15} />
          <text y={4} textAnchor="middle" fontSize={size}>
            {d.text}
          </text>
        </g>
      )}
    </g>
  );
}

const SIGN = { stop: "■", warn: "▲", note: "●" } as const;

/**
 * A finding beside the place it is about, on the side away from the middle, so that it covers nothing that
 * can be clicked.
 */
export function Pin({ f, at, middle }: { f: Finding; at: [number, number]; middle: [number, number] }) {
  const lit = useDraft((d) => f.names.some((n) => d.hover.names.includes(n)));
  const away = at.map((v, i) => v + (v < middle[i]! ? -13 : 13));
  return (
    <g className={`pin ${f.severity}${lit ? " lit" : ""}`} transform={`translate(${away[0]} ${away[1]})`}>
      <title>{f.message}</title>
      <circle r={8} />
      <text y={4} textAnchor="middle">
        {SIGN[f.severity]}
      </text>
    </g>
  );
}
