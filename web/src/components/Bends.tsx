import { Button, LinearProgress } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { said } from "../api/client";
import { heardFrom } from "../api/lines";
import type { OrderLine, PieceView } from "../api/types";
import { writeDoc } from "../document/bench";
import { draft } from "../document/draft";
import { useBendPictures } from "../hooks/useBendPictures";
import { useBook } from "../hooks/useBook";
import { useDraft } from "../hooks/useDraft";
import { Act } from "../verbs/Act";

type Row = PieceView["bend_rows"][number];

/** An SVG of the server's as a picture. */
function Picture({ of, alt }: { of: string; alt: string }) {
  return <img alt={alt} src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(of)}`} />;
}

/** What hands do for one bend, in the order that they do it. */
function Step({ row }: { row: Row }) {
  return (
    <ol className="step" aria-label={`how ${row.label} is made`}>
      <li>
        {row.turned}; <b>{row.at_stop}</b> at the stop, <b>{row.gauge}</b> from the middle of the bend
        {row.gauge_note && <span className="fault"> {row.gauge_note}</span>}
      </li>
      {row.punch && <li>{row.punch}</li>}
      {row.acute ? (
        <li>
          fold to {row.acute} over V {row.die}, {row.force}; then press flat, {row.closing_force}
        </li>
      ) : (
        <li>
          aim at {row.aim}; V {row.die}, {row.force}
        </li>
      )}
      <li>
        it measures <b>{row.check}</b> outside, {row.tolerance}
      </li>
    </ol>
  );
}

/** The schools side by side on one bend. */
function Schools({ row }: { row: Row }) {
  return (
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
  );
}

/** A longer search for an order, with how far it is; what it finds better is set, and can be undone. */
function SearchOn({ piece }: { piece: PieceView }) {
  const [progress, setProgress] = useState<number | null>(null);
  const [word, setWord] = useState("");
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const strikes = piece.bend_rows.filter((r) => r.strikes.length > 0).length;
  const search = async () => {
    const { job } = draft.getState();
    const control = new AbortController();
    stop.current = control;
    setProgress(0);
    setWord("");
    try {
      await heardFrom<OrderLine>("/api/order", { job, piece: piece.id }, control.signal, (line) => {
        setProgress(line.progress);
        if (line.trouble) setWord(line.trouble);
        if (!line.order) return;
        setWord(line.said ?? "");
        // Somebody has gone on meanwhile: what was found is for a piece that is no more.
        if (line.struck < strikes && draft.getState().job === job)
          writeDoc("piece", "/bend_order", line.order);
      });
    } catch (e) {
      setWord(control.signal.aborted ? "The search was stopped; the order stays" : said(e));
    }
    setProgress(null);
  };
  return (
    <p aria-live="polite">
      {progress === null ? (
        <Button onClick={() => void search()}>search on</Button>
      ) : (
        <Button onClick={() => stop.current?.abort()}>stop searching</Button>
      )}
      {progress !== null && (
        <LinearProgress variant="determinate" value={progress * 100} aria-label="how far the search is" />
      )}
      {word && <span className="hint"> {word}.</span>}
    </p>
  );
}

/**
 * The bend sheet: each bend in its turn, the picked one between its tools, and what every school says of it.
 */
export function Bends({ piece }: { piece: PieceView }) {
  const { setHover } = draft.getState();
  const [picked, setPicked] = useState("");
  const notes = useBook().data?.brake_notes ?? [];
  const rows = piece.bend_rows;
  const rolled = piece.flat.bends.filter((b) => b.rolled);
  const at = Math.max(
    rows.findIndex((r) => r.name === picked),
    0,
  );
  const row = rows[at];
  const name = row?.name ?? rolled[0]?.name;
  const seen = useBendPictures(piece, name);
  const pictures = seen?.pictures;
  const names = rows.map((r) => r.name);
  const byHand = useDraft(
    (d) => (d.job?.pieces?.find((p) => p.id === piece.id)?.bend_order ?? []).length > 0,
  );
  const move = (i: number, by: number) => {
    const next = [...names];
    const [one] = next.splice(i, 1);
    next.splice(i + by, 0, one!);
    writeDoc("piece", "/bend_order", next);
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
              <th className="num">stop</th>
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
                  <Act onClick={() => setPicked(r.name)}>
                    {r.strikes.length > 0 && <b className="loud">! </b>}
                    {r.label}
                  </Act>
                </td>
                <td>{`${r.up ? "up" : "down"} ${r.angle_text}`}</td>
                <td className="num">{r.radius}</td>
                <td className="num">{r.die}</td>
                <td className="num">{r.gauge}</td>
                <td className="num">{r.check}</td>
                <td className="num" title={`${r.force_per_metre}; ${r.strength}`}>
                  {r.closing_force || r.force}
                </td>
                <td className="moves">
                  <button
                    type="button"
                    aria-label={`${r.label} earlier`}
                    disabled={i === 0}
                    onClick={() => move(i, -1)}
                  >
                    ↑
                  </button>
                  <button
                    type="button"
                    aria-label={`${r.label} later`}
                    disabled={i === rows.length - 1}
                    onClick={() => move(i, 1)}
                  >
                    ↓
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {piece.order_said && <p className="order-said">{piece.order_said}.</p>}
        {piece.order_open && <SearchOn key={piece.id} piece={piece} />}
        {byHand && (
          <Button onClick={() => writeDoc("piece", "/bend_order", undefined)}>order as proposed</Button>
        )}
        <p className="hint">{row ? notes.join(" ") : "Rolled, not bent at the brake."}</p>
      </div>
      <article className="bend-one" aria-label={`bend ${row?.label ?? name}`}>
        {row?.strikes.map((s) => (
          <p key={s} className="fault">
            {s}
          </p>
        ))}
        {row && pictures?.at_the_tools && (
          <Picture of={pictures.at_the_tools} alt={`${row.label} between its tools`} />
        )}
        {row && <Step row={row} />}
        {row?.cautions.map((c) => (
          <p key={c} className="mind">
            Mind: {c}.
          </p>
        ))}
        {row && <p className="why">{row.reason}</p>}
        {pictures && <Picture of={pictures.section} alt={`section through ${row?.label ?? name}`} />}
        {seen?.trouble && <p className="hint">No picture: {seen.trouble}.</p>}
        {row && <Schools row={row} />}
        {row && (
          <p className="hint">
            {`Air bending over V ${row.die} forms about R${row.air_radius}; `}
            {`shortest flange ${row.shortest}; `}
            {`bend ${row.length} long, ${row.force_per_metre} with ${row.strength}.`}
          </p>
        )}
      </article>
    </div>
  );
}
