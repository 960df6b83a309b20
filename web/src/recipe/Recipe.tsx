import { Button } from "@mui/material";
import { flushSync } from "react-dom";
import type { Line, Piece } from "../api/types";
import { addLine, editPiece, useDraft, usePiece } from "../draft/store";
import * as said from "./defaults";
import { cutIds } from "./defaults";
import { LineList } from "./LineList";
import { useEdges, useZones } from "./Pick";
import { Sentence } from "./Sentence";
import { ShortText } from "./ShortText";

/** The recipe of the piece on the bench. */
export function Recipe() {
  const { piece, index } = usePiece();
  const result = useDraft((d) => d.result?.piece);
  if (!piece || index < 0) return null;
  const lines = piece.lines ?? [];
  return (
    <>
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
        sentence={(line, at) => <Sentence line={line} piece={piece} at={at} />}
      />
      {lines.length === 0 && <Empty piece={piece} />}
      {lines.length > 0 && <AddBar piece={piece} />}
    </>
  );
}

function Empty({ piece }: { piece: Piece }) {
  const start = (say: Line["say"]) => addLine(say);
  return (
    <div className="empty">
      <p>Nothing is said yet. What does this piece start with?</p>
      <div className="starts">
        {verbs(piece).map((v) => (
          <Button key={v.key} variant="outlined" onClick={() => start(v.say())}>
            Start with a {v.name === "strip" ? "bent strip" : v.name} <kbd>{v.key.toUpperCase()}</kbd>
          </Button>
        ))}
      </div>
      <ShortText lines={[]} />
    </div>
  );
}

interface Verb {
  key: string;
  name: string;
  say: () => Line["say"];
  start?: boolean;
}

/** The verbs that can follow, one key each. `edge` is the first edge that stands free, `bend` the first bend. */
export function verbs(piece: Piece, edge = "", bend = ""): Verb[] {
  const d = piece.display ?? undefined;
  const lines = piece.lines ?? [];
  if (lines.length === 0)
    return [
      { key: "p", name: "plate", say: () => said.newPlate(d), start: true },
      { key: "s", name: "strip", say: () => said.newStrip(d), start: true },
      { key: "c", name: "channel", say: () => said.newChannel(d), start: true },
      { key: "t", name: "tray", say: () => said.newTray(d), start: true },
      { key: "o", name: "rolled shell", say: () => said.newRolled(d), start: true },
      { key: "n", name: "cone", say: () => said.newCone(d), start: true },
    ];
  const last = cutIds(lines).slice(-1);
  return [
    { key: "f", name: "fold", say: () => said.newFold(edge ? [edge] : [], d) },
    { key: "c", name: "corners", say: said.newCorner },
    { key: "n", name: "bend line", say: () => said.newBendLine(edge, d) },
    { key: "x", name: "hem", say: () => said.newHem(edge ? [edge] : [], d) },
    { key: "j", name: "joggle", say: () => said.newJoggle(edge ? [edge] : [], d) },
    { key: "t", name: "tab", say: () => said.newTab(edge, d) },
    { key: "v", name: "notch", say: () => said.newNotch(edge, d) },
    { key: "h", name: "hole", say: () => said.newPunch("round", d) },
    { key: "l", name: "slot", say: () => said.newPunch("slot", d) },
    { key: "b", name: "rectangle", say: () => said.newPunch("rectangle", d) },
    { key: "k", name: "keyhole", say: () => said.newPunch("keyhole", d) },
    { key: "g", name: "fill", say: () => said.newFill("flat", d) },
    { key: "i", name: "rib", say: () => said.newRib(bend, d) },
    { key: "u", name: "louvre", say: () => said.newPress("louvre", d) },
    { key: "r", name: "round", say: () => said.newRound(d) },
    { key: "e", name: "repeat", say: () => said.newRepeat(last, d) },
    { key: "w", name: "ring", say: () => said.newRing(last) },
    { key: "y", name: "path", say: () => said.newPath(last, d) },
    { key: "m", name: "mirror", say: () => said.newMirror(last) },
  ];
}

/** First edge and bend of the piece as it stands, for lines that need one. */
export function useFirst(): { edge: string; bend: string } {
  const edges = useEdges();
  const bends = useZones("bend");
  return { edge: edges[0] ?? "", bend: bends[0]?.[0] ?? "" };
}

function AddBar({ piece }: { piece: Piece }) {
  const { edge, bend } = useFirst();
  return (
    <div className="add">
      <div className="verbs">
        {verbs(piece, edge, bend).map((v) => (
          <Button key={v.key} onClick={() => addFocused(v.say())}>
            {v.name} <kbd>{v.key.toUpperCase()}</kbd>
          </Button>
        ))}
      </div>
      <ShortText lines={piece.lines ?? []} />
    </div>
  );
}

/** Adds a line and puts the keyboard into its first value. */
export function addFocused(say: Line["say"]): void {
  // Drawn at once: a later focus would steal what is being typed by then.
  flushSync(() => addLine(say));
  const { picked } = useDraft.getState();
  document.querySelector<HTMLElement>(`[data-line="${picked}"] .val`)?.focus();
}
