import { Divider, Menu, MenuItem } from "@mui/material";
import type { PieceView } from "../api/types";
import { usePiece } from "../hooks/useDraft";
import { edgeSaid } from "./names";
import { addFocused } from "./palette";
import { type Fill, filled, stemOfSay, useVerbs, type VerbView } from "./useVerbs";

/** Geometry that was clicked: what it is, where on the flat, and where on the screen. */
export interface Asked {
  what: "panel" | "bend" | "hole" | "edge" | "corner";
  name: string;
  line?: string;
  at: [number, number];
  x: number;
  y: number;
}

/** Distances as the piece's unit writes them: to 0.5 mm or 1/16 in, where a hand pointed. */
function pointed(mm: number, inches: boolean): string {
  return inches ? String(Math.round((mm / 25.4) * 16) / 16) : String(Math.round(mm * 2) / 2);
}

/** `start-1.north` where leg b was clicked is `start-1.b.north`. */
function legEdge(asked: Asked, piece: PieceView): string {
  const [x, y] = asked.at;
  const side = asked.name.split(".").pop();
  const near = (z: PieceView["zones"][number]) =>
    x >= z.min[0]! - 5 && x <= z.max[0]! + 5 && y >= z.min[1]! - 5 && y <= z.max[1]! + 5;
  const leg = piece.zones.find((z) => z.edges.includes(`${z.name}.${side}`) && near(z));
  return leg ? `${leg.name}.${side}` : asked.name;
}

/**
 * What the click was on, in the words that verbs offer themselves by, and what stands for their `$` names.
 */
function clicked(
  asked: Asked,
  piece: PieceView,
): { on: string[]; fill: Fill; name: string; short: string } {
  const inches = piece.display.length === "in";
  const short = asked.name.split(".").pop() ?? asked.name;
  const zone = piece.zones.find((z) => z.name === asked.name);
  const place = (on: string, low: number[], edge?: "outside") => ({
    on,
    x: { from: "west", distance: pointed(asked.at[0] - low[0]!, inches), edge },
    y: { from: "south", distance: pointed(asked.at[1] - low[1]!, inches), edge },
  });
  switch (asked.what) {
    case "panel": {
      const on = piece.zones.length > 1 && zone ? zone.name : "flat";
      // On a folded piece from the outer faces, as a drawing and a rule have it.
      const outer = on !== "flat" ? zone?.outside : undefined;
      const low = outer ?? zone?.min ?? [0, 0];
      return {
        on: ["panel", "zone"],
        fill: { this: asked.name, on, place: place(on, low, outer ? "outside" : undefined) },
        name: asked.name,
        short,
      };
    }
    case "bend": {
      const shell = zone?.carries;
      const middle = zone ? (zone.min[0]! + zone.max[0]!) / 2 : asked.at[0];
      const at = place("flat", piece.flat.min);
      const x = { from: "west", distance: pointed(middle - piece.flat.min[0]!, inches) };
      return {
        on: ["bend", shell ? "shell" : "fold"],
        fill: { this: asked.name, place: { ...at, x } },
        name: asked.name,
        short,
      };
    }
    case "hole":
      return {
        on: ["hole"],
        fill: { this: asked.line ?? "" },
        name: asked.line ?? "",
        short: asked.line ?? "",
      };
    case "edge": {
      // The side of a leg: the part of the strip's side that was clicked.
      const leg =
        piece.zones.length > 1 && asked.name.startsWith("start-") ? legEdge(asked, piece) : asked.name;
      const end = ["west", "east", "south", "north"].includes(short);
      return { on: ["edge", ...(end ? ["end"] : [])], fill: { this: leg }, name: edgeSaid(leg), short };
    }
    case "corner":
      return { on: ["corner"], fill: { this: asked.name }, name: asked.name, short: asked.name };
  }
}

function offers(asked: Asked, piece: PieceView, verbs: VerbView[]) {
  const { on, fill, name, short } = clicked(asked, piece);
  const inch = piece.display.length === "in";
  return verbs.flatMap((v) =>
    v.offers
      .filter((o) => on.includes(o.on))
      .map((o) => {
        const say = filled(inch ? o.inch : o.mm, o.on === "end" ? { ...fill, this: short } : fill);
        return {
          text: o.words.replace("{}", o.on === "bend" || o.on === "end" ? short : name),
          say,
          stem: stemOfSay(verbs, say),
          start: false,
        };
      }),
  );
}

/** Where on a panel the click went, as a line tells it. */
function where(asked: Asked, piece: PieceView): string {
  if (asked.what !== "panel") return "";
  const { x, y } = clicked(asked, piece).fill.place as {
    x: { distance: string };
    y: { distance: string };
  };
  return ` · ${x.distance} from west, ${y.distance} from south`;
}

/** The lines that make sense where the click went, already filled in. */
export function Offers({ asked, view, close }: { asked: Asked | null; view: PieceView; close(): void }) {
  const piece = usePiece();
  const verbs = useVerbs()?.piece;
  if (!asked || !verbs) return null;
  const goTo = () => {
    close();
    requestAnimationFrame(() =>
      document.querySelector<HTMLElement>(`[data-line="${asked.line}"]`)?.focus(),
    );
  };
  const own = asked.line && piece?.lines?.some((l) => l.id === asked.line);
  return (
    <Menu
      open
      onClose={close}
      anchorReference="anchorPosition"
      anchorPosition={{ left: asked.x, top: asked.y }}
      aria-label="offered lines"
    >
      <MenuItem disabled sx={{ opacity: "1 !important", color: "text.secondary" }}>
        {asked.name}
        {where(asked, view)}
      </MenuItem>
      {offers(asked, view, verbs).map((o) => (
        <MenuItem
          key={o.text}
          onClick={() => {
            close();
            addFocused("piece", o);
          }}
        >
          {o.text}
        </MenuItem>
      ))}
      {own && <Divider />}
      {own && <MenuItem onClick={goTo}>Go to its line, {asked.line}</MenuItem>}
    </Menu>
  );
}
