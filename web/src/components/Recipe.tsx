import { useState } from "react";
import { editPiece, writePiece } from "../document/draft";
import { useDraft, usePiece } from "../hooks/useDraft";
import { OwnerOf } from "../verbs/Field";
import { LineList } from "../verbs/LineList";
import { Palette } from "../verbs/palette";
import { Sentence } from "../verbs/Sentence";
import { TextView } from "../verbs/TextView";
import { TypedLine } from "../verbs/TypedLine";

/** The recipe of the piece on the bench. */
export function Recipe() {
  const { piece, index } = usePiece();
  const result = useDraft((d) => d.result?.piece);
  const [asText, setAsText] = useState("");
  if (!piece || index < 0) return null;
  const lines = piece.lines ?? [];
  if (asText === piece.id) return <TextView bench="piece" doc={piece} close={() => setAsText("")} />;
  return (
    <OwnerOf doc={piece} write={writePiece}>
      <div className="text-toggle">
        <button type="button" className="chip" onClick={() => setAsText(piece.id)}>
          as text
        </button>
      </div>
      <LineList
        label="recipe"
        lines={lines}
        faults={result?.id === piece.id ? result.faults : []}
        change={(f) =>
          editPiece("", (p) => {
            const next = f(p.lines ?? [], p.issued ?? {});
            return Array.isArray(next) ? { ...p, lines: next } : { ...p, ...next };
          })
        }
        sentence={(line) => <Sentence bench="piece" verb={line.say.verb} />}
      />
      <div className={lines.length === 0 ? "empty" : "add"}>
        {lines.length === 0 && <p>Nothing is said yet. What does this piece start with?</p>}
        <Palette bench="piece" />
        <TypedLine bench="piece" />
      </div>
    </OwnerOf>
  );
}
