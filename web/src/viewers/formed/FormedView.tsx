import { memo, useCallback, useEffect, useRef, useState } from "react";
import type { PieceView } from "../../api/types";
import { draft, NOWHERE } from "../../document/draft";
import { useDraft } from "../../hooks/useDraft";
import { ink, type Mode } from "../../theme/theme";
import type { Asked } from "../../verbs/Offers";
import { Directions } from "../Directions";
import type { DirectionName } from "../Stage";
import { lineOf as lineIn } from "../zones";
import { FoldBar } from "./FoldBar";
import { type Colours, FormedScene } from "./scene";

function colours(mode: Mode): Colours {
  const c = ink[mode];
  return mode === "light"
    ? { panel: "#b9bcba", up: "#6f8fbf", down: "#c08a52", wall: "#8e908e", edge: c.ink, lit: "#b3261e" }
    : {
        panel: "#8f9391",
        up: "#6d8fc4",
        down: "#c08a52",
        wall: "#6c6f6d",
        edge: "#14130f",
        lit: "#ffd166",
      };
}

const BENDS_A_SECOND = 1;
/** Frames further apart than this, ms, are not smooth: then pictures are drawn coarser while they move. */
const SLOW = 33;
/** Triangles that take longer than a moment to be built. */
const MUCH = 4000;

/** Whether a piece is drawn in a moment. */
const isLittle = (p: PieceView) => p.made && p.drawn && p.mesh.triangles.length < 3 * MUCH;

const bendsOf = (p: PieceView) => p.zones.filter((z) => z.bend || z.cone).length;

/** The piece as it is when bent: turn it, look from standard directions, fold it bend by bend. */
export default memo(function FormedView({
  piece,
  mode,
  ask,
}: {
  piece: PieceView;
  mode: Mode;
  ask(asked: Asked): void;
}) {
  const host = useRef<HTMLDivElement>(null);
  const scene = useRef<FormedScene | null>(null);
  const bends = bendsOf(piece);
  const [unfolded, setUnfolded] = useState(0);
  const [playing, setPlaying] = useState(false);
  const [trouble, setTrouble] = useState("");
  const hover = useDraft((d) => d.hover);
  const { setHover, pick } = draft.getState();
  const shown = useRef<{ piece: PieceView | null; size: string }>({ piece: null, size: "" });
  const progress = Math.max(bends - unfolded, 0);
  const latest = useRef({ id: piece.id, unfolded });
  latest.current = { id: piece.id, unfolded };

  useEffect(() => {
    if (!host.current) return;
    try {
      scene.current = new FormedScene(host.current, colours(mode));
      shown.current = { piece: null, size: "" };
    } catch {
      setTrouble(
        "This browser shows no 3D (WebGL is off). Flat pattern, figures and papers are complete without it.",
      );
    }
    return () => scene.current?.dispose();
  }, [mode]);

  const show = useCallback((piece: PieceView) => {
    if (!scene.current || shown.current.piece === piece) return;
    const blank = piece.figures.find((f) => f.key === "blank")?.value ?? 0;
    const size = `${piece.id}:${Math.round(Math.log(Math.max(blank, 1)) * 3)}`;
    scene.current.show(
      piece,
      Math.max(bendsOf(piece) - latest.current.unfolded, 0),
      shown.current.size !== size,
    );
    scene.current.highlight(draft.getState().hover.names, draft.getState().hover.line);
    scene.current.drawNow();
    shown.current = { piece, size };
  }, []);

  // Drawn as soon as it has come, while the page still writes the flat and the figures.
  useEffect(
    () =>
      draft.subscribe((now, before) => {
        const next = now.result?.piece;
        if (next && next !== before.result?.piece && next.id === latest.current.id && isLittle(next))
          show(next);
      }),
    [show],
  );
  // What is much, and the first of a piece, in a task of its own after the flat has been written.
  useEffect(() => {
    const later = setTimeout(() => show(piece));
    return () => clearTimeout(later);
  }, [piece, mode, show]);

  useEffect(() => {
    scene.current?.fold(progress);
    scene.current?.keepInView();
  }, [progress]);
  useEffect(() => scene.current?.highlight(hover.names, hover.line), [hover, progress]);

  // Played from the flat: each bend takes its second, whatever the machine can draw in it.
  useEffect(() => {
    if (!playing) return;
    const began = performance.now();
    let drawn = 0;
    let frame = requestAnimationFrame(function next(now) {
      drawn += 1;
      if (drawn === 12 && now - began > 12 * SLOW) scene.current?.swift(true);
      const done = Math.min(((now - began) / 1000) * BENDS_A_SECOND, bends);
      setUnfolded(bends - done);
      if (done < bends) frame = requestAnimationFrame(next);
      else setPlaying(false);
    });
    return () => {
      cancelAnimationFrame(frame);
      scene.current?.swift(false);
    };
  }, [playing, bends]);

  const lineOf = (name: string) => lineIn(piece, name);
  const start = useRef([0, 0]);

  // The bend in the making, by the order of the brake.
  const rolled = piece.rolled_last ? 0 : bends - piece.bend_rows.length;
  const making =
    progress > 0 && progress < bends ? piece.bend_rows[Math.ceil(progress) - 1 - rolled] : undefined;

  const look = useCallback((d: DirectionName) => scene.current?.look(d), []);
  const fold = useCallback(
    (folded: number) => {
      setPlaying(false);
      setUnfolded(bends - folded);
    },
    [bends],
  );
  if (trouble) return <p className="empty">{trouble}</p>;
  return (
    <div className="formed">
      <div
        ref={host}
        className="stage"
        role="img"
        aria-label={`formed ${piece.mark}`}
        onPointerDown={(e) => {
          start.current = [e.clientX, e.clientY];
        }}
        onPointerMove={(e) => {
          if (e.buttons) return;
          const met = scene.current?.meet(e.clientX, e.clientY);
          setHover(met ? { line: lineOf(met.name), names: [met.name] } : NOWHERE);
        }}
        onPointerLeave={() => setHover(NOWHERE)}
        onPointerUp={(e) => {
          if (Math.hypot(e.clientX - start.current[0]!, e.clientY - start.current[1]!) > 4) return;
          const met = scene.current?.meet(e.clientX, e.clientY);
          if (!met) return;
          const line = lineOf(met.name);
          const zone = piece.zones.find((z) => z.name === met.zone);
          const what = zone
            ? zone.bend
              ? "bend"
              : "panel"
            : piece.features.some((f) => f.name === met.name)
              ? "hole"
              : "edge";
          if (line) pick(line);
          ask({ what, name: met.name, line, at: met.flat, x: e.clientX, y: e.clientY });
        }}
      />
      <div className="view-bar">
        <Directions look={look} />
        {making && (
          <span className="hint making">
            {making.order}. {making.label}
          </span>
        )}
        {bends > 0 && (
          <FoldBar bends={bends} folded={progress} playing={playing} play={setPlaying} fold={fold} />
        )}
      </div>
    </div>
  );
});
