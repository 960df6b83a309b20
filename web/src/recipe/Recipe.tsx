import { editPiece, useDraft, usePiece, writePiece } from "../draft/store";
import { Palette } from "../verbs/palette";
import { Sentence } from "../verbs/Sentence";
import { TypedLine } from "../verbs/TypedLine";
import { OwnerOf } from "./Field";
import { LineList } from "./LineList";

/** The recipe of the piece on the bench. */
export function Recipe() {
  const { piece, index } = usePiece();
  const result = useDraft((d) => d.result?.piece);
  if (!piece || index < 0) return null;
  const lines = piece.lines ?? [];
  return (
    <OwnerOf doc={piece} write={writePiece}>
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
