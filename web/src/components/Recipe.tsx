import { memo, useState } from "react";
import { type BenchName, docOf } from "../document/bench";
import { useDocument } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { Beginnings, BegunCard } from "../verbs/Beginnings";
import { OwnerOf } from "../verbs/Field";
import { LineList } from "../verbs/LineList";
import { Palette } from "../verbs/palette";
import { TextView } from "../verbs/TextView";
import { TypedLine } from "../verbs/TypedLine";
import { toSetting } from "../verbs/toSetting";
import { useVerbs } from "../verbs/useVerbs";

const BEGIN: Record<BenchName, string> = {
  piece:
    "Nothing is said yet. What does this piece start with? A drawing or a picture is brought in above.",
  frame:
    "Nothing is said yet. Begin with one of these, or with a node: a place where members meet. " +
    "Say it, type it, or draw with the pencil in the view.",
  brief:
    "Nothing is written down yet. What does the drawing say? Type its figures as they stand on it, one a " +
    "line: overall width 260 ±0.5, 4 × ⌀9, hole A from left 15.",
};

const LABEL: Record<BenchName, string> = {
  piece: "recipe",
  frame: "frame lines",
  brief: "figures of the drawing",
};

/** The lines of what is on the bench, said or as a text, and what can be added. */
export const Recipe = memo(function Recipe({ bench, id }: { bench: BenchName; id: string }) {
  const [asText, setAsText] = useState("");
  const empty = useDocument((d) => (docOf(bench, d)?.lines ?? []).length === 0);
  const sentences = useVerbs();
  // Before they are there, a key would find nothing to add and be lost.
  if (!sentences) return <p role="status">The sentences are on their way.</p>;
  if (asText === id) return <TextView bench={bench} close={() => setAsText("")} />;
  return (
    <OwnerOf name={bench}>
      <div className="text-toggle">
        <Act onClick={() => toSetting("job")}>figures and settings</Act>{" "}
        <Act onClick={() => setAsText(id)}>as text</Act>
      </div>
      <BegunCard bench={bench} />
      <LineList bench={bench} label={LABEL[bench]} />
      <div className={empty ? "empty" : "add"}>
        {empty && <p>{BEGIN[bench]}</p>}
        {empty && <Beginnings bench={bench} />}
        <Palette bench={bench} />
        <TypedLine bench={bench} />
      </div>
    </OwnerOf>
  );
});
