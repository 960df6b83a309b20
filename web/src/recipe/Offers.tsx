import { Divider, Menu, MenuItem } from "@mui/material";
import type { Line, PieceView } from "../api/types";
import { usePiece } from "../draft/store";
import {
  newBendLine,
  newFill,
  newFold,
  newFullEnd,
  newHem,
  newJoggle,
  newMirror,
  newNotch,
  newPress,
  newPunch,
  newRepeat,
  newRib,
  newRing,
  newRound,
  newTab,
} from "./defaults";
import { edgeSaid } from "./Pick";
import { addFocused } from "./Recipe";

/** Geometry that was clicked: what it is, where on the flat, and where on the screen. */
export interface Asked {
  what: "panel" | "bend" | "hole" | "edge" | "corner";
  name: string;
  line?: string;
  at: [number, number];
  x: number;
  y: number;
}

interface Offer {
  text: string;
  say: Line["say"];
}

/** Distances as the piece's unit writes them: to 0.5 mm or 1/16 in, where a hand pointed. */
function pointed(mm: number, inches: boolean): string {
  return inches ? String(Math.round((mm / 25.4) * 16) / 16) : String(Math.round(mm * 2) / 2);
}

/** `start-1.north` where leg b was clicked is `start-1.b.north`. */
function legEdge(asked: Asked, piece: PieceView): string {
  const [x, y] = asked.at;
  const side = asked.name.split(".").pop();
  const near = (z: PieceView["zones"][number]) => x >= z.min[0]! - 5 && x <= z.max[0]! + 5 && y >= z.min[1]! - 5 && y <= z.max[1]! + 5;
  const leg = piece.zones.find((z) => z.edges.includes(`${z.name}.${side}`) && near(z));
  return leg ? `${leg.name}.${side}` : asked.name;
}

function offers(asked: Asked, piece: PieceView): Offer[] {
  const d = piece.display;
  const short = asked.name.split(".").pop() ?? asked.name;
  switch (asked.what) {
    case "panel": {
      const zone = piece.zones.find((z) => z.name === asked.name);
      if (!zone) return [];
      const inches = d.length === "in";
      const on = piece.zones.length > 1 ? zone.name : "flat";
      // On a folded piece from the outer faces, as a drawing and a rule have it.
      const low = (on !== "flat" && zone.outside) || [zone.min[0]!, zone.min[1]!];
      const [x, y] = [pointed(asked.at[0] - low[0]!, inches), pointed(asked.at[1] - low[1]!, inches)];
      const at = { on, x, y, edge: on === "flat" ? undefined : ("outside" as const) };
      const where = `${x} from west, ${y} from south${on === "flat" ? "" : ", outer faces"}`;
      return [
        { text: `Punch a round hole here (${where})`, say: newPunch("round", d, at) },
        { text: "Punch a slot here", say: newPunch("slot", d, at) },
        { text: "Punch a rectangle here", say: newPunch("rectangle", d, at) },
        { text: "Punch a keyhole here", say: newPunch("keyhole", d, at) },
        { text: "Press a louvre here", say: newPress("louvre", d, at) },
        { text: "Press a dimple here", say: newPress("dimple", d, at) },
        { text: "Draw a collared hole here", say: newPress("collar", d, at) },
        { text: `Fill ${on === "flat" ? "the plate" : edgeSaid(on)} with holes`, say: newFill(on, d) },
        { text: "Press a bead along it", say: newRib(zone.name, d) },
      ];
    }
    case "bend": {
      const zone = piece.zones.find((z) => z.name === asked.name);
      const at = zone && {
        on: "flat",
        x: pointed((zone.min[0]! + zone.max[0]!) / 2 - piece.flat.min[0]!, d.length === "in"),
        y: pointed(asked.at[1] - piece.flat.min[1]!, d.length === "in"),
      };
      const shell = zone?.bend && zone.bend.allowance > 200;
      return [
        ...(shell ? [{ text: "Fill it with holes", say: newFill(zone.name, d) }] : [{ text: "Press a stiffening rib into it", say: newRib(asked.name, d) }]),
        { text: `Cut a slot across bend ${short}`, say: newPunch("slot", d, at) },
        { text: `Punch a round hole in bend ${short}`, say: newPunch("round", d, at) },
      ];
    }
    case "hole": {
      const of = asked.line ? [asked.line] : [];
      return [
        { text: `Repeat ${asked.line} to the east`, say: newRepeat(of, d, "east") },
        { text: `Repeat ${asked.line} to the north`, say: newRepeat(of, d, "north") },
        { text: `Set ${asked.line} in a ring`, say: newRing(of) },
        { text: `Mirror ${asked.line} west to east`, say: newMirror(of, "east") },
        { text: `Mirror ${asked.line} south to north`, say: newMirror(of, "north") },
      ];
    }
    case "edge": {
      // The side of a leg: the part of the strip's side that was clicked.
      const leg = piece.zones.length > 1 && asked.name.startsWith("start-") ? legEdge(asked, piece) : asked.name;
      return [
        { text: `Fold ${edgeSaid(leg)} up`, say: newFold([leg], d) },
        { text: `Fold ${edgeSaid(leg)} down`, say: newFold([leg], d, "down") },
        { text: `Hem ${edgeSaid(leg)}`, say: newHem([leg], d) },
        { text: `Joggle ${edgeSaid(leg)}`, say: newJoggle([leg], d) },
        { text: "Notch it here", say: newNotch(leg, d) },
        { text: "Add a tab", say: newTab(leg, d) },
        { text: "Bend along a line parallel to it", say: newBendLine(leg, d) },
        { text: "Round every sharp outer corner", say: newRound(d) },
        ...(["west", "east", "south", "north"].includes(short) ? [{ text: `Round the whole ${short} end to a half circle`, say: newFullEnd(short) }] : []),
      ];
    }
    case "corner":
      return [
        { text: `Round corner ${asked.name}`, say: newRound(d, [asked.name]) },
        { text: `Chamfer corner ${asked.name}`, say: { ...newRound(d, [asked.name]), treatment: "chamfer" } as Line["say"] },
        { text: "Round every sharp outer corner", say: newRound(d) },
      ];
  }
}

/** The lines that make sense where the click went, already filled in. */
export function Offers({ asked, view, close }: { asked: Asked | null; view: PieceView; close(): void }) {
  const { piece } = usePiece();
  if (!asked) return null;
  const goTo = () => {
    close();
    requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-line="${asked.line}"]`)?.focus());
  };
  return (
    <Menu open onClose={close} anchorReference="anchorPosition" anchorPosition={{ left: asked.x, top: asked.y }} aria-label="offered lines">
      <MenuItem disabled sx={{ opacity: "1 !important", color: "text.secondary" }}>
        {asked.name}
      </MenuItem>
      {offers(asked, view).map((o) => (
        <MenuItem
          key={o.text}
          onClick={() => {
            close();
            addFocused(o.say);
          }}
        >
          {o.text}
        </MenuItem>
      ))}
      {asked.line && piece?.lines?.some((l) => l.id === asked.line) && <Divider />}
      {asked.line && piece?.lines?.some((l) => l.id === asked.line) && <MenuItem onClick={goTo}>Go to its line, {asked.line}</MenuItem>}
    </Menu>
  );
}
