import { useState } from "react";
import { type BenchName, type Doc, editDoc, writeDoc } from "../document/bench";
import { useChecked } from "../hooks/useBench";
import { Act } from "../verbs/Act";
import { OwnerOf } from "../verbs/Field";
import { LineList } from "../verbs/LineList";
import { Palette } from "../verbs/palette";
import { Sentence } from "../verbs/Sentence";
import { TextView } from "../verbs/TextView";
import { TypedLine } from "../verbs/TypedLine";

const BEGIN: Record<BenchName, string> = {
  piece: "Nothing is said yet. What does this piece start with?",
  frame:
    "Nothing is said yet. A frame starts with nodes: places where members meet. " +
    "Say one, type one, or draw with the pencil in the view.",
};

/** The lines of what is on the bench, said or as a text, and what can be added. */
export function Recipe({ bench, doc }: { bench: BenchName; doc: Doc }) {
  const faults = useChecked(bench)?.faults ?? [];
  const [asText, setAsText] = useState("");
  const lines = doc.lines ?? [];
  if (asText === doc.id) return <TextView bench={bench} doc={doc} close={() => setAsText("")} />;
  return (
    <OwnerOf doc={doc} write={(path, value, typed) => writeDoc(bench, path, value, typed)}>
      <div className="text-toggle">
        <Act onClick={() => setAsText(doc.id)}>as text</Act>
      </div>
      <LineList
        bench={bench}
        label={bench === "piece" ? "recipe" : "frame lines"}
        lines={lines}
        faults={faults}
        change={(f) =>
          editDoc(bench, "", (d) => {
            const next = f(d.lines ?? [], d.issued ?? {});
            return Array.isArray(next) ? { ...d, lines: next } : { ...d, ...next };
          })
        }
        sentence={(line) => <Sentence bench={bench} verb={(line.say as { verb: string }).verb} />}
      />
      <div className={lines.length === 0 ? "empty" : "add"}>
        {lines.length === 0 && <p>{BEGIN[bench]}</p>}
        <Palette bench={bench} />
        <TypedLine bench={bench} />
      </div>
    </OwnerOf>
  );
}
