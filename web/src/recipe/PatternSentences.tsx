import type { Line, Piece, Say } from "../api/types";
import { writePiece } from "../draft/store";
import { newShape } from "./defaults";
import { Choice, Val } from "./Field";
import { UP_DOWN } from "./FoldSentences";
import { useZones } from "./Pick";
import { Place, SHAPES, ShapeSizes, Targets, usePanels } from "./PunchSentence";

type Of<V extends Say["verb"]> = Extract<Say, { verb: V }>;

export function FillSentence({ say, piece, at }: { say: Of<"fill">; piece: Piece; at: string }) {
  const on = usePanels();
  const kind = say.shape.kind;
  return (
    <>
      <b>Fill</b> <Choice path="/say/on" label="filled" options={on} /> with{" "}
      <select
        className="choice"
        aria-label="shape"
        value={kind}
        onChange={(e) => writePiece(`${at}/say/shape`, newShape(e.target.value as typeof kind, piece.display ?? undefined))}
      >
        {SHAPES.filter(([k]) => k !== "outline").map(([k, word]) => (
          <option key={k} value={k}>
            {word}s
          </option>
        ))}
      </select>{" "}
      <ShapeSizes kind={kind} /> in a{" "}
      <Choice
        path="/say/pattern"
        label="pattern"
        options={[
          ["square", "square"],
          ["staggered", "staggered"],
        ]}
      />{" "}
      pattern, pitch <Val path="/say/pitch" label="pitch" /> (across <Val path="/say/pitch_across" label="pitch across" empty="same" optional />
      ), margin <Val path="/say/margin" label="margin" />, to bends <Val path="/say/bend_margin" label="margin to bends" empty="by rule" optional />, whole
      holes only;{" "}
      <Choice
        path="/say/light"
        label="drawn or light"
        options={[
          ["false", "drawn"],
          ["true", "light: left out of the views"],
        ]}
        flag
      />
      .
    </>
  );
}

const RIB_ENDS: [string, string][] = ["left", "right", "west", "east", "south", "north"].map((w) => [w, w]);

export function RibSentence({ say }: { say: Of<"rib"> }) {
  const on = useZones("any");
  const bends = useZones("bend");
  const bead = !bends.some(([n]) => n === say.on);
  return (
    <>
      <b>Press</b> a{" "}
      <Choice
        path="/say/shape"
        label="shape of the rib"
        options={[
          ["round", "round"],
          ["flat", "flat-topped"],
        ]}
      />{" "}
      rib on <Choice path="/say/on" label="bend or panel" options={on} />, <Val path="/say/depth" label="depth" /> deep, <Val path="/say/width" label="width" />{" "}
      wide,{" "}
      {bead ? (
        <>
          <Val path="/say/length" label="length" /> long, <Choice path="/say/direction" label="side" options={UP_DOWN} />,{" "}
          <Val path="/say/offset" label="offset" /> from its fold or south side
        </>
      ) : (
        <>
          <Val path="/say/offset" label="offset" /> from the <Choice path="/say/from" label="end of the bend" options={RIB_ENDS} /> end of the bend
        </>
      )}
      ; draft <Val path="/say/draft" label="draft" empty="0°" optional />, corners R inside{" "}
      <Val path="/say/inner_radius" label="inner corner radius" empty="t" optional />, outside{" "}
      <span className="end">
        <Val path="/say/outer_radius" label="outer corner radius" empty="t" optional />.
      </span>
    </>
  );
}

const PRESSED: [string, string][] = [
  ["louvre", "louvre"],
  ["dimple", "dimple"],
  ["collar", "collared hole"],
];

const pressedOf = (kind: string) =>
  kind === "louvre"
    ? { kind, length: "60", width: "12", height: "5" }
    : kind === "collar"
      ? { kind, diameter: "20", height: "4" }
      : { kind, diameter: "12", depth: "2" };

export function PressSentence({ say, at }: { say: Of<"press">; at: string }) {
  const kind = say.shape.kind;
  return (
    <>
      <b>Press</b> a{" "}
      <select className="choice" aria-label="what is pressed" value={kind} onChange={(e) => writePiece(`${at}/say/shape`, pressedOf(e.target.value))}>
        {PRESSED.map(([k, w]) => (
          <option key={k} value={k}>
            {w}
          </option>
        ))}
      </select>{" "}
      {kind === "louvre" && (
        <>
          <Val path="/say/shape/length" label="length" /> × <Val path="/say/shape/width" label="width" />, <Val path="/say/shape/height" label="height" /> high
        </>
      )}
      {kind === "dimple" && (
        <>
          ⌀ <Val path="/say/shape/diameter" label="diameter" />, <Val path="/say/shape/depth" label="depth" /> deep
        </>
      )}
      {kind === "collar" && (
        <>
          ⌀ <Val path="/say/shape/diameter" label="diameter" />, <Val path="/say/shape/height" label="height" /> high
        </>
      )}{" "}
      <Choice path="/say/direction" label="side" options={UP_DOWN} /> <Place path="/say/place" place={say.place} at={at} />.
    </>
  );
}

export function RingSentence({ line, piece, at }: { line: Line; piece: Piece; at: string }) {
  if (line.say.verb !== "ring") return null;
  return (
    <>
      <b>Ring</b> <Targets line={line} piece={piece} at={at} />: <Val path="/say/count" label="count" /> in all, over{" "}
      <Val path="/say/sweep" label="sweep" empty="the full round" optional />, about the point <Place path="/say/centre" place={line.say.centre} at={at} />,{" "}
      <Choice
        path="/say/upright"
        label="turned or upright"
        options={[
          ["false", "turned with it"],
          ["true", "kept upright"],
        ]}
        flag
      />
      .
    </>
  );
}

export function PathSentence({ line, piece, at }: { line: Line; piece: Piece; at: string }) {
  if (line.say.verb !== "path") return null;
  const points = line.say.points;
  return (
    <>
      <b>Lay</b> <Targets line={line} piece={piece} at={at} /> along a path, <Val path="/say/count" label="count" /> in all,{" "}
      <Choice
        path="/say/turned"
        label="turned or upright"
        options={[
          ["false", "kept upright"],
          ["true", "turned with it"],
        ]}
        flag
      />
      , by way of
      {points.map((_, i) => (
        <span className="element leg" key={i}>
          <Val path={`/say/points/${i}/x`} label={`x of point ${i + 1}`} />, <Val path={`/say/points/${i}/y`} label={`y of point ${i + 1}`} />
        </span>
      ))}{" "}
      <button type="button" className="chip" onClick={() => writePiece(`${at}/say/points/-`, { x: points.at(-1)?.x ?? "40", y: "40" })}>
        + point
      </button>
      .
    </>
  );
}
