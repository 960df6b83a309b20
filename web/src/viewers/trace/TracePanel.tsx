import { Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import type { Piece, TracedResult, Tracing } from "../../api/types";
import { editDoc } from "../../document/bench";
import { draft } from "../../document/draft";
import { editTracing, type Laid, lay, PLACES, saidBy } from "../../document/tracing";
import { Act } from "../../verbs/Act";
import { TracePicture } from "./TracePicture";
import { useTraced } from "./useTraced";

const TOOLS: readonly (readonly [Laid, string, string, string])[] = [
  ["measure", "m", "Measure", "two places whose distance a caliper tells"],
  ["line", "l", "Line", "two places on a straight side"],
  ["arc", "a", "Arc", "begin, middle and end of a round side"],
  ["circle", "c", "Circle", "three places on a hole"],
  ["axis", "x", "Mirror axis", "two places: half an outline is enough then"],
  ["straighten", "q", "Straighten", "four corners of a rectangle, for a picture taken at an angle"],
];

/** A piece traced from a picture: measure, lay lines, arcs and circles, say the outline. */
export function TracePanel({ piece, close }: { piece: Piece; close(): void }) {
  const [tool, setTool] = useState<Laid | "">("");
  const [picked, pick] = useState("");
  const { traced, of, trouble } = useTraced(piece);
  const values = useRef<HTMLDivElement>(null);
  const { tracing } = piece;
  if (!tracing) return null;
  const current = of === tracing;
  const take = () => {
    if (!traced) return;
    editDoc("piece", "", (doc) => saidBy(doc as unknown as Piece, traced.lines) as unknown as typeof doc);
    draft.setState({
      word: `${traced.lines.length} lines say what was traced; undo brings back what stood`,
    });
    close();
  };
  const laid: Parameters<typeof TracePicture>[0]["laid"] = (at, reach) => {
    if (!tool) return;
    lay(tool, at, reach);
    if (tool === "line" || tool === "arc" || tool === "circle") return;
    // Its value is asked for next.
    setTool("");
    if (tool !== "axis")
      requestAnimationFrame(() =>
        [...(values.current?.querySelectorAll<HTMLInputElement>(`[data-value=${tool}]`) ?? [])]
          .at(-1)
          ?.focus(),
      );
  };
  const keys = (e: React.KeyboardEvent) => {
    const typing = e.target instanceof HTMLInputElement;
    const key = e.key.length === 1 && !e.ctrlKey && !e.metaKey && !e.altKey;
    const found = TOOLS.find((t) => t[1] === e.key);
    if (typing) return;
    if (key && found) setTool(tool === found[0] ? "" : found[0]);
    else if (e.key === "Escape" && tool) setTool("");
    else if (e.key === "Delete" && picked) remove(picked);
    else if (!key) return;
    // Letters lay nothing of the recipe while the picture is on the bench.
    e.stopPropagation();
  };
  return (
    <section className="brought tracing" aria-label={`tracing of ${tracing.name}`} onKeyDown={keys}>
      <header>
        <h2>{tracing.name}</h2>
        <span className="grow" />
        <Button variant="contained" disabled={!current || !traced?.lines.length} onClick={take}>
          Say it as the outline
        </Button>
        <Button onClick={close}>Back to the piece</Button>
      </header>
      <div className="trace-tools" role="toolbar" aria-label="what is laid over the picture">
        {TOOLS.map(([t, key, words, about]) => (
          <Act
            key={t}
            title={about}
            aria-pressed={tool === t}
            color={tool === t ? "primary" : "default"}
            onClick={() => setTool(tool === t ? "" : t)}
          >
            {words} <kbd>{key}</kbd>
          </Act>
        ))}
        <span className="hint one-row" role="status">
          {tool
            ? `${TOOLS.find((t) => t[0] === tool)![3]}: click ${PLACES[tool]} places`
            : "pick what to lay; drag moves the picture, the wheel brings it nearer"}
        </span>
      </div>
      <div className="brought-body">
        <TracePicture
          tracing={tracing}
          traced={traced}
          tool={tool}
          picked={picked}
          pick={pick}
          laid={laid}
        />
        <div className="brought-told" ref={values}>
          {trouble && (
            <p className="fault" role="alert">
              {trouble}
            </p>
          )}
          <Size tracing={tracing} traced={traced} />
          <Elements tracing={tracing} traced={traced} picked={picked} pick={pick} />
          <Outcome tracing={tracing} traced={traced} />
        </div>
      </div>
    </section>
  );
}

function remove(id: string) {
  editTracing((t) => ({ ...t, elements: t.elements?.filter((e) => e.id !== id) }));
}

interface ValueProps {
  label: string;
  value: string;
  kind: string;
  fault: string | undefined;
  put(text: string): void;
}

/** A typed length; its fault stands beside it. */
function Value({ label, value, kind, fault, put }: ValueProps) {
  return (
    <>
      <input
        className="val"
        aria-label={label}
        aria-invalid={fault ? true : undefined}
        data-value={kind}
        size={7}
        value={value}
        onChange={(e) => put(e.target.value)}
      />
      {fault && value !== "" && <span className="stop"> {fault}</span>}
    </>
  );
}

interface Shown {
  tracing: Tracing;
  traced: TracedResult | null;
}

/** What tells how large it is. */
function Size({ tracing, traced }: Shown) {
  const fault = (field: string) => traced?.faults.find((f) => f.field === field)?.fault.message;
  const readings = tracing.readings ?? [];
  const { square } = tracing;
  return (
    <>
      <h3>How large</h3>
      {readings.length === 0 && !square && (
        <p>Measure something on the part and in the picture: a hole across, the overall width.</p>
      )}
      <ul className="readings">
        {readings.map((r, i) => (
          <li key={`${r.from} ${r.to}`}>
            <Value
              label={`reading ${i + 1}`}
              value={r.length}
              kind="measure"
              fault={fault(`/readings/${i}/length`)}
              put={(length) =>
                editTracing(
                  (t) => ({
                    ...t,
                    readings: t.readings?.map((x, k) => (k === i ? { ...x, length } : x)),
                  }),
                  `reading ${i}`,
                )
              }
            />{" "}
            {traced?.readings[i]?.said ?? ""}{" "}
            <Act
              aria-label={`take reading ${i + 1} out`}
              onClick={() =>
                editTracing((t) => ({ ...t, readings: t.readings?.filter((_, k) => k !== i) }))
              }
            >
              ×
            </Act>
          </li>
        ))}
      </ul>
      {square && (
        <p>
          Four corners,{" "}
          {(["wide", "high"] as const).map((side, i) => (
            <span key={side}>
              <Value
                label={side === "wide" ? "first to second corner" : "second to third corner"}
                value={square[side]}
                kind="straighten"
                fault={fault(`/square/${side}`)}
                put={(text) =>
                  editTracing((t) => ({ ...t, square: { ...t.square!, [side]: text } }), `square ${side}`)
                }
              />
              {i === 0 ? " by " : " "}
            </span>
          ))}
          <Act
            aria-label="take the four corners out"
            onClick={() => editTracing((t) => ({ ...t, square: undefined }))}
          >
            ×
          </Act>
        </p>
      )}
      {traced?.scale && <p className="hint">{traced.scale}.</p>}
    </>
  );
}

function Elements({ tracing, traced, picked, pick }: Shown & { picked: string; pick(id: string): void }) {
  const shown = useRef<HTMLLIElement>(null);
  useEffect(() => shown.current?.scrollIntoView({ block: "nearest" }), [picked]);
  const elements = tracing.elements ?? [];
  const words = { line: "line", arc: "arc", circle: "hole" } as const;
  const move = (i: number, by: number) =>
    editTracing((t) => {
      const all = [...(t.elements ?? [])];
      const [one] = all.splice(i, 1);
      all.splice(i + by, 0, one!);
      return { ...t, elements: all };
    });
  return (
    <>
      <h3>Laid over it</h3>
      {elements.length === 0 && (
        <p>Nothing yet. Go round the outline side by side, then lay the holes.</p>
      )}
      <ul className="laid">
        {elements.map((e, i) => {
          const v = traced?.elements.find((x) => x.id === e.id);
          return (
            <li
              key={e.id}
              ref={e.id === picked ? shown : undefined}
              className={e.id === picked ? "lit" : undefined}
              onPointerEnter={() => pick(e.id)}
            >
              <span className="acts">
                {i > 0 && e.shape !== "circle" && (
                  <Act aria-label={`earlier, ${v?.letter ?? e.id}`} onClick={() => move(i, -1)}>
                    ↑
                  </Act>
                )}
                <Act
                  aria-label={`${e.by_hand ? "put on the edge" : "as told by hand"}, ${v?.letter || e.id}`}
                  title={e.by_hand ? "it lies as it was told" : "it lies on the picture's edge"}
                  onClick={() =>
                    editTracing((t) => ({
                      ...t,
                      elements: t.elements?.map((x) =>
                        x.id === e.id ? { ...x, by_hand: !x.by_hand } : x,
                      ),
                    }))
                  }
                >
                  {e.by_hand ? "by hand" : "on the edge"}
                </Act>
                <Act aria-label={`take out, ${v?.letter || e.id}`} onClick={() => remove(e.id)}>
                  ×
                </Act>
              </span>
              <b>{v?.letter}</b> {words[e.shape]} <span className="num">{v?.said}</span>
              <small>
                {v?.strays}
                {v?.off && `, said ${v.off} off`}
                {v?.doubt && <span className="warn"> {v.doubt}</span>}
              </small>
            </li>
          );
        })}
      </ul>
      {tracing.axis && (
        <p>
          Mirrored about the axis.{" "}
          <Act onClick={() => editTracing((t) => ({ ...t, axis: undefined }))}>take the axis out</Act>
        </p>
      )}
    </>
  );
}

/** Rounding, and what comes of it. */
function Outcome({ tracing, traced }: Shown) {
  const fault = (field: string) => traced?.faults.find((f) => f.field === field)?.fault.message;
  return (
    <>
      <h3>What is said</h3>
      <p>
        Lengths to{" "}
        <Value
          label="lengths are rounded to"
          value={tracing.step ?? ""}
          kind="step"
          fault={fault("/step")}
          put={(step) => editTracing((t) => ({ ...t, step }), "step")}
        />{" "}
        directions to{" "}
        <Value
          label="directions are rounded to"
          value={tracing.angle_step ?? ""}
          kind="angle_step"
          fault={fault("/angle_step")}
          put={(angle_step) => editTracing((t) => ({ ...t, angle_step }), "angle step")}
        />
        °
      </p>
      {traced && traced.lines.length > 0 && (
        <p>
          An outline and {traced.lines.length === 2 ? "1 hole" : `${traced.lines.length - 1} holes`},
          nowhere further than <b>{traced.off}</b> from the picture.
        </p>
      )}
      {traced?.trouble && <p className="warn">Not yet: {traced.trouble}.</p>}
      <ul>
        {traced?.notes.map((n) => (
          <li key={n}>{n}</li>
        ))}
      </ul>
      <p className="hint">
        A photograph sees the upper rim of a thick part larger than the lower one. Cut paper or scrap
        first.
      </p>
    </>
  );
}
