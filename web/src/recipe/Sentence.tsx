import type { Line, Piece } from "../api/types";
import { writePiece } from "../draft/store";
import { cutIds, newShape } from "./defaults";
import { Choice, Val } from "./Field";
import { StripSentence } from "./StripSentence";

interface Props {
  line: Line;
  piece: Piece;
  /** JSON pointer of the line. */
  at: string;
}

/** A recipe line read out as a fabricator would say it, its values open to change. */
export function Sentence({ line, piece, at }: Props) {
  switch (line.say.verb) {
    case "start_plate":
      return (
        <>
          <b>Start</b> with a plate <Val path="/say/width" label="width" /> × <Val path="/say/height" label="height" />, centred on its middle.
        </>
      );
    case "start_strip":
      return <StripSentence say={line.say} at={at} />;
    case "start_outline":
      return (
        <>
          <b>Start</b> with a told outline of {line.say.points.length} corners.
        </>
      );
    case "punch":
      return <PunchSentence line={line} piece={piece} at={at} />;
    case "round":
      return <RoundSentence line={line} at={at} />;
    case "repeat":
      return <RepeatSentence line={line} piece={piece} at={at} />;
    case "mirror":
      return (
        <>
          <b>Mirror</b> <Targets line={line} piece={piece} at={at} />{" "}
          <Choice
            path="/say/axis"
            label="mirror direction"
            options={[
              ["east", "west to east"],
              ["north", "south to north"],
            ]}
          />{" "}
          about the middle of <Choice path="/say/about" label="mirror about" options={panels(piece)} />.
        </>
      );
  }
}

/** The panels a place can be told on. */
function panels(piece: Piece): [string, string][] {
  const out: [string, string][] = [["flat", "the flat"]];
  for (const l of piece.lines ?? []) {
    if (l.say.verb === "start_strip") for (const e of l.say.profile) if (e.kind === "leg") out.push([`${l.id}.${e.id}`, `leg ${e.id}`]);
  }
  return out;
}

const SHAPES: [string, string][] = [
  ["round", "round hole"],
  ["slot", "slot"],
  ["rectangle", "rectangle"],
  ["square", "square"],
  ["triangle", "triangle"],
  ["polygon", "polygon"],
  ["outline", "told outline"],
];

function PunchSentence({ line, piece, at }: Props) {
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
      <ShapeSizes kind={kind} /> on <Choice path="/say/place/on" label="on" options={panels(piece)} />,{" "}
      <Offset at="/say/place/x" from={say.place.x.from} edges={["west", "east"]} />,{" "}
      <Offset at="/say/place/y" from={say.place.y.from} edges={["south", "north"]} />, turned <Val path="/say/place/turn" label="turn" empty="0°" optional />.
    </>
  );
}

function ShapeSizes({ kind }: { kind: string }) {
  switch (kind) {
    case "round":
      return (
        <>
          ⌀ <Val path="/say/shape/diameter" label="diameter" />
        </>
      );
    case "square":
      return <Val path="/say/shape/side" label="side" />;
    case "rectangle":
      return (
        <>
          <Val path="/say/shape/width" label="width" /> × <Val path="/say/shape/height" label="height" />
        </>
      );
    case "slot":
      return (
        <>
          <Val path="/say/shape/length" label="length" />{" "}
          <Choice
            path="/say/shape/measure"
            label="slot length told"
            options={[
              ["overall", "overall"],
              ["centres", "centre to centre"],
            ]}
          />{" "}
          × <Val path="/say/shape/width" label="width" />
        </>
      );
    case "triangle":
      return (
        <>
          <Val path="/say/shape/base" label="base" /> wide, <Val path="/say/shape/height" label="height" /> high
        </>
      );
    case "polygon":
      return (
        <>
          of <Val path="/say/shape/sides" label="sides" /> sides, <Val path="/say/shape/across" label="across flats" /> across flats
        </>
      );
    default:
      return null;
  }
}

function Offset({ at, from, edges }: { at: string; from: string; edges: string[] }) {
  const words = (e: string): [string, string] => [e, e === "centre" ? "the middle" : e];
  return (
    <>
      <Val path={`${at}/distance`} label={`distance from ${from}`} empty={from === "centre" ? "0" : ""} /> from{" "}
      <Choice path={`${at}/from`} label="from" options={["centre", ...edges].map(words)} />
      {from !== "centre" && (
        <>
          {" "}
          to its{" "}
          <Choice
            path={`${at}/to`}
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

function RoundSentence({ line, at }: { line: Line; at: string }) {
  if (line.say.verb !== "round") return null;
  const { treatment, corners = [] } = line.say;
  const write = (text: string) => writePiece(`${at}/say/corners`, text.split(/[\s,]+/).filter(Boolean));
  return (
    <>
      <b>{treatment === "chamfer" ? "Chamfer" : "Round"}</b>{" "}
      {treatment === "full_end" ? "the whole end" : corners.length ? "the corners" : "every sharp outer corner"}{" "}
      <input
        className="val words"
        aria-label={treatment === "full_end" ? "ends" : "corners"}
        placeholder={treatment === "full_end" ? "west, east" : "all"}
        key={corners.join()}
        defaultValue={corners.join(", ")}
        style={{ width: `${Math.max(corners.join(", ").length, 4) + 1.5}ch` }}
        onBlur={(e) => e.target.value !== corners.join(", ") && write(e.target.value)}
        onKeyDown={(e) => e.key === "Enter" && write(e.currentTarget.value)}
      />{" "}
      with{" "}
      <Choice
        path="/say/treatment"
        label="treatment"
        options={[
          ["radius", "a radius"],
          ["chamfer", "a chamfer"],
          ["full_end", "a half circle"],
        ]}
      />{" "}
      {treatment !== "full_end" && <Val path="/say/size" label="size" />}.
    </>
  );
}

function Targets({ line, piece, at }: Props) {
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

const BY: [string, string][] = [
  ["pitch", "at a pitch of"],
  ["last", "with the last"],
  ["fill", "to fill, pitch"],
];

const bySpacing = (by: string, count: string): Record<string, string> => {
  if (by === "last") return { by, count, distance: "20" };
  if (by === "fill") return { by, pitch: "40", margin: "20" };
  return { by, count, pitch: "40" };
};

function SpacingWords({ path, at, spacing }: { path: string; at: string; spacing: { by: string; count?: string } }) {
  return (
    <>
      {spacing.by !== "fill" && (
        <>
          <Val path={`${path}/count`} label="count" /> times{" "}
        </>
      )}
      <select
        className="choice"
        aria-label="spacing"
        value={spacing.by}
        onChange={(e) => writePiece(at + path, bySpacing(e.target.value, spacing.count ?? "3"))}
      >
        {BY.map(([b, word]) => (
          <option key={b} value={b}>
            {word}
          </option>
        ))}
      </select>{" "}
      {spacing.by === "last" ? (
        <>
          <Val path={`${path}/distance`} label="distance of the last from the end" /> from the far end
        </>
      ) : (
        <Val path={`${path}/pitch`} label="pitch" />
      )}
      {spacing.by === "fill" && (
        <>
          , margin <Val path={`${path}/margin`} label="margin" />
        </>
      )}
    </>
  );
}

function RepeatSentence({ line, piece, at }: Props) {
  const say = line.say;
  if (say.verb !== "repeat") return null;
  return (
    <>
      <b>Repeat</b> <Targets line={line} piece={piece} at={at} /> to the{" "}
      <Choice
        path="/say/axis"
        label="direction"
        options={[
          ["east", "east"],
          ["north", "north"],
        ]}
      />{" "}
      <SpacingWords path="/say/spacing" at={at} spacing={say.spacing} />
      {say.across ? (
        <>
          ; across, <SpacingWords path="/say/across" at={at} spacing={say.across} />
          <button type="button" className="chip" onClick={() => writePiece(`${at}/say/across`, undefined)}>
            one row only
          </button>
        </>
      ) : (
        <>
          {" "}
          <button type="button" className="chip" onClick={() => writePiece(`${at}/say/across`, bySpacing("pitch", "2"))}>
            + rows across
          </button>
        </>
      )}
      .
    </>
  );
}
