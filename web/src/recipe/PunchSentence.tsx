import type { Line, Piece, Say } from "../api/types";
import { useDraft, usePiece, writePiece } from "../draft/store";
import { cutIds, newShape } from "./defaults";
import { Choice, Val } from "./Field";
import { edgeSaid } from "./Pick";

export const SHAPES: [string, string][] = [
  ["round", "round hole"],
  ["slot", "slot"],
  ["rectangle", "rectangle"],
  ["square", "square"],
  ["triangle", "triangle"],
  ["polygon", "polygon"],
  ["keyhole", "keyhole"],
  ["d", "D-hole"],
  ["outline", "told outline"],
];

/** The panels a place can be told on. */
export function usePanels(): [string, string][] {
  const id = usePiece().piece?.id;
  const view = useDraft((d) => d.result?.piece);
  const own = view && view.id === id ? view.zones : [];
  const zones = own.filter((z) => (own.length > 1 && !z.bend) || (z.bend && z.bend.allowance > 200) || z.cone);
  return [["flat", "the flat"], ...zones.map((z): [string, string] => [z.name, edgeSaid(z.name)])];
}

export function PunchSentence({ line, piece, at }: { line: Line; piece: Piece; at: string }) {
  const say = line.say;
  if (say.verb !== "punch") return null;
  const kind = say.shape.kind;
  return (
    <>
      <b>Punch</b> a{" "}
      <select
        className="choice"
        aria-label="shape"
        value={kind}
        onChange={(e) => writePiece(`${at}/say/shape`, newShape(e.target.value as typeof kind, piece.display ?? undefined))}
      >
        {SHAPES.map(([k, word]) => (
          <option key={k} value={k}>
            {word}
          </option>
        ))}
      </select>{" "}
      <ShapeSizes kind={kind} /> <Place path="/say/place" place={say.place} at={at} />.
    </>
  );
}

type PlaceOf = Extract<Say, { verb: "punch" }>["place"];

/** Where: on what, and how far from which edges. A folded panel may be told by its own ends. */
export function Place({ path, place, at }: { path: string; place: PlaceOf; at: string }) {
  const panels = usePanels();
  const view = useDraft((d) => d.result?.piece);
  const zone = view?.zones.find((z) => z.name === place.on);
  const own = zone?.parent !== null && zone?.parent !== undefined;
  const x = ["west", "east", ...(own ? ["left", "right"] : [])];
  const y = ["south", "north", ...(own ? ["fold", "outside", "tip"] : [])];
  // Where nothing is bent beside an edge, its outer face is the edge itself: nothing to choose.
  const outer = (o: PlaceOf["x"]) => {
    if (!zone?.outside || o.from === "centre" || o.from === "outside") return o.edge === "outside";
    const line = { west: zone.min[0], south: zone.min[1], east: zone.max[0], north: zone.max[1] }[o.from as string];
    const face = zone.outside[["west", "south", "east", "north"].indexOf(o.from)];
    return o.edge === "outside" || line === undefined || face === undefined || Math.abs(line - face) > 1e-6;
  };
  return (
    <>
      on <Choice path={`${path}/on`} label="on" options={panels} />,{" "}
      <Offset at={at} path={`${path}/x`} other={`${path}/y`} from={place.x.from} edges={x} outer={outer(place.x)} />,{" "}
      <Offset at={at} path={`${path}/y`} other={`${path}/x`} from={place.y.from} edges={y} outer={outer(place.y)} />, turned{" "}
      <Val path={`${path}/turn`} label="turn" empty="0°" optional />
    </>
  );
}

const WORDS: Record<string, string> = {
  centre: "the middle",
  left: "its left end",
  right: "its right end",
  fold: "its fold",
  outside: "the outside of its bend",
  tip: "its tip",
};
/** What of that edge a distance is measured from. */
const EDGES: [string, string][] = [
  ["panel", "(line of the flat)"],
  ["outside", "(outer face)"],
];
const COMPASS = ["west", "east", "south", "north"];

interface OffsetProps {
  at: string;
  path: string;
  other: string;
  from: string;
  edges: string[];
  /** Its outer face may be meant, and is another line than its own. */
  outer: boolean;
}

function Offset({ at, path, other, from, edges, outer }: OffsetProps) {
  const { piece } = usePiece();
  // The two distances are told the same way: by the compass, or by the panel's own ends.
  const pick = (word: string) => {
    writePiece(`${at}${path}/from`, word);
    const theirs = String(readFrom(piece, `${at}${other}`));
    const compass = COMPASS.includes(word);
    if (word !== "centre" && theirs !== "centre" && COMPASS.includes(theirs) !== compass) {
      const across = other.endsWith("/x");
      writePiece(`${at}${other}/from`, compass ? (across ? "west" : "south") : across ? "left" : "fold");
    }
  };
  return (
    <>
      <Val path={`${path}/distance`} label={`distance from ${from}`} empty={from === "centre" ? "0" : ""} /> from{" "}
      <select className="choice" aria-label="from" value={from} onChange={(e) => pick(e.target.value)}>
        {["centre", ...edges, ...(edges.includes(from) || from === "centre" ? [] : [from])].map((e) => (
          <option key={e} value={e}>
            {WORDS[e] ?? e}
          </option>
        ))}
      </select>
      {outer && (
        <>
          {" "}
          <Choice path={`${path}/edge`} label={`edge for ${from}`} options={EDGES} />
        </>
      )}
      {from !== "centre" && (
        <>
          {" "}
          to its{" "}
          <Choice
            path={`${path}/to`}
            label="to"
            options={[
              ["centre", "middle"],
              ["side", "side"],
            ]}
          />
        </>
      )}
    </>
  );
}

function readFrom(piece: Piece | undefined, path: string): unknown {
  const steps = path.slice(1).split("/");
  let at: unknown = piece;
  for (const s of [...steps, "from"]) at = (at as Record<string, unknown> | undefined)?.[s];
  return at ?? "centre";
}

export function ShapeSizes({ kind }: { kind: string }) {
  const v = (field: string, label: string) => <Val path={`/say/shape/${field}`} label={label} />;
  const corners = (
    <>
      corners R <Val path="/say/shape/corner" label="corner radius" empty="sharp" optional />
    </>
  );
  switch (kind) {
    case "round":
      return <>⌀ {v("diameter", "diameter")}</>;
    case "square":
      return (
        <>
          {v("side", "side")}, {corners}
        </>
      );
    case "rectangle":
      return (
        <>
          {v("width", "width")} × {v("height", "height")}, {corners}
        </>
      );
    case "slot":
      return (
        <>
          {v("length", "length")}{" "}
          <Choice
            path="/say/shape/measure"
            label="slot length told"
            options={[
              ["overall", "overall"],
              ["centres", "centre to centre"],
            ]}
          />{" "}
          × {v("width", "width")}
        </>
      );
    case "triangle":
      return (
        <>
          {v("base", "base")} wide, {v("height", "height")} high
        </>
      );
    case "polygon":
      return (
        <>
          of {v("sides", "sides")} sides, {v("across", "across flats")} across flats
        </>
      );
    case "keyhole":
      return (
        <>
          entry ⌀ {v("entry", "entry diameter")}, slot {v("slot", "slot width")}, {v("length", "length")} from the entry to the slot's end
        </>
      );
    case "d":
      return (
        <>
          ⌀ {v("diameter", "diameter")}, {v("across", "across the flat")} across the flat
        </>
      );
    default:
      return null;
  }
}

/** The cuts above a line that it works on, as chips. */
export function Targets({ line, piece, at }: { line: Line; piece: Piece; at: string }) {
  const lines = piece.lines ?? [];
  const above = cutIds(
    lines.slice(
      0,
      lines.findIndex((l) => l.id === line.id),
    ),
  );
  const of = "of" in line.say ? line.say.of : [];
  const toggle = (id: string) => writePiece(`${at}/say/of`, of.includes(id) ? of.filter((o) => o !== id) : [...of, id]);
  const shown = [...above, ...of.filter((o) => !above.includes(o))];
  return (
    <span className="targets">
      {shown.map((id) => (
        <button type="button" key={id} className="chip" aria-pressed={of.includes(id)} onClick={() => toggle(id)}>
          {id}
        </button>
      ))}
      {shown.length === 0 && "nothing yet"}
    </span>
  );
}
