import { useState } from "react";
import type { TracedResult, Tracing } from "../../api/types";
import { editTracing, type Laid, PLACES, type Spot } from "../../document/tracing";
import { classes } from "../../hooks/classes";
import { usePanZoom } from "../flat/usePanZoom";

const ROOM = [10, 10, 10, 10];
/** How far from a place the edge is looked for, as the eye sees it. */
const REACH_PX = 9;

interface Props {
  tracing: Tracing;
  traced: TracedResult | null;
  tool: Laid | "";
  picked: string;
  pick(id: string): void;
  /** All places of the tool are told. */
  laid(at: Spot[], reach: number): void;
}

const line = (at: readonly (readonly number[])[]) =>
  at.map(([x, y], i) => `${i ? "L" : "M"}${x} ${y}`).join("");

/** The picture with all that lies over it; a click lays the next place, arrows and Enter as well. */
export function TracePicture({ tracing, traced, tool, picked, pick, laid }: Props) {
  const size = traced ? { min: [0, -traced.high], max: [traced.wide, 0] } : undefined;
  const { host, view, fit, zoom, onPointerDown, dragged } = usePanZoom(size, ROOM);
  const [at, setAt] = useState<Spot[]>([]);
  const [of, setOf] = useState(tool);
  const [cross, setCross] = useState<Spot | null>(null);
  const [pulled, setPulled] = useState<{ id: string; n: number; to: Spot } | null>(null);
  if (of !== tool) {
    setOf(tool);
    setAt([]);
  }
  const reach = Math.min(Math.max(REACH_PX / view.k, 2), 60);
  const place = (e: { clientX: number; clientY: number }): Spot => {
    const r = host.current?.getBoundingClientRect();
    const round = (v: number) => Math.round(v * 100) / 100;
    return [
      round((e.clientX - (r?.left ?? 0) - view.tx) / view.k),
      round((e.clientY - (r?.top ?? 0) - view.ty) / view.k),
    ];
  };
  const put = (p: Spot) => {
    if (!tool) return;
    const now = [...at, p];
    if (now.length < PLACES[tool]) return setAt(now);
    setAt([]);
    laid(now, reach);
  };
  const px = ([x, y]: readonly number[]): [number, number] => [
    x! * view.k + view.tx,
    y! * view.k + view.ty,
  ];
  const keys = (e: React.KeyboardEvent) => {
    const el = host.current;
    const step = (e.shiftKey ? 1 : 10) / view.k;
    const from: Spot =
      cross ??
      (el ? [(el.clientWidth / 2 - view.tx) / view.k, (el.clientHeight / 2 - view.ty) / view.k] : [0, 0]);
    const ways: Record<string, Spot> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const way = ways[e.key];
    if (way) setCross([from[0] + way[0], from[1] + way[1]]);
    else if (e.key === "Enter" && tool) put(cross ?? from);
    else if (e.key === "Backspace" && at.length > 0) setAt(at.slice(0, -1));
    else if (e.key === "+") zoom(1.25);
    else if (e.key === "-") zoom(1 / 1.25);
    else if (e.key === "0") fit();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  /** A place of an element is pulled elsewhere. */
  const pull = (id: string, n: number, e: React.PointerEvent) => {
    e.stopPropagation();
    pick(id);
    let to: Spot | null = null;
    const move = (m: PointerEvent) => {
      to = place(m);
      setPulled({ id, n, to });
    };
    const up = () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      setPulled(null);
      if (!to) return;
      const there = to;
      editTracing((t) => ({
        ...t,
        elements: t.elements?.map((x) =>
          x.id === id ? { ...x, reach, points: x.points.map((p, k) => (k === n ? there : p)) } : x,
        ),
      }));
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
  };
  const elements = tracing.elements ?? [];
  return (
    <svg
      ref={host}
      className={classes("flat trace-picture", { laying: tool !== "" })}
      role="application"
      aria-roledescription="picture"
      aria-label="the picture: arrows move the cross, Enter lays a place"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: arrows move the cross over it
      tabIndex={0}
      onPointerDown={onPointerDown}
      onClick={(e) => {
        if (dragged.current) return;
        setCross(null);
        if (tool) put(place(e));
      }}
      onDoubleClick={() => !tool && fit()}
      onKeyDown={keys}
    >
      <g transform={`matrix(${view.k} 0 0 ${view.k} ${view.tx} ${view.ty})`}>
        {traced && (
          <image
            href={`/api/files/${tracing.picture}`}
            width={traced.wide}
            height={traced.high}
            preserveAspectRatio="none"
          />
        )}
        {traced && traced.outline.length > 0 && (
          <path className="said-outline" d={`${line(traced.outline)}Z`} />
        )}
        {traced?.holes.map((h, i) => (
          <path key={i} className="said-outline" d={`${line(h)}Z`} />
        ))}
        {traced?.elements.map((e) => (
          <path
            key={e.id}
            className={classes("traced", { lit: e.id === picked, doubt: e.doubt !== "" })}
            d={line(e.path)}
            onPointerDown={(ev) => {
              if (tool) return;
              ev.stopPropagation();
              pick(e.id);
            }}
          />
        ))}
        {tracing.axis && <path className="axis" d={line(tracing.axis)} />}
        {traced && traced.corners.length > 0 && (
          <path className="square" d={`${line(traced.corners)}Z`} />
        )}
        {traced?.readings.map((r, i) => (
          <path key={i} className="reading" d={line([r.from, r.to])} />
        ))}
      </g>
      {traced?.elements.map((e) => {
        const middle = e.path[Math.floor(e.path.length / 2)];
        if (!e.letter || !middle) return null;
        const [x, y] = px(middle);
        return (
          <g key={e.id} className="trace-letter">
            <circle cx={x} cy={y} r={9} />
            <text x={x} y={y + 4}>
              {e.letter}
            </text>
          </g>
        );
      })}
      {traced?.readings.map((r, i) => {
        const [x, y] = px([(r.from[0]! + r.to[0]!) / 2, (r.from[1]! + r.to[1]!) / 2]);
        return (
          <text key={i} className="reading-said" x={x} y={y - 6}>
            {tracing.readings?.[i]?.length || "?"}
          </text>
        );
      })}
      {elements
        .filter((e) => e.id === picked)
        .flatMap((e) =>
          e.points.map((p, n) => {
            const here = pulled?.id === e.id && pulled.n === n ? pulled.to : p;
            const [x, y] = px(here);
            return (
              <circle
                key={`${e.id} ${n}`}
                className="trace-place"
                cx={x}
                cy={y}
                r={5}
                onPointerDown={(ev) => pull(e.id, n, ev)}
              />
            );
          }),
        )}
      {at.map((p, i) => {
        const [x, y] = px(p);
        return <circle key={i} className="trace-place laying" cx={x} cy={y} r={4} />;
      })}
      {cross && (
        <g className="cross">
          <line x1={px(cross)[0] - 14} x2={px(cross)[0] + 14} y1={px(cross)[1]} y2={px(cross)[1]} />
          <line y1={px(cross)[1] - 14} y2={px(cross)[1] + 14} x1={px(cross)[0]} x2={px(cross)[0]} />
        </g>
      )}
    </svg>
  );
}
