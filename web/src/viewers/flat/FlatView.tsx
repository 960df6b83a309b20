import { useMemo } from "react";
import type { Dimension, PieceView } from "../../api/types";
import { draft, NOWHERE } from "../../document/draft";
import { loopPath, segmentPath } from "../../evaluation/paths";
import { classes } from "../../hooks/classes";
import { useDraft } from "../../hooks/useDraft";
import type { Asked } from "../../verbs/Offers";
import { lengthField, lineOf as lineIn, regionPath, zoneAt as zoneIn } from "../zones";
import { BendLabels, Dim, LABEL, LEVEL, labelRows, Marks, Pin } from "./marks";
import { usePanZoom } from "./usePanZoom";
import { useTipDrag } from "./useTipDrag";

/** Room for dimensions on each side, in pixels: south, north, west, east. */
function margins(dims: Dimension[], labelRows: number): number[] {
  return (["south", "north", "west", "east"] as const).map((side) => {
    const levels = Math.max(0, ...dims.filter((d) => d.side === side).map((d) => d.level + 1));
    return 16 + levels * LEVEL + (side === "north" ? labelRows * LABEL : 0);
  });
}

/**
 * The flat pattern: outline, holes, bend lines, dimensions, pins of findings. Hover tells what belongs
 * together; a click offers lines.
 */
export function FlatView({ piece, ask }: { piece: PieceView; ask(asked: Asked): void }) {
  const { flat } = piece;
  const { host, view, fit, onPointerDown, dragged, moved } = usePanZoom(
    flat,
    margins(flat.dimensions, labelRows(flat)),
  );
  const hover = useDraft((d) => d.hover);
  const { setHover, pick } = draft.getState();
  const shapes = useMemo(() => {
    const groups = new Map<string, { line: string; d: string; names: string[] }>();
    const body: string[] = [];
    // Holes of one line are one element: ten thousand of them pan as smoothly as one.
    for (const h of flat.holes) {
      const alone = flat.holes.length <= 400;
      const key = alone ? h.name : h.line;
      const g = groups.get(key) ?? { line: h.line, d: "", names: [] };
      const d = `M${h.at[0]} ${h.at[1]}${flat.paths[h.shape]}`;
      body.push(d);
      g.d += d;
      g.names.push(h.name);
      groups.set(key, g);
    }
    const outer = loopPath(flat.outer);
    const sides = flat.outer.map((p, i) => ({
      name: flat.sides[i] ?? "",
      d: `M${p[0]} ${p[1]}${segmentPath(p, flat.outer[(i + 1) % flat.outer.length]!)}`,
    }));
    return { outer, holes: [...groups.values()], body: outer + body.join(""), sides };
  }, [flat]);

  const toFlat = (e: React.MouseEvent): [number, number] => {
    const r = host.current?.getBoundingClientRect();
    return [
      (e.clientX - (r?.left ?? 0) - view.tx) / view.k,
      -(e.clientY - (r?.top ?? 0) - view.ty) / view.k,
    ];
  };
  const { start: pull, pulling } = useTipDrag(piece, () => view.k);
  const lineOf = (name: string) => lineIn(piece, name);
  const over = (names: string[], line?: string) => ({
    onPointerEnter: () => setHover({ line, names }),
    onPointerLeave: () => setHover(NOWHERE),
  });
  const click = (what: Asked["what"], name: string, line?: string) => (e: React.MouseEvent) => {
    if (dragged.current || pulling.current) return;
    e.stopPropagation();
    if (line) pick(line);
    ask({ what, name, line, at: toFlat(e), x: e.clientX, y: e.clientY });
  };
  const zoneAt = (p: [number, number]) => zoneIn(piece.zones, p);
  const isLit = (names: string[], line?: string) =>
    (hover.line !== undefined && hover.line === line && hover.names.length === 0) ||
    names.some((n) => hover.names.includes(n));
  const px = (p: number[]): [number, number] => [p[0]! * view.k + view.tx, -p[1]! * view.k + view.ty];
  const findings = piece.findings.filter((f) => f.at);

  return (
    <svg
      ref={host}
      className="flat"
      role="img"
      aria-label={`flat pattern of ${piece.mark}`}
      onPointerDown={onPointerDown}
      onDoubleClick={fit}
    >
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
            <path
              key={z.name}
              className={`bend-zone${isLit([z.name]) ? " lit" : ""}`}
              d={regionPath(z)}
            />
          ))}
        {piece.zones
          .filter((z) => !z.bend && isLit([z.name]))
          .map((z) => (
            <path key={z.name} className="panel-lit" d={regionPath(z)} />
          ))}
        {flat.dropped.map((d, i) => (
          <path key={i} className="dropped" d={loopPath(d)} />
        ))}
        {flat.bends.map((b) => (
          <path
            key={b.name}
            className={`bend-line ${b.up ? "up" : "down"}`}
            d={(b.rolled ? b.tangents : b.parts).map(([p, q]) => `M${p}L${q}`).join("")}
          />
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
        {flat.pressed.map((f) => (
          <path
            key={f.name}
            className={`pressed ${f.up === false ? "down" : "up"}${isLit([f.name], f.line) ? " lit" : ""}`}
            d={loopPath(f.points)}
            {...over([f.name], f.line)}
            onClick={click("hole", f.name, f.line)}
          />
        ))}
        <path className="outline" d={shapes.outer} />
        {shapes.sides.map((s, i) => (
          <path
            key={i}
            className={classes("side", {
              lit: isLit([s.name], lineOf(s.name)),
              pull: lengthField(piece, s.name) !== undefined,
            })}
            data-edge={s.name}
            d={s.d}
            {...over([s.name], lineOf(s.name))}
            onPointerDown={(e) => pull(s.name, e) && e.stopPropagation()}
            onClick={click("edge", s.name, lineOf(s.name))}
          />
        ))}
      </g>
      {piece.corners.map((c) => {
        const [x, y] = px(c.at);
        return (
          <circle
            key={c.name}
            className="corner"
            cx={x}
            cy={y}
            r={7}
            {...over([c.name])}
            onClick={click("corner", c.name)}
          />
        );
      })}
      <BendLabels flat={flat} view={view} isLit={isLit} />
      {flat.dimensions.map((d, i) => (
        <Dim key={i} d={d} view={view} min={px(flat.min)} max={px(flat.max)} />
      ))}
      <Marks marks={flat.marks} px={px} />
      {findings.map((f, i) => (
        <Pin
          key={i}
          f={f}
          at={px(f.at!)}
          middle={px([(flat.min[0]! + flat.max[0]!) / 2, (flat.min[1]! + flat.max[1]!) / 2])}
        />
      ))}
      {flat.left_out > 0 && (
        <text className="fit-hint" x={10} y={moved ? 34 : 18}>
          {flat.left_out.toLocaleString("en")} holes of a light pattern are not drawn; figures and files
          have them all
        </text>
      )}
      {moved && (
        <text className="fit-hint" x={10} y={18}>
          double click to fit
        </text>
      )}
    </svg>
  );
}
