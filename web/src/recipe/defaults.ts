import type { Display, Line, Say, Shape } from "../api/types";

/** What a new line says before anybody has changed it: sizes that suit the job's unit. */
const sizes = (d: Display | undefined) =>
  d?.length === "in"
    ? { w: "10", h: "6", leg: "2", strip: "2", hole: "3/8", slot: "1", pitch: "1 1/2", round: "1/4", edge: "1" }
    : { w: "260", h: "140", leg: "50", strip: "50", hole: "9", slot: "30", pitch: "40", round: "5", edge: "20" };

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
    ? { on: at.on, x: { from: "west" as const, distance: at.x }, y: { from: "south" as const, distance: at.y } }
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

/** Ids of the lines that make cuts: what repeat and mirror may name. */
export const cutIds = (lines: Line[]): string[] => lines.filter((l) => ["punch", "repeat", "mirror"].includes(l.say.verb)).map((l) => l.id);
