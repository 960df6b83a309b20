import { memo, useMemo, useState } from "react";
import type { Dimension, PieceView } from "../../api/types";
import { draft, NOWHERE } from "../../document/draft";
import { loopPath } from "../../evaluation/paths";
import { classes } from "../../hooks/classes";
import { useDraft } from "../../hooks/useDraft";
import { readOut } from "../../verbs/names";
import type { Asked } from "../../verbs/Offers";
import { spotOf, useSpots } from "../spots";
import { lengthField, regionPath, zoneAt } from "../zones";
import { type Item, itemsOf, rimsOf, walked } from "./items";
import { SideLetters } from "./letters";
import {
  BendLabels,
  bendTexts,
  Dims,
  dimTexts,
  LABEL,
  LEVEL,
  labelRows,
  Marks,
  Pin,
  tagsOf,
} from "./marks";
import { usePanZoom } from "./usePanZoom";
import { useSizing } from "./useSizing";
import { useTipDrag } from "./useTipDrag";

/** What stands over the top of the drawing, in pixels. */
const HEAD = 20;

/** Room for dimensions on each side, in pixels: south, north, west, east. */
function margins(dims: Dimension[], labelRows: number): number[] {
  return (["south", "north", "west", "east"] as const).map((side) => {
    const levels = Math.max(0, ...dims.filter((d) => d.side === side).map((d) => d.level + 1));
    return 16 + levels * LEVEL + (side === "north" ? HEAD + labelRows * LABEL : 0);
  });
}

interface Props {
  piece: PieceView;
  ask(asked: Asked): void;
}

/** How much a key brings nearer. */
const ZOOM = 1.25;

/**
 * The flat pattern: outline, holes, bend lines, dimensions, pins of findings. Hover tells what belongs
 * together, a click offers lines; by the keyboard the arrows walk and Enter offers.
 */
export const FlatView = memo(function FlatView({ piece, ask }: Props) {
  const { flat } = piece;
  const { host, size, view, fit, zoom, onPointerDown, dragged, moved } = usePanZoom(
    flat,
    margins(flat.dimensions, labelRows(flat)),
  );
  const hover = useDraft((d) => d.hover);
  // While the start is worked on its sides show their letters.
  const lettered = useDraft((d) => piece.lettered && flat.sides[0]?.startsWith(`${d.picked}.`) === true);
  const { setHover } = draft.getState();
  const { items, outer, body } = useMemo(() => itemsOf(piece), [piece]);
  const rims = useMemo(() => rimsOf(flat), [flat]);
  const [stands, setStands] = useState(-1);
  const { start: pull, pulling } = useTipDrag(piece, () => view.k);
  const px = (p: number[]): [number, number] => [p[0]! * view.k + view.tx, -p[1]! * view.k + view.ty];

  const toFlat = (e: React.MouseEvent): [number, number] => {
    const r = host.current?.getBoundingClientRect();
    return [
      (e.clientX - (r?.left ?? 0) - view.tx) / view.k,
      -(e.clientY - (r?.top ?? 0) - view.ty) / view.k,
    ];
  };
  /** What the pointer is on: by its element, or by its place on the sheet. */
  const under = (e: React.MouseEvent): Item | undefined => {
    const el = (e.target as Element).closest("[data-item]");
    if (el) return items[Number(el.getAttribute("data-item"))];
    if (!(e.target as Element).closest("[data-sheet]")) return undefined;
    const zone = zoneAt(piece.zones, toFlat(e));
    return zone && items.find((it) => it.kind === "zone" && it.name === zone.name);
  };
  const light = (it: Item | undefined) =>
    setHover(it ? { line: it.line, names: it.names.length > 1 ? [] : it.names } : NOWHERE);
  const sizing = useSizing((name) => readOut(piece, name));
  const offer = (it: Item, at: [number, number], x: number, y: number) => {
    if (sizing.take(it)) return;
    ask({ what: it.what, name: it.name, line: it.line, at, x, y });
  };
  const keys = (e: React.KeyboardEvent) => {
    const to = walked(items, stands, e.key);
    const acts: Record<string, () => void> = { "+": () => zoom(ZOOM), "-": () => zoom(1 / ZOOM), 0: fit };
    const here = items[stands];
    if (to !== undefined) {
      setStands(to);
      light(items[to]);
    } else if ((e.key === "Enter" || e.key === " ") && here) {
      const r = host.current?.getBoundingClientRect();
      const [x, y] = px(here.at);
      offer(here, here.at, x + (r?.left ?? 0), y + (r?.top ?? 0));
    } else if (acts[e.key]) acts[e.key]!();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const isLit = (names: string[], line?: string) =>
    (hover.line !== undefined && hover.line === line && hover.names.length === 0) ||
    (line !== undefined && hover.lines?.includes(line) === true) ||
    names.some((n) => hover.names.includes(n));
  const findings = piece.findings.filter((f) => f.at);
  const bends = bendTexts(flat, view);
  const dims = dimTexts(flat, view);
  const tags = tagsOf(flat.marks, findings, dims, px);
  const keep = {
    boxes: [...bends.map((b) => b.said), ...dims.flatMap((d) => d.said ?? [])].map((s) => s.box),
    lines: [
      ...flat.outer.map((p, i) => [...px(p), ...px(flat.outer[(i + 1) % flat.outer.length]!)]),
      ...flat.bends.flatMap((b) => b.parts.map(([p, q]) => [...px(p!), ...px(q!)])),
      ...rims.flatMap(([x, y, z, w]) => {
        const [p, q] = [px([x, y]), px([z, w])];
        return [
          [p[0], p[1], q[0], p[1]],
          [q[0], p[1], q[0], q[1]],
          [q[0], q[1], p[0], q[1]],
          [p[0], q[1], p[0], p[1]],
        ];
      }),
    ],
  };
  const { spots, left } = useSpots(tags, keep, [size.w, size.h]);
  const drawn = (kinds: Item["kind"][], draw: (it: Item, i: number) => React.ReactNode) =>
    items.map((it, i) => (kinds.includes(it.kind) ? draw(it, i) : null));

  const glued = piece.zones.filter((z) => z.glued);
  return (
    <>
      <svg
        ref={host}
        className={classes("flat", { sizing: sizing.on })}
        role="application"
        aria-roledescription="drawing"
        aria-label={`flat pattern of ${piece.mark}: arrows walk through it, Enter offers lines`}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrows walk through it
        tabIndex={0}
        onPointerDown={(e) => {
          const it = under(e);
          if (it?.kind !== "side" || !pull(it.name, e)) onPointerDown(e);
        }}
        onPointerMove={(e) => light(under(e))}
        onPointerLeave={() => setHover(NOWHERE)}
        onClick={(e) => {
          const it = under(e);
          if (it && !dragged.current && !pulling.current) offer(it, toFlat(e), e.clientX, e.clientY);
        }}
        onDoubleClick={fit}
        onKeyDown={keys}
        onFocus={() => light(items[stands])}
        onBlur={() => setHover(NOWHERE)}
      >
        <g transform={`matrix(${view.k} 0 0 ${-view.k} ${view.tx} ${view.ty})`}>
          <path className="material" data-sheet d={body} fillRule="evenodd" />
          {piece.zones
            .filter((z) => z.bend || isLit([z.name]))
            .map((z) => (
              <path
                key={z.name}
                className={z.bend ? classes("bend-zone", { lit: isLit([z.name]) }) : "panel-lit"}
                d={regionPath(z)}
              />
            ))}
          {glued.length > 0 && (
            <pattern
              id="glue"
              width="5"
              height="5"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <path className="glue" d="M2.5 0V5" />
            </pattern>
          )}
          {glued.map((z) => (
            <path key={z.name} className="glued" style={{ fill: "url(#glue)" }} d={regionPath(z)} />
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
          {drawn(["hole"], (it, i) => (
            <path
              key={i}
              className={classes("hole", { lit: isLit(it.names, it.line) })}
              data-item={i}
              d={it.d}
            />
          ))}
          {drawn(["up", "down"], (it, i) => (
            <path
              key={i}
              className={classes(`pressed ${it.kind}`, { lit: isLit(it.names, it.line) })}
              data-item={i}
              d={it.d}
            />
          ))}
          {items.map(
            (it, i) =>
              it.bore && (
                <path
                  key={i}
                  className={classes("bore", { back: it.bore.back, lit: isLit(it.names, it.line) })}
                  data-item={i}
                  d={it.bore.d}
                />
              ),
          )}
          <path className="outline" d={outer} />
          {drawn(["side"], (it, i) => (
            <path
              key={i}
              className={classes("side", {
                lit: isLit(it.names, it.line),
                pull: lengthField(piece, it.name) !== undefined,
              })}
              data-item={i}
              data-edge={it.name}
              d={it.d}
            />
          ))}
        </g>
        {drawn(["corner"], (it, i) => {
          const [x, y] = px(it.at);
          const lit = isLit(it.names);
          return (
            <circle key={i} className={classes("corner", { lit })} data-item={i} cx={x} cy={y} r={7} />
          );
        })}
        {lettered && <SideLetters loop={flat.outer} sides={flat.sides} px={px} />}
        <BendLabels texts={bends} isLit={isLit} />
        <Dims dims={dims} spots={spots} />
        <Marks marks={flat.marks} tags={tags} spots={spots} />
        {findings.map((f, i) => {
          const tag = tags[flat.marks.length + i]!;
          // A finding is never left out: where nothing has room it stands at its place.
          const spot = spotOf(tag, spots) ?? { x: tag.at[0], y: tag.at[1] };
          return <Pin key={tag.key} f={f} spot={spot} />;
        })}
        {left > 0 && (
          <text className="fit-hint" x={10} y={size.h - 10}>
            {left === 1 ? "1 label has" : `${left} labels have`} no room here: come nearer
          </text>
        )}
        {flat.left_out > 0 && (
          <text className="fit-hint" x={10} y={moved ? 34 : 18}>
            {flat.left_out.toLocaleString("en")} holes of a light pattern are not drawn; figures and files
            have them all
          </text>
        )}
        {sizing.on && (
          <text className="fit-hint now" x={10} y={size.h - (left > 0 ? 28 : 10)}>
            {sizing.hint}
          </text>
        )}
        {moved && (
          <text className="fit-hint" x={10} y={18}>
            double click to fit
          </text>
        )}
      </svg>
      <p className="unseen" role="status">
        {sizing.on ? sizing.hint : (items[stands]?.said ?? "")}
      </p>
    </>
  );
});
