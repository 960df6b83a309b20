import type { Line, Piece } from "../api/types";
import { writePiece } from "../draft/store";
import { Choice, Val, Words } from "./Field";
import { BendLineWords, CornerSentence, FoldSentence, HemSentence, JoggleSentence, NotchWords, TabWords } from "./FoldSentences";
import { FillSentence, PathSentence, PressSentence, RibSentence, RingSentence } from "./PatternSentences";
import { EdgeChoice, edgeSaid, useEdges, useZones } from "./Pick";
import { PunchSentence, Targets, usePanels } from "./PunchSentence";
import { ChannelWords, ConeWords, RolledWords, TrayWords } from "./StartSentences";
import { StripSentence } from "./StripSentence";

interface Props {
  line: Line;
  piece: Piece;
  /** JSON pointer of the line. */
  at: string;
}

/** A recipe line read out as a fabricator would say it, its values open to change. */
export function Sentence({ line, piece, at }: Props) {
  const say = line.say;
  switch (say.verb) {
    case "start_plate":
      return (
        <>
          <b>Start</b> with a plate <Val path="/say/width" label="width" /> × <Val path="/say/height" label="height" />, centred on its middle.
        </>
      );
    case "start_strip":
      return <StripSentence say={say} at={at} />;
    case "start_outline":
      return (
        <>
          <b>Start</b> with a told outline of {say.points.length} corners.
        </>
      );
    case "start_channel":
      return <ChannelWords say={say} />;
    case "start_tray":
      return <TrayWords say={say} />;
    case "start_rolled":
      return <RolledWords say={say} />;
    case "start_cone":
      return <ConeWords />;
    case "fold":
      return <FoldSentence say={say} at={at} />;
    case "corner":
      return <CornerSentence line={line} at={at} />;
    case "bend_line":
      return <BendLineWords at={at} />;
    case "hem":
      return <HemSentence say={say} at={at} />;
    case "joggle":
      return <JoggleSentence say={say} at={at} />;
    case "tab":
      return <TabWords at={at} />;
    case "notch":
      return <NotchWords at={at} />;
    case "punch":
      return <PunchSentence line={line} piece={piece} at={at} />;
    case "fill":
      return <FillSentence say={say} piece={piece} at={at} />;
    case "rib":
      return <RibSentence say={say} />;
    case "press":
      return <PressSentence say={say} at={at} />;
    case "round":
      return <RoundSentence line={line} at={at} />;
    case "repeat":
      return <RepeatSentence line={line} piece={piece} at={at} />;
    case "ring":
      return <RingSentence line={line} piece={piece} at={at} />;
    case "path":
      return <PathSentence line={line} piece={piece} at={at} />;
    case "mirror":
      return <MirrorSentence line={line} piece={piece} at={at} />;
  }
}

/** About the middle of a panel, or about an edge or a bend itself. */
function MirrorSentence({ line, piece, at }: Props) {
  const panels = usePanels();
  const bends = useZones("bend");
  const edges = useEdges();
  if (line.say.verb !== "mirror") return null;
  const about = line.say.about ?? "flat";
  const middle = about === "flat" || panels.some(([n]) => n === about);
  const options: [string, string][] = [
    ...panels.map(([n, w]): [string, string] => [n, `the middle of ${w}`]),
    ...bends.map(([n, w]): [string, string] => [n, `bend ${w}`]),
    ...edges.map((n): [string, string] => [n, `edge ${edgeSaid(n)}`]),
  ];
  return (
    <>
      <b>Mirror</b> <Targets line={line} piece={piece} at={at} />{" "}
      {middle && (
        <Choice
          path="/say/axis"
          label="mirror direction"
          options={[
            ["east", "west to east"],
            ["north", "south to north"],
          ]}
        />
      )}{" "}
      about{" "}
      <span className="end">
        <Choice path="/say/about" label="mirror about" options={options} />.
      </span>
    </>
  );
}

function RoundSentence({ line, at }: { line: Line; at: string }) {
  if (line.say.verb !== "round") return null;
  const { treatment, corners = [] } = line.say;
  return (
    <>
      <b>{treatment === "chamfer" ? "Chamfer" : "Round"}</b>{" "}
      {treatment === "full_end" ? "the whole end" : corners.length ? "the corners" : "every sharp outer corner with room"}{" "}
      <Words path={`${at}/say/corners`} label={treatment === "full_end" ? "ends" : "corners"} empty={treatment === "full_end" ? "west, east" : "all"} /> with{" "}
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

const BY: [string, string][] = [
  ["pitch", "at a pitch of"],
  ["last", "with the last"],
  ["gap", "with gaps of"],
  ["fill", "to fill, pitch"],
];

const bySpacing = (by: string, count: string): Record<string, string> => {
  if (by === "last") return { by, count, distance: "20" };
  if (by === "gap") return { by, count, gap: "10" };
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
      ) : spacing.by === "gap" ? (
        <Val path={`${path}/gap`} label="gap" />
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
  const edges = useEdges();
  if (say.verb !== "repeat") return null;
  return (
    <>
      <b>Repeat</b> <Targets line={line} piece={piece} at={at} />{" "}
      {say.along ? (
        <>
          along <EdgeChoice path={`${at}/say/along`} label="edge it runs along" optional />
        </>
      ) : (
        <>
          to the{" "}
          <Choice
            path="/say/axis"
            label="direction"
            options={[
              ["east", "east"],
              ["north", "north"],
            ]}
          />{" "}
          <button type="button" className="chip" disabled={!edges[0]} onClick={() => writePiece(`${at}/say/along`, edges[0])}>
            along an edge
          </button>
        </>
      )}{" "}
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
