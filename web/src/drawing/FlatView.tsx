import { useMemo } from "react";
import type { Dimension, Finding, PieceView } from "../api/types";
import { NOWHERE, useDraft } from "../draft/store";
import type { Asked } from "../recipe/Offers";
import { loopPath, segmentPath } from "./paths";
import { usePanZoom, type View } from "./usePanZoom";

const LEVEL = 22;
const LABEL = 17;

/** Room for dimensions on each side, in pixels: south, north, west, east. */
function margins(dims: Dimension[], labelRows: number): number[] {
  return (["south", "north", "west", "east"] as const).map((side) => {
    const levels = Math.max(0, ...dims.filter((d) => d.side === side).map((d) => d.level + 1));
    return 16 + levels * LEVEL + (side === "north" ? labelRows * LABEL : 0);
  });
}

/** The flat pattern: outline, holes, bend lines, dimensions, pins of findings. Hover tells what belongs together; a click offers lines. */
export function FlatView({ piece, ask }: { piece: PieceView; ask(asked: Asked): void }) {
  const { flat } = piece;
  const { host, view, fit, onPointerDown, dragged, moved } = usePanZoom(flat, margins(flat.dimensions, labelRows(flat)));
  const hover = useDraft((d) => d.hover);
  const { setHover, pick } = useDraft.getState();
  const shapes = useMemo(() => {
    const groups = new Map<string, { line: string; d: string; names: string[] }>();
    // Holes of one line are one element: ten thousand of them pan as smoothly as one.
    for (const h of flat.holes) {
      const alone = flat.holes.length <= 400;
      const key = alone ? h.name : h.line;
      const g = groups.get(key) ?? { line: h.line, d: "", names: [] };
      g.d += loopPath(h.points);
      g.names.push(h.name);
      groups.set(key, g);
    }
    const outer = loopPath(flat.outer);
    const sides = flat.outer.map((p, i) => ({
      name: flat.sides[i] ?? "",
      d: `M${p[0]} ${p[1]}${segmentPath(p, flat.outer[(i + 1) % flat.outer.length]!)}`,
    }));
    return { outer, holes: [...groups.values()], body: outer + flat.holes.map((h) => loopPath(h.points)).join(""), sides };
  }, [flat]);

  const toFlat = (e: React.MouseEvent): [number, number] => {
    const r = host.current?.getBoundingClientRect();
    return [(e.clientX - (r?.left ?? 0) - view.tx) / view.k, -(e.clientY - (r?.top ?? 0) - view.ty) / view.k];
  };
  const lineOf = (name: string) => piece.features.find((f) => f.name === name)?.line ?? piece.zones.find((z) => name.startsWith(z.line))?.line;
  const over = (names: string[], line?: string) => ({
    onPointerEnter: () => setHover({ line, names }),
    onPointerLeave: () => setHover(NOWHERE),
  });
  const click = (what: Asked["what"], name: string, line?: string) => (e: React.MouseEvent) => {
    if (dragged.current) return;
    e.stopPropagation();
    if (line) pick(line);
    ask({ what, name, line, at: toFlat(e), x: e.clientX, y: e.clientY });
  };
  const zoneAt = ([x, y]: [number, number]) => piece.zones.find((z) => x >= z.min[0]! && x <= z.max[0]! && y >= z.min[1]! && y <= z.max[1]!);
  const isLit = (names: string[], line?: string) =>
    (hover.line !== undefined && hover.line === line && hover.names.length === 0) || names.some((n) => hover.names.includes(n));
  const px = (p: number[]): [number, number] => [p[0]! * view.k + view.tx, -p[1]! * view.k + view.ty];
  const findings = piece.findings.filter((f) => f.at);

  return (
    <svg ref={host} className="flat" role="img" aria-label={`flat pattern of ${piece.mark}`} onPointerDown={onPointerDown} onDoubleClick={fit}>
      <title>{`Flat pattern of ${piece.mark}`}</title>
      <g transform={`matrix(${view.k} 0 0 ${-view.k} ${view.tx} ${view.ty})`}>
        <path
          className="material"
          d={shapes.body}
          fillRule="evenodd"
          onPointerMove={(e) => {
            const z = zoneAt(toFlat(e));
            if (z) setHover({ line: z.line, names: [z.name] });
          }}
          onPointerLeave={() => setHover(NOWHERE)}
          onClick={(e) => {
            const z = zoneAt(toFlat(e));
            if (z) click(z.bend ? "bend" : "panel", z.name, z.line)(e);
          }}
        />
        {piece.zones
          .filter((z) => z.bend)
          .map((z) => (
            <rect
              key={z.name}
              className={`bend-zone${isLit([z.name]) ? " lit" : ""}`}
              x={z.min[0]}
              y={z.min[1]}
              width={z.max[0]! - z.min[0]!}
              height={z.max[1]! - z.min[1]!}
            />
          ))}
        {piece.zones
          .filter((z) => !z.bend && isLit([z.name]))
          .map((z) => (
            <rect key={z.name} className="panel-lit" x={z.min[0]} y={z.min[1]} width={z.max[0]! - z.min[0]!} height={z.max[1]! - z.min[1]!} />
          ))}
        {flat.dropped.map((d, i) => (
          <path key={i} className="dropped" d={loopPath(d)} />
        ))}
        {flat.bends.map((b) => (
          <path key={b.name} className={`bend-line ${b.up ? "up" : "down"}`} d={`M${b.from}L${b.to}`} />
        ))}
        {shapes.holes.map((h) => (
          <path
            key={h.names[0]}
            className={`hole${isLit(h.names, h.line) ? " lit" : ""}`}
            d={h.d}
            {...over(h.names.length > 1 ? [] : h.names, h.line)}
            onClick={click("hole", h.names[0] ?? "", h.line)}
          />
        ))}
        <path className="outline" d={shapes.outer} />
        {shapes.sides.map((s, i) => (
          <path
            key={i}
            className={`side${isLit([s.name], lineOf(s.name)) ? " lit" : ""}`}
            d={s.d}
            {...over([s.name], lineOf(s.name))}
            onClick={click("edge", s.name, lineOf(s.name))}
          />
        ))}
      </g>
      {piece.corners.map((c) => {
        const [x, y] = px(c.at);
        return <circle key={c.name} className="corner" cx={x} cy={y} r={7} {...over([c.name])} onClick={click("corner", c.name)} />;
      })}
      {bendLabels(flat.bends, view).map((l) => {
        const y = px(flat.max)[1] - LEVEL - 14 - l.row * LABEL;
        return (
          <g key={l.name} className={`bend-text${isLit([l.name]) ? " lit" : ""}`}>
            <path d={`M${l.x} ${px(flat.max)[1]}V${y + 4}`} />
            <text x={l.x} y={y} textAnchor="middle">
              {l.text}
            </text>
          </g>
        );
      })}
      {flat.dimensions.map((d, i) => (
        <Dim key={i} d={d} view={view} min={px(flat.min)} max={px(flat.max)} />
      ))}
      {flat.marks.map((m) => {
        const [x, y] = px(m.at);
        return (
          <text key={m.name} className="mark" x={x} y={y - 5} textAnchor="middle">
            {m.text}
          </text>
        );
      })}
      {findings.map((f, i) => (
        <Pin key={i} f={f} at={px(f.at!)} middle={px([(flat.min[0]! + flat.max[0]!) / 2, (flat.min[1]! + flat.max[1]!) / 2])} />
      ))}
      {moved && (
        <text className="fit-hint" x={10} y={18}>
          double click to fit
        </text>
      )}
    </svg>
  );
}

/** Rows of bend labels that the view leaves room for: a slender upright flat stacks them. */
function labelRows({ bends, min, max }: PieceView["flat"]): number {
  const upright = max[0]! - min[0]! < 1.4 * (max[1]! - min[1]!);
  return Math.min(bends.length, upright ? 4 : 2);
}

/** What stands over each bend line, clear of the geometry: higher where the neighbours are near. */
function bendLabels(bends: PieceView["flat"]["bends"], view: View): { name: string; x: number; row: number; text: string }[] {
  const ends: number[] = [];
  return bends.map((b) => {
    const text = `${b.up ? "up" : "down"} ${b.angle_text} R${b.radius_text}`;
    const x = b.to[0]! * view.k + view.tx;
    const half = text.length * 3.3 + 4;
    let row = ends.findIndex((end) => x - half > end);
    if (row < 0) row = ends.length;
    ends[row] = x + half;
    return { name: b.name, x, row, text };
  });
}

function Dim({ d, view, min, max }: { d: Dimension; view: View; min: [number, number]; max: [number, number] }) {
  const px = (p: number[]): [number, number] => [p[0]! * view.k + view.tx, -p[1]! * view.k + view.ty];
  const [p, q] = [px(d.from), px(d.to)];
  const out = LEVEL * (d.level + 1) - 4;
  const flatwise = d.side === "south" || d.side === "north";
  const y = d.side === "south" ? min[1] + out : max[1] - out;
  const x = d.side === "west" ? min[0] - out : max[0] + out;
  const [a, b] = flatwise ? [[p[0], y] as const, [q[0], y] as const] : [[x, p[1]] as const, [x, q[1]] as const];
  const past = d.side === "south" || d.side === "east" ? 4 : -4;
  const end = (from: [number, number], to: readonly [number, number]) => (flatwise ? `M${from}L${to[0]} ${to[1] + past}` : `M${from}L${to[0] + past} ${to[1]}`);
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

/** A finding beside the place it is about, on the side away from the middle, so that it covers nothing that can be clicked. */
function Pin({ f, at, middle }: { f: Finding; at: [number, number]; middle: [number, number] }) {
  const lit = useDraft((d) => f.names.some((n) => d.hover.names.includes(n)));
  return (
    <g
      className={`pin ${f.severity}${lit ? " lit" : ""}`}
      transform={`translate(${at[0] + (at[0] < middle[0] ? -13 : 13)} ${at[1] + (at[1] < middle[1] ? -13 : 13)})`}
    >
      <title>{f.message}</title>
      <circle r={8} />
      <text y={4} textAnchor="middle">
        {SIGN[f.severity]}
      </text>
    </g>
  );
}
