import type { Say } from "../api/types";
import { Choice, Val } from "./Field";
import { CLOSE, CORNER_RELIEF, UP_DOWN } from "./FoldSentences";

type Of<V extends Say["verb"]> = Extract<Say, { verb: V }>;

export const FACES: [string, string][] = [
  ["outside", "outside"],
  ["inside", "inside"],
  ["middle", "middle"],
];

/** A yes or no that reads as one of two words. */
function Flag({ path, label, words }: { path: string; label: string; words: [string, string] }) {
  return (
    <Choice
      path={path}
      label={label}
      options={[
        ["false", words[0]],
        ["true", words[1]],
      ]}
      flag
    />
  );
}

export function ChannelWords({ say }: { say: Of<"start_channel"> }) {
  return (
    <>
      <b>Start</b> with a channel <Val path="/say/length" label="length" /> long, web <Val path="/say/web" label="web" />, sides{" "}
      <Val path="/say/side" label="side" /> (west <Val path="/say/west_side" label="west side" empty="same" optional />
      ), lips <Val path="/say/lip" label="lip" empty="none" optional />
      {say.lip && (
        <>
          {" "}
          turned <Flag path="/say/lips_out" label="lips" words={["inwards", "outwards"]} />
        </>
      )}
      , told from the{" "}
      <span className="end">
        <Choice path="/say/measure" label="told from" options={FACES} />.
      </span>
    </>
  );
}

export function TrayWords({ say }: { say: Of<"start_tray"> }) {
  return (
    <>
      <b>Start</b> with a tray <Val path="/say/width" label="width" /> × <Val path="/say/depth" label="depth" /> × <Val path="/say/height" label="height" />{" "}
      high, told <Choice path="/say/measure" label="told from" options={FACES.slice(0, 2)} />, less a clearance of{" "}
      <Val path="/say/clearance" label="clearance" empty="0" optional /> on each side, lips <Val path="/say/lip" label="lip" empty="none" optional />
      {say.lip && (
        <>
          {" "}
          turned <Flag path="/say/lips_in" label="lips" words={["outwards", "inwards"]} />
        </>
      )}
      ; corners <Choice path="/say/close" label="how corners close" options={CLOSE} />, gap <Val path="/say/gap" label="gap" empty="usual" optional />, with{" "}
      <Choice path="/say/relief" label="corner relief" options={CORNER_RELIEF} />
      {say.relief && say.relief !== "none" && (
        <>
          {" "}
          <Val path="/say/relief_size" label="relief size" empty="usual" optional />
        </>
      )}
      .
    </>
  );
}

export function RolledWords({ say }: { say: Of<"start_rolled"> }) {
  const full = Number.parseFloat(say.angle ?? "") >= 360;
  return (
    <>
      <b>Start</b> with a rolled shell <Val path="/say/length" label="length" /> long: two of radius{" "}
      <Val path="/say/radius" label="radius" empty="—" optional />, diameter <Val path="/say/diameter" label="diameter" empty="—" optional />, angle{" "}
      <Val path="/say/angle" label="angle" empty="—" optional />, arc length <Val path="/say/arc" label="arc length" empty="—" optional />, told from the{" "}
      <Choice path="/say/measure" label="told from" options={FACES} />, rolled <Choice path="/say/direction" label="direction" options={UP_DOWN} />
      {full && (
        <>
          ; seam with a{" "}
          <Choice
            path="/say/seam"
            label="seam"
            options={[
              ["gap", "gap"],
              ["lap", "lap"],
            ]}
          />{" "}
          of <Val path="/say/seam_size" label="seam size" empty="0" optional />
        </>
      )}
      .
    </>
  );
}

export function ConeWords() {
  return (
    <>
      <b>Start</b> with a cone, ⌀ <Val path="/say/wide" label="wide diameter" /> to ⌀ <Val path="/say/narrow" label="narrow diameter" /> over a height of{" "}
      <Val path="/say/height" label="height" />, told from the <Choice path="/say/measure" label="told from" options={FACES} /> with{" "}
      <Choice
        path="/say/ends"
        label="ends"
        options={[
          ["square", "ends as cut"],
          ["level", "ends ground level"],
        ]}
      />
      , rolled through <Val path="/say/angle" label="angle" empty="360°" optional />, seam gap{" "}
      <span className="end">
        <Val path="/say/seam_gap" label="seam gap" empty="0" optional />.
      </span>
    </>
  );
}
