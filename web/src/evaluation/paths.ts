/** A loop of `[x, y, bulge]` as SVG path data in flat coordinates (y up: the caller flips). */
export function loopPath(points: number[][]): string {
  const n = points.length;
  if (n === 0) return "";
  let d = `M${points[0]![0]} ${points[0]![1]}`;
  for (let i = 0; i < n; i++) d += segmentPath(points[i]!, points[(i + 1) % n]!);
  return `${d}Z`;
}

/** A loop from its first point on, without the point itself: `M x y` before it puts it anywhere. */
export function relativePath(points: number[][]): string {
  let d = "";
  for (let i = 0; i < points.length; i++) {
    const [a, b] = [points[i]!, points[(i + 1) % points.length]!];
    const step = [a, b].map((p) => [p[0]! - a[0]!, p[1]! - a[1]!, p[2]!]);
    d += segmentPath(step[0]!, step[1]!).replace(/^L/, "l").replace(/^A/, "a");
  }
  return `${d}z`;
}

/** The line or arc from one vertex to the next. */
export function segmentPath(a: number[], b: number[]): string {
  const bulge = a[2] ?? 0;
  if (Math.abs(bulge) < 1e-9) return `L${b[0]} ${b[1]}`;
  const chord = Math.hypot(b[0]! - a[0]!, b[1]! - a[1]!);
  const r = (chord * (1 + bulge * bulge)) / (4 * Math.abs(bulge));
  return `A${r} ${r} 0 ${Math.abs(bulge) > 1 ? 1 : 0} ${bulge > 0 ? 1 : 0} ${b[0]} ${b[1]}`;
}
