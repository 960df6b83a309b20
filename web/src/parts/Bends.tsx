import { Button } from "@mui/material";
import { useState } from "react";
import type { PieceView } from "../api/types";
import { useDraft, writePiece } from "../draft/store";

/** The bend sheet: each bend in its turn, a section through the picked one, and what every school says of it. */
export function Bends({ piece }: { piece: PieceView }) {
  const { setHover } = useDraft.getState();
  const [picked, setPicked] = useState("");
  const rows = piece.bend_rows;
  const rolled = piece.flat.bends.filter((b) => b.rolled);
  const row = rows.find((r) => r.name === picked) ?? rows[0];
  const name = row?.name ?? rolled[0]?.name;
  const section = piece.sections[piece.flat.bends.findIndex((b) => b.name === name)];
  const names = rows.map((r) => r.name);
  const byHand = useDraft((d) => (d.job?.pieces?.find((p) => p.id === piece.id)?.bend_order ?? []).length > 0);
  const move = (i: number, by: number) => {
    const next = [...names];
    const [one] = next.splice(i, 1);
    next.splice(i + by, 0, one!);
    writePiece("/bend_order", next);
  };
  if (!name) return <p className="empty">This piece has no bend.</p>;
  return (
    <div className="bends">
      <div className="bend-table">
        <table aria-label="bend sheet">
          <thead>
            <tr>
              <th />
              <th>bend</th>
              <th>turn</th>
              <th className="num">R</th>
              <th className="num">V</th>
              <th className="num">gauge</th>
              <th className="num">measures</th>
              <th className="num">force</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.map((r, i) => (
              <tr
                key={r.name}
                aria-selected={r.name === row?.name}
                onPointerEnter={() => setHover({ names: [r.name] })}
                onPointerLeave={() => setHover({ names: [] })}
                onClick={() => setPicked(r.name)}
              >
                <td className="num">{r.order}</td>
                <td>
                  <button type="button" className="chip" onClick={() => setPicked(r.name)}>
                    {r.label}
                  </button>
                </td>
                <td>{`${r.up ? "up" : "down"} ${r.angle_text}`}</td>
                <td className="num">{r.radius}</td>
                <td className="num">{r.die}</td>
                <td className="num">{r.gauge}</td>
                <td className="num">{r.check}</td>
                <td className="num" title={r.force_per_metre}>
                  {r.force}
                </td>
                <td className="moves">
                  <button type="button" aria-label={`${r.label} earlier`} disabled={i === 0} onClick={() => move(i, -1)}>
                    ↑
                  </button>
                  <button type="button" aria-label={`${r.label} later`} disabled={i === rows.length - 1} onClick={() => move(i, 1)}>
                    ↓
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {byHand && <Button onClick={() => writePiece("/bend_order", undefined)}>order as proposed</Button>}
        <p className="hint">
          {row
            ? `Back gauge from the middle of the bend to the stop; “measures” is the outside length after bending. Force by common practice: the brake's own plate comes first. Mind hands at punch and gauge.`
            : "Rolled, not bent at the brake."}
        </p>
      </div>
      <article className="bend-one" aria-label={`bend ${row?.label ?? name}`}>
        {section && <img alt={`section through ${row?.label ?? name}`} src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(section)}`} />}
        {row && (
          <>
            <p className={row.strikes.length ? "fault" : "why"}>{row.strikes[0] ?? row.reason}</p>
            <table className="schools" aria-label="schools compared">
              <thead>
                <tr>
                  <th>school</th>
                  <th className="num">BA</th>
                  <th className="num">BD</th>
                  <th className="num">K</th>
                  <th className="num">flat</th>
                </tr>
              </thead>
              <tbody>
                {row.schools.map((s) => (
                  <tr key={s.school} className={s.used ? "used" : ""} title={s.note}>
                    <td>{s.used ? `▸ ${s.name}` : s.name}</td>
                    {s.allowance ? (
                      <>
                        <td className="num">{s.allowance}</td>
                        <td className="num">{s.deduction}</td>
                        <td className="num">{s.k}</td>
                        <td className="num">{s.change}</td>
                      </>
                    ) : (
                      <td colSpan={4} className="hint">
                        {s.note}
                      </td>
                    )}
                  </tr>
                ))}
              </tbody>
            </table>
            <p className="hint">
              Air bending over V {row.die} forms about R{row.air_radius}; shortest flange {row.shortest}; bend {row.length} long, {row.force_per_metre}.
            </p>
          </>
        )}
      </article>
    </div>
  );
}
