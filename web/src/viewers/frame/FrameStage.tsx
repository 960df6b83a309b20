import { Button, Slider, Tooltip } from "@mui/material";
import { useCallback, useEffect, useRef, useState } from "react";
import type { FrameList, FrameView, JointView } from "../../api/types";
import { applyMend } from "../../document/bench";
import { draft, NOWHERE } from "../../document/draft";
import { classes } from "../../hooks/classes";
import { useDraft } from "../../hooks/useDraft";
import { ink, type Mode } from "../../theme/theme";
import { Directions } from "../Directions";
import type { DirectionName } from "../Stage";
import { putLeg, type Spot, snap, type TypedNode, typedNode } from "./draw";
import { type FrameColours, FrameScene, PLANES, type PlaneName } from "./FrameScene";
import { PlaneBar } from "./PlaneBar";
import { placeSaid, planeMarks, reachOf } from "./planeMarks";
import { useOverlay } from "./useOverlay";

function colours(mode: Mode): FrameColours {
  const c = ink[mode];
  return mode === "light"
    ? {
        bar: "#b9bcba",
        plate: "#c9b48f",
        edge: c.ink,
        lit: "#b3261e",
        line: c.blue,
        grid: c.hair,
        back: c.sheet,
      }
    : {
        bar: "#8f9391",
        plate: "#a08a62",
        edge: "#14130f",
        lit: "#ffd166",
        line: c.blue,
        grid: c.hair,
        back: c.sheet,
      };
}

/** More joints than this would cover the picture. */
const MOST_BUBBLES = 60;

/** The frame in space: turn it, pull it apart, flip joints, draw members on a working plane. */
export default function FrameStage({
  frame,
  list,
  mode,
  point,
}: {
  frame: FrameView;
  list: FrameList | undefined;
  mode: Mode;
  /** What a click on a member, plate or node names; nothing of the frame is changed then. */
  point?(name: string): void;
}) {
  const host = useRef<HTMLDivElement>(null);
  const over = useRef<HTMLDivElement>(null);
  const scene = useRef<FrameScene | null>(null);
  const shown = useRef("");
  const start = useRef([0, 0]);
  const [apart, setApart] = useState(0);
  const [bubbles, setBubbles] = useState(true);
  const [balance, setBalance] = useState(false);
  const [marks, setMarks] = useState(false);
  const [plane, setPlane] = useState<PlaneName | null>(null);
  const [pen, setPen] = useState<{
    node: string | null;
    line: string | null;
    at: [number, number, number];
  }>({
    node: null,
    line: null,
    at: [0, 0, 0],
  });
  const [spot, setSpot] = useState<Spot | null>(null);
  const [trouble, setTrouble] = useState("");
  const hover = useDraft((d) => d.hover);
  const { setHover, pick } = draft.getState();
  const inch = frame.display.length === "in";
  const step = inch ? 25.4 : 50;
  const joints =
    bubbles && !point && apart === 0
      ? frame.joints.filter((j) => j.choices.length > 1).slice(0, MOST_BUBBLES)
      : [];

  useEffect(() => {
    if (!host.current) return;
    try {
      scene.current = new FrameScene(host.current, colours(mode));
      shown.current = "";
    } catch {
      setTrouble(
        "This browser shows no 3D (WebGL is off). The list, figures and papers are complete without it.",
      );
    }
    return () => scene.current?.dispose();
  }, [mode]);

  useEffect(() => {
    const s = scene.current;
    if (!s) return;
    // Fitted anew when another frame comes, or its size changes much.
    const reach = Math.max(1, ...frame.nodes.flatMap((n) => n.at.map(Math.abs)));
    const key = `${frame.id}:${Math.round(Math.log(reach) * 3)}`;
    s.show(frame, shown.current !== key && !plane);
    shown.current = key;
  }, [frame, mode]);

  useEffect(() => {
    scene.current?.explode(apart);
    if (apart > 0) scene.current?.keepInView();
  }, [apart, mode]);
  useEffect(() => scene.current?.highlight(hover.names, hover.line), [hover, frame, mode]);
  useEffect(() => scene.current?.markBalance(balance ? 60 : 0), [balance, frame, mode]);
  // A node that was typed has its place once the frame is worked out.
  const stood = frame.nodes.find((n) => n.name === pen.node)?.at as [number, number, number] | undefined;
  const through = stood ?? pen.at;
  const [px, py, pz] = through;
  const reach = reachOf(frame);
  useEffect(
    () => scene.current?.plane(plane, [px, py, pz], step, reach),
    [plane, px, py, pz, step, reach, frame, mode],
  );
  useEffect(
    () => scene.current?.draw(plane && pen.node ? [px, py, pz] : null, spot?.at ?? null),
    [plane, pen.node, px, py, pz, spot, mode],
  );

  useOverlay(over, scene);

  const lift = () => {
    if (pen.node) setPen({ ...pen, node: null, line: null });
    else setPlane(null);
  };
  useEffect(() => {
    if (!plane) return;
    const stop = (e: KeyboardEvent) => e.key === "Escape" && lift();
    window.addEventListener("keydown", stop);
    return () => window.removeEventListener("keydown", stop);
  });

  const under = (e: React.PointerEvent) => {
    const p = plane && scene.current?.onPlane(plane, through, e.clientX, e.clientY);
    return p ? snap(frame, p, step) : null;
  };
  const said = (at: readonly number[]) => placeSaid(at, inch);
  const putDown = (to: Spot | TypedNode) => {
    const put = putLeg(pen.node, pen.line, to, inch);
    setPen({ node: put.node, line: put.line, at: "at" in to ? to.at : through });
  };

  const look = useCallback((d: DirectionName) => scene.current?.look(d), []);
  if (trouble) return <p className="empty">{trouble}</p>;
  return (
    <div className="formed">
      <div className={`stage${plane ? " drawing" : ""}`}>
        <div
          ref={host}
          className="canvas"
          role="img"
          aria-label={`frame ${frame.mark}`}
          onPointerDown={(e) => {
            start.current = [e.clientX, e.clientY];
          }}
          onPointerMove={(e) => {
            if (e.buttons) return;
            if (plane) {
              setSpot(under(e));
              return;
            }
            const met = scene.current?.meet(e.clientX, e.clientY);
            setHover(met ? { line: met.line, names: [met.name] } : NOWHERE);
          }}
          onPointerLeave={() => {
            setHover(NOWHERE);
            setSpot(null);
          }}
          onPointerUp={(e) => {
            if (Math.hypot(e.clientX - start.current[0]!, e.clientY - start.current[1]!) > 4) return;
            if (plane) {
              const to = under(e);
              if (to) putDown(to);
              return;
            }
            const met = scene.current?.meet(e.clientX, e.clientY);
            const node = point && nodeAt(over.current, e.clientX, e.clientY);
            if (point && (node || met)) point(node ?? met!.name);
            else if (met) {
              pick(met.line);
              document
                .querySelector<HTMLElement>(`[data-line="${met.line}"]`)
                ?.scrollIntoView({ block: "nearest" });
            }
          }}
        />
        <div ref={over} className="over">
          <svg className="leaders" aria-hidden="true">
            <path />
          </svg>
          {apart === 0 &&
            !marks &&
            frame.nodes
              .filter((n) => !n.name.includes("."))
              .slice(0, 200)
              .map((n) => (
                <span
                  key={n.name}
                  className={classes("node-name", {
                    lit:
                      hover.names.includes(n.name) || (hover.names.length === 0 && hover.line === n.line),
                  })}
                  data-at={n.at.join()}
                  data-node={n.name}
                  data-tag={`node ${n.name}`}
                >
                  {n.name}
                </span>
              ))}
          {marks &&
            apart === 0 &&
            markSpots(frame, list).map((m) => (
              <span key={m.mark} className="mark-name" data-at={m.at.join()} data-tag={`mark ${m.mark}`}>
                {m.mark}
              </span>
            ))}
          {plane &&
            planeMarks(PLANES[plane].axis, through[PLANES[plane].axis]!, reach, inch).map((m) => (
              <span
                key={`${m.at.join()} ${m.words}`}
                className={classes("scale-mark", { axis: m.axis })}
                data-at={m.at.join()}
              >
                {m.words}
              </span>
            ))}
          {plane && spot && (
            <span className="under-pencil" data-at={spot.at.join()}>
              {spot.node ?? said(spot.at)}
            </span>
          )}
          {joints.map((j) => (
            <Bubble key={j.node} joint={j} />
          ))}
        </div>
      </div>
      <div className="view-bar">
        <Directions look={look} />
        {!point && (
          <Button aria-pressed={bubbles} onClick={() => setBubbles(!bubbles)}>
            joints
          </Button>
        )}
        <Button aria-pressed={marks} onClick={() => setMarks(!marks)}>
          marks
        </Button>
        <Button aria-pressed={balance} onClick={() => setBalance(!balance)}>
          balance
        </Button>
        <span className="grow" />
        {!point && (
          <Tooltip title="click places on the plane: nodes, with members between them. Esc lifts the pencil">
            <Button
              aria-pressed={plane !== null}
              onClick={() => {
                setPlane(plane ? null : "floor");
                setPen({ node: null, line: null, at: [0, 0, 0] });
                setApart(0);
              }}
            >
              pencil
            </Button>
          </Tooltip>
        )}
        {plane && (
          <PlaneBar
            plane={plane}
            setPlane={setPlane}
            from={pen.node}
            under={spot && (spot.node ? `node ${spot.node}` : said(spot.at))}
            put={async (text) => {
              const to = await typedNode(pen.node, text);
              if ("wrong" in to) return to.wrong;
              putDown(to);
              return null;
            }}
            lift={lift}
          />
        )}
        {!plane && (
          <span className="fold">
            together
            <Slider
              aria-label="pulled apart"
              size="small"
              min={0}
              max={1}
              step={0.01}
              value={apart}
              onChange={(_, v) => setApart(v as number)}
            />
            apart
          </span>
        )}
      </div>
    </div>
  );
}

/** So near to its letter a node is meant, px. */
const NEAR = 8;

/** The node whose letter stands there. */
function nodeAt(over: HTMLElement | null, x: number, y: number): string | undefined {
  const letters = [...(over?.querySelectorAll<HTMLElement>("[data-node]") ?? [])];
  const host = over?.getBoundingClientRect();
  const hit = letters.find((l) => {
    const r = l.getBoundingClientRect();
    if (x > r.left - NEAR && x < r.right + NEAR && y > r.top - NEAR && y < r.bottom + NEAR) return true;
    // Its name may stand apart from the node itself.
    const [px = 1e9, py = 1e9] = l.dataset.px?.split(",").map(Number) ?? [];
    return Math.hypot(x - px - (host?.left ?? 0), y - py - (host?.top ?? 0)) < 2 * NEAR;
  });
  return hit?.dataset.node;
}

/** One mark a row of the list, at its first piece. */
function markSpots(frame: FrameView, list: FrameList | undefined): { mark: string; at: number[] }[] {
  const bars = (list?.bars ?? []).flatMap((b) => {
    const m = frame.members.find((x) => x.name === b.members[0]);
    return m ? [{ mark: b.mark, at: m.centre }] : [];
  });
  const plates = (list?.plates ?? []).flatMap((p) => {
    for (const b of frame.bodies) {
      const m = b.places.find((x) => x.name === p.members[0])?.matrix;
      if (!m) continue;
      // The middle of the body's corners, where it stands.
      const middle = [0, 1, 2].map((k) => {
        const along = b.points.filter((_, i) => i % 3 === k);
        return along.reduce((sum, v) => sum + v, 0) / Math.max(along.length, 1);
      });
      return [
        {
          mark: p.mark,
          at: [0, 1, 2].map(
            (k) => m[k]! * middle[0]! + m[3 + k]! * middle[1]! + m[6 + k]! * middle[2]! + m[9 + k]!,
          ),
        },
      ];
    }
    return [];
  });
  return [...bars, ...plates];
}

/** How a node closes; a click turns to the next way. */
function Bubble({ joint }: { joint: JointView }) {
  const [now, next] = joint.choices;
  const { setHover } = draft.getState();
  if (!now || !next) return null;
  return (
    <button
      type="button"
      className={`bubble ${now.how}`}
      data-at={joint.at.join()}
      aria-label={`joint ${joint.node}: ${now.words}; turn to ${next.words}`}
      title={`${joint.node}: ${now.words}. Click: ${next.words}`}
      onPointerEnter={() => setHover({ names: now.members })}
      onPointerLeave={() => setHover(NOWHERE)}
      onPointerDown={(e) => e.stopPropagation()}
      onPointerUp={(e) => e.stopPropagation()}
      onClick={() => applyMend("frame", next.mend)}
    >
      <svg viewBox="0 0 20 20" width="20" height="20" aria-hidden="true">
        {now.how === "mitre" ? (
          <path
            d="M3 3h14v14M3 3v0M9 11L17 3M3 11h6v6"
            fill="none"
            stroke="currentColor"
            strokeWidth="1.6"
          />
        ) : (
          <path d="M2 3h16v6H2zM6 9v8h6V9" fill="none" stroke="currentColor" strokeWidth="1.6" />
        )}
      </svg>
    </button>
  );
}
