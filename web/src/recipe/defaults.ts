import type { Display, Line, Say, Shape } from "../api/types";

/** What a new line says before anybody has changed it: sizes that suit the job's unit. */
const sizes = (d: Display | undefined) =>
  d?.length === "in"
    ? { w: "10", h: "6", leg: "2", strip: "2", hole: "3/8", slot: "1", pitch: "1 1/2", round: "1/4", edge: "1", lip: "1/2", small: "1/8" }
    : { w: "260", h: "140", leg: "50", strip: "50", hole: "9", slot: "30", pitch: "40", round: "5", edge: "20", lip: "12", small: "3" };

export const newPlate = (d?: Display): Say => ({ verb: "start_plate", width: sizes(d).w, height: sizes(d).h });

export const newStrip = (d?: Display): Say => ({
  verb: "start_strip",
  width: sizes(d).strip,
  side: "symmetric",
  measure: "outside",
  profile: [
    { kind: "leg", id: "a", length: sizes(d).leg },
    { kind: "bend", id: "1", angle: "90", direction: "up" },
    { kind: "leg", id: "b", length: sizes(d).leg },
  ],
});

/** Where on the flat or a panel: centre distances, unless a point was clicked. */
export interface Spotted {
  on: string;
  x: string;
  y: string;
  /** Measured from the outer faces round the panel. */
  edge?: "outside";
}

export function newShape(kind: Shape["kind"], d?: Display): Shape {
  const s = sizes(d);
  switch (kind) {
    case "round":
      return { kind, diameter: s.hole };
    case "square":
      return { kind, side: s.hole };
    case "rectangle":
      return { kind, width: s.slot, height: s.hole };
    case "slot":
      return { kind, length: s.slot, width: s.hole, measure: "overall" };
    case "triangle":
      return { kind, base: s.slot, height: s.slot };
    case "polygon":
      return { kind, sides: "6", across: s.hole };
    case "keyhole":
      return { kind, entry: s.edge, slot: s.hole, length: s.edge };
    case "d":
      return { kind, diameter: s.edge, across: d?.length === "in" ? "7/8" : "17" };
    default:
      return {
        kind: "outline",
        points: [
          { x: "0", y: "0" },
          { x: s.slot, y: "0" },
          { x: s.slot, y: s.slot },
        ],
      };
  }
}

export function newPunch(kind: Shape["kind"], d?: Display, at?: Spotted): Say {
  const place = at
    ? {
        on: at.on,
        x: { from: "west" as const, distance: at.x, edge: at.edge },
        y: { from: "south" as const, distance: at.y, edge: at.edge },
      }
    : { on: "flat", x: { from: "centre" as const, distance: "" }, y: { from: "centre" as const, distance: "" } };
  return { verb: "punch", shape: newShape(kind, d), place };
}

export const newRound = (d?: Display, corners: string[] = []): Say => ({
  verb: "round",
  treatment: "radius",
  size: sizes(d).round,
  corners,
});

export const newFullEnd = (edge: string): Say => ({ verb: "round", treatment: "full_end", corners: [edge] });

export const newRepeat = (of: string[], d?: Display, axis: "east" | "north" = "east"): Say => ({
  verb: "repeat",
  of,
  axis,
  spacing: { by: "pitch", count: "3", pitch: sizes(d).pitch },
});

export const newMirror = (of: string[], axis: "east" | "north" = "east"): Say => ({ verb: "mirror", of, axis, about: "flat" });

export const newChannel = (d?: Display): Say => ({ verb: "start_channel", length: sizes(d).w, web: sizes(d).h, side: sizes(d).leg, lip: sizes(d).lip });

export const newTray = (d?: Display): Say => ({ verb: "start_tray", width: sizes(d).w, depth: sizes(d).h, height: sizes(d).leg });

export const newRolled = (d?: Display): Say => ({
  verb: "start_rolled",
  length: sizes(d).h,
  diameter: sizes(d).w,
  angle: "360",
  seam: "gap",
  seam_size: sizes(d).small,
});

export const newCone = (d?: Display): Say => ({ verb: "start_cone", wide: sizes(d).w, narrow: sizes(d).h, height: sizes(d).w });

export const newFold = (edges: string[], d?: Display, direction: "up" | "down" = "up"): Say => ({
  verb: "fold",
  edges,
  angle: "90",
  direction,
  reach: { to: "length", length: sizes(d).pitch },
});

export const newCorner = (): Say => ({ verb: "corner", close: "edge", relief: "round" });

export const newBendLine = (edge: string, d?: Display, distance = sizes(d).leg): Say => ({ verb: "bend_line", edge, distance, angle: "90", direction: "up" });

export const newHem = (edges: string[], d?: Display): Say => ({ verb: "hem", edges, hem: { kind: "closed", length: sizes(d).lip } });

export const newJoggle = (edges: string[], d?: Display): Say => ({
  verb: "joggle",
  edges,
  height: d?.length === "in" ? "1/4" : "6",
  run: d?.length === "in" ? "3/4" : "20",
  length: sizes(d).edge,
});

export const newTab = (edge: string, d?: Display): Say => ({ verb: "tab", edge, width: sizes(d).slot, length: sizes(d).lip });

export const newNotch = (edge: string, d?: Display): Say => ({ verb: "notch", edge, shape: { kind: "square", width: sizes(d).edge, depth: sizes(d).lip } });

export const newFill = (on: string, d?: Display): Say => ({
  verb: "fill",
  on,
  shape: { kind: "square", side: d?.length === "in" ? "1/4" : "6" },
  pitch: d?.length === "in" ? "1/2" : "12",
  margin: sizes(d).edge,
});

export const newRib = (on: string, d?: Display): Say => ({
  verb: "rib",
  on,
  depth: d?.length === "in" ? "5/8" : "15",
  width: sizes(d).hole,
  offset: sizes(d).slot,
  length: sizes(d).leg,
});

export function newPress(kind: "louvre" | "dimple" | "collar", d?: Display, at?: Spotted): Say {
  const inches = d?.length === "in";
  const shape =
    kind === "louvre"
      ? { kind, length: inches ? "2" : "50", width: inches ? "1/2" : "12", height: inches ? "3/16" : "5" }
      : kind === "collar"
        ? { kind, diameter: sizes(d).edge, height: inches ? "1/4" : "5" }
        : { kind, diameter: sizes(d).lip, depth: inches ? "1/16" : "2" };
  const punched = newPunch("round", d, at);
  return {
    verb: "press",
    shape,
    place: punched.verb === "punch" ? punched.place : { on: "flat", x: { from: "centre", distance: "" }, y: { from: "centre", distance: "" } },
  };
}

export const newRing = (of: string[]): Say => ({
  verb: "ring",
  of,
  count: "6",
  centre: { on: "flat", x: { from: "centre", distance: "" }, y: { from: "centre", distance: "" } },
});

export const newPath = (of: string[], d?: Display): Say => ({ verb: "path", of, count: "4", points: [{ x: sizes(d).pitch, y: sizes(d).edge }] });

const CUTS = ["notch", "punch", "fill", "rib", "press", "repeat", "ring", "path", "mirror"];

/** Ids of the lines that make cuts: what repeat and mirror may name. */
export const cutIds = (lines: Line[]): string[] => lines.filter((l) => CUTS.includes(l.say.verb)).map((l) => l.id);
