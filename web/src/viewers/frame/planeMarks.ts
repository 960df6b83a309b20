/** What stands on the working plane beside its grid: the axes by name, and a scale in the frame's unit. */

import type { FrameView } from "../../api/types";

export interface PlaneMark {
  words: string;
  at: [number, number, number];
  axis: boolean;
}

export const AXES = ["east", "north", "up"] as const;
const BACK = ["west", "south", "down"] as const;

/** A place as it can be typed: `600 west, 450 up`. */
export function placeSaid(at: readonly number[], inch: boolean): string {
  return at
    .map((mm, k) => {
      const v = Number((mm / (inch ? 25.4 : 1)).toFixed(inch ? 3 : 1));
      return `${Math.abs(v)} ${v < 0 ? BACK[k] : AXES[k]}`;
    })
    .join(", ");
}

/** How far the axes go from zero, mm: somewhat further than what stands there. */
export function reachOf(frame: Pick<FrameView, "nodes">): number {
  return 1.2 * Math.max(1000, ...frame.nodes.flatMap((n) => n.at.map(Math.abs)));
}

/** 1, 2 or 5 with noughts: so that a length is parted into three to seven. */
export function paceOf(length: number): number {
  const ten = 10 ** Math.floor(Math.log10(length / 3));
  const by = [5, 2, 1].find((k) => length / (k * ten) >= 3) ?? 1;
  return by * ten;
}

/** Names and numbers along the two axes of a plane that is square to `across` at `level`, mm. */
export function planeMarks(across: number, level: number, reach: number, inch: boolean): PlaneMark[] {
  const unit = inch ? 25.4 : 1;
  const pace = paceOf(reach / unit);
  const out: PlaneMark[] = [];
  for (const axis of [0, 1, 2].filter((k) => k !== across)) {
    const place = (v: number) => {
      const at: [number, number, number] = [0, 0, 0];
      at[across] = level;
      at[axis] = v;
      return at;
    };
    for (let k = 1; k * pace * unit < reach * 0.97; k++)
      out.push({ words: String(Number((k * pace).toFixed(6))), at: place(k * pace * unit), axis: false });
    out.push({ words: `${AXES[axis]}${inch ? ", in" : ", mm"}`, at: place(reach), axis: true });
  }
  return out;
}
