import { Button, Tooltip } from "@mui/material";
import { useRef } from "react";
import { flushSync } from "react-dom";
import type { Line, LineFault, Piece } from "../api/types";
import { addLine, editPiece, freshId, useDraft, usePiece } from "../draft/store";
import { FaultNote } from "../parts/Fault";
import * as said from "./defaults";
import { cutIds } from "./defaults";
import { Fields } from "./Field";
import { useEdges, useZones } from "./Pick";
import { Sentence } from "./Sentence";
import { ShortText } from "./ShortText";

/** Moves, switches, copies or takes out the line with this id. */
function changeLines(id: string, change: (lines: Line[], i: number) => Line[]): void {
  editPiece("", (piece) => {
    const lines = piece.lines ?? [];
    const i = lines.findIndex((l) => l.id === id);
    return i < 0 ? piece : { ...piece, lines: change(lines, i) };
  });
}

const move = (id: string, by: number) =>
  changeLines(id, (lines, i) => {
    const to = i + by;
    if (to < 0 || to >= lines.length) return lines;
    const out = [...lines];
    [out[i], out[to]] = [out[to]!, out[i]!];
    return out;
  });

const toggle = (id: string) => changeLines(id, (lines, i) => lines.map((l, k) => (k === i ? { id: l.id, say: l.say, ...(l.off ? {} : { off: true }) } : l)));

const remove = (id: string) => changeLines(id, (lines, i) => lines.filter((_, k) => k !== i));

const copy = (id: string) =>
  changeLines(id, (lines, i) => {
    const from = lines[i]!;
    const stem = from.id.replace(/-\d+$/, "");
    const twin = {
      ...from,
      id: freshId(
        stem,
        lines.map((l) => l.id),
      ),
    };
    return [...lines.slice(0, i + 1), twin, ...lines.slice(i + 1)];
  });

/** The recipe of the piece on the bench. */
export function Recipe() {
  const { piece, index } = usePiece();
  const result = useDraft((d) => d.result?.piece);
  const list = useRef<HTMLOListElement>(null);
  if (!piece || index < 0) return null;
  const lines = piece.lines ?? [];
  const faults = result?.id === piece.id ? result.faults : [];
  const focus = (i: number) => (list.current?.children[i] as HTMLElement | undefined)?.focus();
  return (
    <>
      <ol className="recipe" ref={list} aria-label="recipe">
        {lines.map((line, i) => (
          <RecipeLine key={line.id} line={line} piece={piece} i={i} faults={faults.filter((f) => f.line === line.id)} focus={focus} />
        ))}
      </ol>
      {lines.length === 0 && <Empty piece={piece} />}
      {lines.length > 0 && <AddBar piece={piece} />}
    </>
  );
}

interface LineProps {
  line: Line;
  piece: Piece;
  i: number;
  faults: LineFault[];
  focus(i: number): void;
}

function RecipeLine({ line, piece, i, faults, focus }: LineProps) {
  const lit = useDraft((d) => d.hover.line === line.id);
  const picked = useDraft((d) => d.picked === line.id);
  const { setHover, pick } = useDraft.getState();
  const keys = (e: React.KeyboardEvent<HTMLLIElement>) => {
    const inField = e.target !== e.currentTarget;
    if (inField) {
      if (e.key === "Escape" || e.key === "Enter") e.currentTarget.focus();
      return;
    }
    const act: Record<string, () => void> = {
      ArrowUp: () => (e.altKey ? move(line.id, -1) : focus(i - 1)),
      ArrowDown: () => (e.altKey ? move(line.id, 1) : focus(i + 1)),
      Delete: () => {
        remove(line.id);
        focus(Math.max(i - 1, 0));
      },
      " ": () => toggle(line.id),
      Enter: () => e.currentTarget.querySelector<HTMLElement>("input, select")?.focus(),
      d: () => copy(line.id),
    };
    const run = act[e.key];
    if (run && !e.ctrlKey && !e.metaKey) {
      e.preventDefault();
      e.stopPropagation();
      run();
    }
  };
  return (
    <li
      tabIndex={0}
      className={`line${lit ? " lit" : ""}${picked ? " picked" : ""}${line.off ? " off" : ""}${faults.length ? " faulty" : ""}`}
      data-line={line.id}
      onFocus={() => pick(line.id)}
      onPointerEnter={() => setHover({ line: line.id, names: [] })}
      onPointerLeave={() => setHover({ names: [] })}
      onKeyDown={keys}
    >
      <div className="say">
        <Fields at={`/lines/${i}`} faults={faults}>
          <Sentence line={line} piece={piece} at={`/lines/${i}`} />
        </Fields>
      </div>
      <span className="line-id">{line.id}</span>
      <span className="line-acts">
        <Act title="move up (Alt ↑)" label={`move ${line.id} up`} run={() => move(line.id, -1)} sign="↑" />
        <Act title="move down (Alt ↓)" label={`move ${line.id} down`} run={() => move(line.id, 1)} sign="↓" />
        <Act
          title={line.off ? "switch on (space)" : "switch off (space)"}
          label={`switch ${line.id} ${line.off ? "on" : "off"}`}
          run={() => toggle(line.id)}
          sign={line.off ? "on" : "off"}
        />
        <Act title="copy (D)" label={`copy ${line.id}`} run={() => copy(line.id)} sign="copy" />
        <Act title="take out (Delete)" label={`take out ${line.id}`} run={() => remove(line.id)} sign="×" />
      </span>
      {faults.map((f, k) => (
        <FaultNote key={k} fault={f} at={`/lines/${i}`} />
      ))}
    </li>
  );
}

function Act({ title, label, run, sign }: { title: string; label: string; run(): void; sign: string }) {
  return (
    <Tooltip title={title}>
      <button type="button" tabIndex={-1} aria-label={label} onClick={run}>
        {sign}
      </button>
    </Tooltip>
  );
}

function Empty({ piece }: { piece: Piece }) {
  const start = (say: Line["say"]) => editPiece("", (p) => ({ ...p, lines: [{ id: "start-1", say }] }));
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
      <ShortText known={[]} />
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
      <ShortText known={cutIds(piece.lines ?? [])} />
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
