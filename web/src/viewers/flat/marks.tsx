import type { Finding, PieceView } from "../../api/types";
import { draft } from "../../document/draft";
import { classes } from "../../hooks/classes";
import { useDraft } from "../../hooks/useDraft";
import { type Spot, type Spots, spotOf, type Tag } from "../spots";
import type { View } from "./usePanZoom";

export const LEVEL = 22;
export const LABEL = 17;

type Flat = PieceView["flat"];
type Bend = Flat["bends"][number];

/** A bend line straight up through the whole flat is labelled above the outline. */
const runsThrough = (b: Bend, flat: Flat) =>
  Math.abs(b.from[0]! - b.to[0]!) < 1e-6 &&
  Math.abs(b.from[1]! - b.to[1]!) > 0.98 * (flat.max[1]! - flat.min[1]!);

/** Rows of bend labels that the view leaves room for: a slender upright flat stacks them. */
export function labelRows(flat: Flat): number {
  const { bends, min, max } = flat;
  const upright = max[0]! - min[0]! < 1.4 * (max[1]! - min[1]!);
  return Math.min(bends.filter((b) => runsThrough(b, flat)).length, upright ? 4 : 2);
}

/** A text of the view, about its middle, and the box round it: least x and y, greatest x and y. */
interface Set {
  text: string;
  x: number;
  y: number;
  size: number;
  turn: number;
  box: [number, number, number, number];
}

/** Breadth of a letter by its height. */
const LETTER = 0.56;

function set(text: string, [x, y]: [number, number], size: number, turn: number): Set {
  const [sin, cos] = [Math.sin((turn * Math.PI) / 180), Math.cos((turn * Math.PI) / 180)];
  const [w, h] = [(text.length * size * LETTER) / 2 + 2, size * 0.6];
  const [reachX, reachY] = [w * Math.abs(cos) + h * Math.abs(sin), w * Math.abs(sin) + h * Math.abs(cos)];
  return { text, x, y, size, turn, box: [x - reachX, y - reachY, x + reachX, y + reachY] };
}

/**
 * What each bend is: over it where it runs through the flat, higher where the neighbours are near; along it
 * elsewhere; none where it has no room.
 */
export function bendTexts(flat: Flat, view: View): { bend: Bend; from?: number; said: Set }[] {
  const px = (p: number[]): [number, number] => [p[0]! * view.k + view.tx, -p[1]! * view.k + view.ty];
  const ends: number[] = [];
  const top = px(flat.max)[1];
  return flat.bends.flatMap((b) => {
    const text = b.said;
    if (!runsThrough(b, flat)) {
      let [p, q] = [px(b.from), px(b.to)];
      if (q[0] < p[0] - 1e-6 || (q[0] < p[0] + 1e-6 && q[1] > p[1])) [p, q] = [q, p];
      const room = Math.hypot(q[0] - p[0], q[1] - p[1]);
      const size = Math.min(12, (room * 1.9) / text.length);
      if (size < 7.5) return [];
      const way = [(q[0] - p[0]) / room, (q[1] - p[1]) / room] as const;
      const off = size * 0.36 + 4;
      const middle: [number, number] = [
        (p[0] + q[0]) / 2 + way[1] * off,
        (p[1] + q[1]) / 2 - way[0] * off,
      ];
      return [{ bend: b, said: set(text, middle, size, (Math.atan2(way[1], way[0]) * 180) / Math.PI) }];
    }
    const x = px(b.to)[0];
    const half = text.length * 3.3 + 4;
    let row = ends.findIndex((end) => x - half > end);
    if (row < 0) row = ends.length;
    ends[row] = x + half;
    const y = top - LEVEL - 18 - row * LABEL;
    return [{ bend: b, from: top, said: set(text, [x, y], 12, 0) }];
  });
}

function Said({ said }: { said: Set }) {
  return (
    <text
      transform={`translate(${said.x} ${said.y}) rotate(${said.turn})`}
      y={said.size * 0.36}
      textAnchor="middle"
      fontSize={said.size}
    >
      {said.text}
    </text>
  );
}

export function BendLabels({
  texts,
  isLit,
}: {
  texts: ReturnType<typeof bendTexts>;
  isLit(names: string[]): boolean;
}) {
  return texts.map(({ bend, from, said }) => (
    <g key={bend.name} className={`bend-text${isLit([bend.name]) ? " lit" : ""}`}>
      {from !== undefined && <path d={`M${said.x} ${from}V${said.y + 8}`} />}
      <Said said={said} />
    </g>
  ));
}

/** A size as it is drawn; of one that is kept the text stands where the engine finds room, by its `tag`. */
export interface Dim {
  path: string;
  said?: Set;
  text: string;
  line: string;
  tag?: Tag;
}

const tick = ([x, y]: readonly [number, number], [ux, uy]: readonly [number, number] = [1, 0]) => {
  const [dx, dy] = [3 * (ux + uy), 3 * (uy - ux)];
  return `M${x - dx} ${y - dy}L${x + dx} ${y + dy}`;
};

/** Sizes of the view, with what lies beside them on paper; texts that have no room between are left out. */
export function dimTexts(flat: Flat, view: View): Dim[] {
  const px = (p: number[]): [number, number] => [p[0]! * view.k + view.tx, -p[1]! * view.k + view.ty];
  const [min, max] = [px(flat.min), px(flat.max)];
  const kept = (d: { line: string; text: string }, at: [number, number]) => ({
    key: `kept ${d.line}`,
    at,
    wide: d.text.length * 7.4 + 6,
    high: 15,
    clear: 0,
    weight: 4,
  });
  const along = flat.dimensions.map((d): Dim => {
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
    // Between near lines the text shrinks, and waits for a closer look rather than run over its neighbours.
    const room = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const size = Math.min(12, (12 * Math.max(room, d.level > 0 ? 60 : 0)) / (d.text.length * 7.2 + 4));
    const middle: [number, number] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    const path = `${end(p, a)}${end(q, b)}M${a}L${b}${tick(a)}${tick(b)}`;
    const whole = flat.dimensions.some((w) => w.side === d.side && w.level > d.level);
    if (d.line && whole) return { path, text: d.text, line: d.line, tag: kept(d, middle) };
    const said = size >= 7.5 ? set(d.text, middle, size, flatwise ? 0 : -90) : undefined;
    return { path, said, text: d.text, line: d.line };
  });
  const slanting = flat.kept.map((d): Dim => {
    const [p, q] = [px(d.from), px(d.to)];
    const long = Math.hypot(q[0] - p[0], q[1] - p[1]) || 1;
    const way = [(q[0] - p[0]) / long, (q[1] - p[1]) / long] as const;
    const middle: [number, number] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
    const path = `M${p}L${q}${tick(p, way)}${tick(q, way)}`;
    return { path, text: d.text, line: d.line, tag: kept(d, middle) };
  });
  return [...along, ...slanting];
}

/** Goes to the line that keeps a size. */
const toLine = (line: string) => {
  draft.getState().pick(line);
  document.querySelector<HTMLElement>(`[data-line="${line}"] select`)?.focus();
};

export function Dims({ dims, spots }: { dims: Dim[]; spots: Spots }) {
  const lit = useDraft((d) => d.hover.line ?? d.picked);
  return dims.map(({ path, said, text, line, tag }, i) => {
    const spot = tag && spotOf(tag, spots);
    return (
      // biome-ignore lint/a11y/noStaticElementInteractions: the line itself is reached by the keyboard
      <g
        key={i}
        className={classes("dim", { kept: line !== "", lit: line !== "" && line === lit })}
        data-kept={line || undefined}
        onClick={line ? () => toLine(line) : undefined}
        onPointerMove={
          line
            ? (e) => {
                e.stopPropagation();
                draft.getState().setHover({ line, names: [] });
              }
            : undefined
        }
      >
        <path d={path} />
        {said && (
          <>
            <rect
              transform={`translate(${said.x} ${said.y}) rotate(${said.turn})`}
              x={-(said.text.length * 7 + 6) * (said.size / 24)}
              y={-8}
              width={(said.text.length * 7 + 6) * (said.size / 12)}
              height={15}
            />
            <Said said={said} />
          </>
        )}
        {tag && spot && (
          <>
            <Leader spot={spot} />
            <rect x={spot.x - tag.wide / 2} y={spot.y - 7.5} width={tag.wide} height={15} />
            <text x={spot.x} y={spot.y + 4.3} textAnchor="middle" fontSize={12}>
              {text}
            </text>
          </>
        )}
      </g>
    );
  });
}

/** What stands beside the flat's things by the engine: sizes of holes once a kind, findings, kept sizes. */
export function tagsOf(
  marks: Flat["marks"],
  findings: Finding[],
  dims: Dim[],
  px: (p: number[]) => [number, number],
): Tag[] {
  return [
    ...marks.map((m) => ({
      key: `mark ${m.name}`,
      at: px(m.at),
      wide: m.text.length * 6.4 + 6,
      high: 14,
      clear: 2,
      weight: 1,
    })),
    ...findings.map((f, i) => ({
      key: `pin ${i} ${f.check} ${f.names.join()}`,
      at: px(f.at!),
      wide: 18,
      high: 18,
      clear: 5,
      weight: f.severity === "note" ? 2 : 3,
    })),
    ...dims.flatMap((d) => d.tag ?? []),
  ];
}

/** From a label that stands apart to what it speaks of. */
export function Leader({ spot }: { spot: Spot }) {
  if (!spot.leader) return null;
  const [a, b, c, d] = spot.leader;
  return <path className="leader" d={`M${a} ${b}L${c} ${d}`} />;
}

/** What the cuts are, beside each. */
export function Marks({ marks, tags, spots }: { marks: Flat["marks"]; tags: Tag[]; spots: Spots }) {
  return marks.map((m, i) => {
    const spot = spotOf(tags[i]!, spots);
    if (!spot) return null;
    return (
      <g key={m.name}>
        <Leader spot={spot} />
        <text className="mark" x={spot.x} y={spot.y + 4} textAnchor="middle">
          {m.text}
        </text>
      </g>
    );
  });
}

const SIGN = { stop: "■", warn: "▲", note: "●" } as const;

/** A finding beside the place it is about, so that it covers nothing that can be clicked. */
export function Pin({ f, spot }: { f: Finding; spot: Spot }) {
  const lit = useDraft((d) => f.names.some((n) => d.hover.names.includes(n)));
  return (
    <>
      <Leader spot={spot} />
      <g className={`pin ${f.severity}${lit ? " lit" : ""}`} transform={`translate(${spot.x} ${spot.y})`}>
        <title>{f.message}</title>
        <circle r={8} />
        <text y={4} textAnchor="middle">
          {SIGN[f.severity]}
        </text>
      </g>
    </>
  );
}
