import type { DrawingView } from "../../api/types";
import { classes } from "../../hooks/classes";
import { usePanZoom } from "../flat/usePanZoom";

const ROOM = [24, 24, 24, 24];
/** Places of one repair that are marked; of more the list tells the number. */
const MARKED = 60;
/** So many contours can be walked to by the Tab key. */
const WALKED = 80;

interface Props {
  drawing: DrawingView;
  /** The repair that is pointed at in the list. */
  lit: number | null;
  /** Leaves a contour out, or takes it again. */
  toggle(loop: DrawingView["loops"][number]): void;
  close(gap: number): void;
}

/** A drawing before it is taken: what is cut, what is not, every repair with its number. */
export function BroughtPicture({ drawing, lit, toggle, close }: Props) {
  const { host, view, fit, zoom, onPointerDown, dragged } = usePanZoom(drawing, ROOM);
  const px = (p: readonly number[]): [number, number] => [
    p[0]! * view.k + view.tx,
    -p[1]! * view.k + view.ty,
  ];
  const loops = [...drawing.loops].reverse();
  const act = (l: DrawingView["loops"][number]) => !dragged.current && toggle(l);
  return (
    <svg
      ref={host}
      className="flat brought-picture"
      role="application"
      aria-roledescription="drawing"
      aria-label="the drawing as it would be taken"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: plus, minus and 0 zoom it
      tabIndex={0}
      onPointerDown={onPointerDown}
      onDoubleClick={fit}
      onKeyDown={(e) => {
        if (e.key === "+") zoom(1.25);
        else if (e.key === "-") zoom(1 / 1.25);
        else if (e.key === "0") fit();
        else return;
        e.preventDefault();
      }}
    >
      <g transform={`matrix(${view.k} 0 0 ${-view.k} ${view.tx} ${view.ty})`}>
        <path className="aside" d={drawing.aside} />
        <path
          className="sheet-of"
          d={drawing.loops.map((l) => (l.role === "skipped" ? "" : l.d)).join("")}
        />
        {[...loops].reverse().map((l, i) => (
          // biome-ignore lint/a11y/noStaticElementInteractions: it is a button where it can be walked to
          <path
            key={i}
            className={`loop ${l.role}`}
            d={l.d}
            {...(loops.length <= WALKED && {
              tabIndex: 0,
              role: "button",
              "aria-label": `${l.role === "skipped" ? "take" : "leave out"} ${l.said}`,
            })}
            onClick={() => act(l)}
            onKeyDown={(e) => {
              if (e.key !== "Enter" && e.key !== " ") return;
              e.preventDefault();
              act(l);
            }}
          >
            <title>
              {l.role === "skipped"
                ? `${l.said}, left out: click to take it`
                : `${l.said}: click to leave it out`}
            </title>
          </path>
        ))}
        <path className="bend-line up" d={drawing.folds[0]} />
        <path className="bend-line down" d={drawing.folds[1]} />
        <path className="open-run" d={drawing.open} />
      </g>
      {drawing.repairs.map((r, n) =>
        r.places.slice(0, MARKED).map((p, i) => {
          const [x, y] = px(p);
          return (
            <g key={`${n} ${i}`} className={classes("repair", { lit: lit === n, shifts: r.shifts })}>
              <circle cx={x} cy={y} r={lit === n ? 11 : 8} />
              <text x={x} y={y + 3.5}>
                {n + 1}
              </text>
            </g>
          );
        }),
      )}
      {drawing.gaps.map((g, i) => {
        const [[x0, y0], [x1, y1]] = [px(g.from), px(g.to)];
        const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2];
        return (
          <g key={i} className="gap">
            <line x1={x0} y1={y0} x2={x1} y2={y1} />
            {/* biome-ignore lint/a11y/useSemanticElements: a button in a drawing */}
            <g
              role="button"
              tabIndex={0}
              aria-label={`close the gap of ${g.said}`}
              onClick={() => !dragged.current && close(i)}
              onKeyDown={(e) => {
                if (e.key !== "Enter" && e.key !== " ") return;
                e.preventDefault();
                close(i);
              }}
            >
              <circle cx={x} cy={y} r={12} />
              <text x={x} y={y + 4}>
                {String.fromCharCode(65 + (i % 26))}
              </text>
              <title>Gap of {g.said}: click to close it</title>
            </g>
          </g>
        );
      })}
    </svg>
  );
}
