import type { Line, Say } from "../api/types";
import { get } from "../draft/pointer";
import { usePiece, writePiece } from "../draft/store";
import { Choice, Val, Words } from "./Field";
import { EdgeChips, EdgeChoice, useZones } from "./Pick";

type Of<V extends Say["verb"]> = Extract<Say, { verb: V }>;

export const UP_DOWN: [string, string][] = [
  ["up", "up"],
  ["down", "down"],
];

const BEND_AT: [string, string][] = [
  ["outer_face", "outer face in line with the edge"],
  ["inner_face", "inner face in line with the edge"],
  ["from_edge", "bend from the edge outwards"],
  ["sharp", "virtual sharp on the edge"],
];

const SPANS: [string, string][] = [
  ["full", "full width"],
  ["inset", "inset"],
  ["centred", "in the middle"],
];

const spanOf = (by: string) => (by === "inset" ? { by, left: "20", right: "20" } : by === "centred" ? { by, width: "50" } : { by });

/** A word whose choice brings other values with it. */
function Switch({ at, path, label, options, make }: { at: string; path: string; label: string; options: [string, string][]; make(v: string): unknown }) {
  const { piece } = usePiece();
  const key = path.endsWith("/span") ? "by" : path.endsWith("/reach") ? "to" : "kind";
  const value = String((get(piece, at + path) as Record<string, string> | undefined)?.[key] ?? options[0]![0]);
  return (
    <select className="choice" aria-label={label} value={value} onChange={(e) => writePiece(at + path, make(e.target.value))}>
      {options.map(([v, w]) => (
        <option key={v} value={v}>
          {w}
        </option>
      ))}
    </select>
  );
}

/** How much of the edge, and what is cut beside it. */
function SpanWords({ at, span, relief }: { at: string; span?: { by: string }; relief?: { kind?: string } | null }) {
  const by = span?.by ?? "full";
  return (
    <>
      <Switch at={at} path="/say/span" label="width of the fold" options={SPANS} make={spanOf} />
      {by === "inset" && (
        <>
          {" "}
          <Val path="/say/span/left" label="inset from the left" /> from its left and <Val path="/say/span/right" label="inset from the right" /> from its right
          end
        </>
      )}
      {by === "centred" && (
        <>
          {" "}
          <Val path="/say/span/width" label="width of the fold" /> wide
        </>
      )}
      {by !== "full" && (
        <>
          ,{" "}
          <Choice
            path="/say/relief/kind"
            label="relief"
            options={[
              ["square", "square"],
              ["round_ended", "round-ended"],
              ["torn", "torn"],
            ]}
          />{" "}
          reliefs
          {relief?.kind !== "torn" && (
            <>
              {" "}
              <Val path="/say/relief/width" label="relief width" empty="usual" optional /> wide,{" "}
              <Val path="/say/relief/depth" label="relief depth" empty="usual" optional /> past the tangent line
            </>
          )}
        </>
      )}
    </>
  );
}

export function FoldSentence({ say, at }: { say: Of<"fold">; at: string }) {
  const panels = useZones("panel");
  const then = say.then ?? [];
  const parallel = Boolean(say.parallel_to);
  const reach = say.reach.to;
  const lengths = { length: { to: "length", length: "40" }, height: { to: "height", height: "40" }, level: { to: "level", with: "" } } as const;
  const addThen = () => {
    const id = ["lip", "return", "end"].find((n) => !then.some((t) => t.id === n)) ?? `fold${then.length + 1}`;
    writePiece(`${at}/say/then`, [...then, { id, angle: "90", direction: "up", length: "15" }]);
  };
  return (
    <>
      <b>Fold</b> <EdgeChips path={`${at}/say/edges`} label="edges folded" /> <Choice path="/say/direction" label="direction" options={UP_DOWN} />{" "}
      {parallel ? (
        <>
          until parallel to <Choice path="/say/parallel_to" label="parallel to" options={panels} />{" "}
          <button type="button" className="chip" onClick={() => writePiece(`${at}/say`, { ...say, parallel_to: undefined, angle: "90" })}>
            by an angle
          </button>
        </>
      ) : (
        <>
          <Val path="/say/angle" label="angle" />°{" "}
          <button
            type="button"
            className="chip"
            onClick={() => writePiece(`${at}/say`, { ...say, angle: "", parallel_to: panels[0]?.[0] ?? "" })}
            title="fold until parallel to a panel"
          >
            ∥
          </button>
        </>
      )}
      ,{" "}
      <Switch
        at={at}
        path="/say/reach"
        label="reach"
        options={[
          ["length", "length"],
          ["height", "overall height"],
          ["level", "level with"],
        ]}
        make={(v) => lengths[v as keyof typeof lengths]}
      />{" "}
      {reach === "length" && (
        <>
          <Val path="/say/reach/length" label="length" />{" "}
          <Choice
            path="/say/reach/measure"
            label="length told from"
            options={[
              ["outside", "outside"],
              ["inside", "inside"],
              ["tangent", "from the tangent line"],
            ]}
          />
        </>
      )}
      {reach === "height" && <Val path="/say/reach/height" label="height" />}
      {reach === "level" && <Choice path="/say/reach/with" label="level with" options={[["", "a neighbour…"], ...panels]} />},{" "}
      <Choice path="/say/bend_at" label="where the bend sits" options={BEND_AT} />, R
      <Val path="/say/radius" label="inside radius" empty="own" optional />, <SpanWords at={at} span={say.span} relief={say.relief} />
      {then.map((t, i) => (
        <span className="element bend" key={t.id}>
          then {t.id} <Choice path={`/say/then/${i}/direction`} label={`direction of ${t.id}`} options={UP_DOWN} />{" "}
          <Val path={`/say/then/${i}/angle`} label={`angle of ${t.id}`} />° <Val path={`/say/then/${i}/length`} label={`length of ${t.id}`} /> outside{" "}
          <button
            type="button"
            className="chip"
            aria-label={`take out ${t.id}`}
            onClick={() =>
              writePiece(
                `${at}/say/then`,
                then.filter((_, k) => k !== i),
              )
            }
          >
            ×
          </button>
        </span>
      ))}{" "}
      <button type="button" className="chip" onClick={addThen}>
        + lip
      </button>
      .
    </>
  );
}

export const CLOSE: [string, string][] = [
  ["edge", "edge to edge"],
  ["lap_before", "the first over the second"],
  ["lap_after", "the second over the first"],
  ["open", "open"],
];

export const CORNER_RELIEF: [string, string][] = [
  ["none", "no relief"],
  ["round", "a round relief"],
  ["square", "a square relief"],
  ["slot", "a slot relief"],
];

export function CornerSentence({ line, at }: { line: Line; at: string }) {
  const relief = line.say.verb === "corner" ? (line.say.relief ?? "none") : "none";
  return (
    <>
      <b>Close</b> the corners <Words path={`${at}/say/at`} label="corners" empty="all" /> between folds{" "}
      <Choice path="/say/close" label="how corners close" options={CLOSE} /> with a gap of <Val path="/say/gap" label="gap" empty="usual" optional /> and{" "}
      <Choice path="/say/relief" label="corner relief" options={CORNER_RELIEF} />
      {relief !== "none" && (
        <>
          {" "}
          <Val path="/say/relief_size" label="relief size" empty="usual" optional /> across
        </>
      )}
      .
    </>
  );
}

export function BendLineWords({ at }: { at: string }) {
  return (
    <>
      <b>Bend</b> along a line <Val path="/say/distance" label="distance from the edge" /> from <EdgeChoice path={`${at}/say/edge`} label="told from edge" />,
      turned <Val path="/say/turn" label="turn" empty="0°" optional />,{" "}
      <Choice
        path="/say/at"
        label="what lies on the line"
        options={[
          ["centre", "the middle of the bend"],
          ["tangent", "its tangent line"],
          ["sharp", "its virtual sharp"],
        ]}
      />{" "}
      on it; <Choice path="/say/direction" label="direction" options={UP_DOWN} /> <Val path="/say/angle" label="angle" />° R
      <Val path="/say/radius" label="inside radius" empty="own" optional />;{" "}
      <Choice
        path="/say/stays"
        label="what stays"
        options={[
          ["far", "the far side"],
          ["near", "the side of that edge"],
        ]}
      />{" "}
      lies still.
    </>
  );
}

const HEMS: [string, string][] = [
  ["closed", "closed hem"],
  ["open", "open hem"],
  ["teardrop", "teardrop hem"],
  ["rolled", "rolled edge"],
];

const hemOf = (kind: string) =>
  kind === "open"
    ? { kind, length: "12", gap: "3" }
    : kind === "teardrop"
      ? { kind, length: "14", radius: "2" }
      : kind === "rolled"
        ? { kind, radius: "3", angle: "270" }
        : { kind, length: "12" };

export function HemSentence({ say, at }: { say: Of<"hem">; at: string }) {
  const kind = say.hem.kind;
  return (
    <>
      <b>Hem</b> <EdgeChips path={`${at}/say/edges`} label="edges hemmed" /> <Choice path="/say/direction" label="direction" options={UP_DOWN} /> with a{" "}
      <Switch at={at} path="/say/hem" label="kind of hem" options={HEMS} make={hemOf} />{" "}
      {kind === "rolled" ? (
        <>
          of R <Val path="/say/hem/radius" label="radius" /> through <Val path="/say/hem/angle" label="angle" />°
        </>
      ) : (
        <>
          <Val path="/say/hem/length" label="length" /> outside
          {kind === "open" && (
            <>
              , gap <Val path="/say/hem/gap" label="gap" />
            </>
          )}
          {kind === "teardrop" && (
            <>
              , R <Val path="/say/hem/radius" label="radius" />
            </>
          )}
        </>
      )}
      , <Choice path="/say/bend_at" label="where the bend sits" options={BEND_AT} />, <SpanWords at={at} span={say.span} relief={say.relief} />.
    </>
  );
}

export function JoggleSentence({ say, at }: { say: Of<"joggle">; at: string }) {
  return (
    <>
      <b>Joggle</b> <EdgeChips path={`${at}/say/edges`} label="edges joggled" /> <Choice path="/say/direction" label="direction" options={UP_DOWN} /> by{" "}
      <Val path="/say/height" label="height" /> over <Val path="/say/run" label="run" />, then <Val path="/say/length" label="length" /> straight, R
      <Val path="/say/radius" label="inside radius" empty="own" optional />, <SpanWords at={at} span={say.span} relief={say.relief} />.
    </>
  );
}

export function TabWords({ at }: { at: string }) {
  return (
    <>
      <b>Add</b> a tab <Val path="/say/width" label="width" /> wide, <Val path="/say/length" label="length" /> long on{" "}
      <EdgeChoice path={`${at}/say/edge`} label="edge of the tab" />, its middle{" "}
      <Val path="/say/place" label="place from the left end" empty="half way" optional /> from the left end.
    </>
  );
}

const NOTCHES: [string, string][] = [
  ["square", "square"],
  ["vee", "vee"],
  ["round", "round-ended"],
];

export function NotchWords({ at }: { at: string }) {
  return (
    <>
      <b>Notch</b> <EdgeChoice path={`${at}/say/edge`} label="edge notched" /> with a{" "}
      <Choice path="/say/shape/kind" label="shape of the notch" options={NOTCHES} /> <Val path="/say/shape/width" label="width" /> wide,{" "}
      <Val path="/say/shape/depth" label="depth" /> deep, its middle <Val path="/say/place" label="place from the left end" empty="half way" optional /> from
      the left end.
    </>
  );
}
