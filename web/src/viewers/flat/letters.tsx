/** Letters of a contour's sides, inside beside the middle of each. */

/** How far inside they stand, in pixels. */
const INSIDE = 11;

interface Props {
  /** `[x, y, bulge]`, counter-clockwise. */
  loop: number[][];
  /** Name of the side that leaves each point. */
  sides: string[];
  px(p: number[]): [number, number];
}

export function SideLetters({ loop, sides, px }: Props) {
  const seen = new Set<string>();
  return (
    <g className="side-letters">
      {loop.map((p, i) => {
        const name = sides[i]?.split(".").pop() ?? "";
        if (seen.has(name) || name.includes("corner-")) return null;
        seen.add(name);
        const q = loop[(i + 1) % loop.length]!;
        const [dx, dy] = [q[0]! - p[0]!, q[1]! - p[1]!];
        const bulge = p[2] ?? 0;
        // The middle of an arc stands off its chord by half of it times the bulge.
        const at = [(p[0]! + q[0]!) / 2 + (dy * bulge) / 2, (p[1]! + q[1]!) / 2 - (dx * bulge) / 2];
        const length = Math.hypot(dx, dy) || 1;
        const [x, y] = px(at);
        return (
          <text key={name} x={x - (dy / length) * INSIDE} y={y - (dx / length) * INSIDE}>
            {name}
          </text>
        );
      })}
    </g>
  );
}
