import type { BenderTable as Table } from "../api/types";

/** A bent bar as its bender wants it: a row a bend, and the corners of its middle line. */
export function BenderTable({ of, mark, unit }: { of: Table; mark: string; unit: string }) {
  return (
    <div className="bender">
      <table aria-label={`bends of ${mark}`}>
        <thead>
          <tr>
            <th>bend</th>
            <th className="num">straight {unit}</th>
            <th className="num" title="from the bend before, clockwise seen along the bar">
              turn
            </th>
            <th className="num">angle</th>
            <th className="num">radius</th>
            <th className="num" title="where the bend begins, on the straight bar">
              mark at
            </th>
          </tr>
        </thead>
        <tbody>
          {of.steps.map((s, i) => (
            <tr key={i}>
              <td>{i + 1}</td>
              <td className="num">{s.straight}</td>
              <td className="num">{s.turn || "–"}</td>
              <td className="num">{s.angle}</td>
              <td className="num">{s.radius}</td>
              <td className="num">{s.mark}</td>
            </tr>
          ))}
          <tr>
            <td>end</td>
            <td className="num">{of.tail}</td>
            <td colSpan={4} />
          </tr>
        </tbody>
      </table>
      <table aria-label={`corners of ${mark}`}>
        <thead>
          <tr>
            <th className="num" title="along the start of the bar">
              x
            </th>
            <th className="num" title="to the side of its first bend">
              y
            </th>
            <th className="num">z</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {of.corners.map((c, i) => (
            <tr key={i}>
              <td className="num">{c.x}</td>
              <td className="num">{c.y}</td>
              <td className="num">{c.z}</td>
              <td>{c.what}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p>{of.notes.join("; ")}.</p>
    </div>
  );
}
