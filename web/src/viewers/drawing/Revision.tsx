import { Button } from "@mui/material";
import { useState } from "react";
import type { Revised } from "../../api/types";
import { classes } from "../../hooks/classes";
import { usePanZoom } from "../flat/usePanZoom";

const ROOM = [30, 30, 30, 30];

interface Props {
  name: string;
  revised: Revised;
  take(): void;
  close(): void;
}

/** What a revised drawing moves: the old faint, the new plain, what a hand has changed kept and told. */
export function Revision({ name, revised, take, close }: Props) {
  const { host, view, fit, onPointerDown } = usePanZoom(revised, ROOM);
  const [lit, setLit] = useState<number | null>(null);
  const { moves, same } = revised;
  const kept = moves.filter((m) => m.kept).length;
  return (
    <section className="brought" aria-label={`what moved in ${name}`}>
      <header>
        <h2>What moved in {name}</h2>
        <span className="grow" />
        <Button variant="contained" onClick={take}>
          {moves.length === 0 ? "Note the new drawing" : "Take it over"}
        </Button>
        <Button onClick={close}>Leave it</Button>
      </header>
      <div className="brought-body">
        <svg
          ref={host}
          className="flat brought-picture"
          role="img"
          aria-label="the part before and after"
          onPointerDown={onPointerDown}
          onDoubleClick={fit}
        >
          <g transform={`matrix(${view.k} 0 0 ${-view.k} ${view.tx} ${view.ty})`}>
            <path className="was" d={revised.was} />
            <path className="loop outline" d={revised.is} />
            {moves.map((m, i) => (
              <g key={m.said + i} className={classes("move", { lit: lit === i })}>
                <path className="was" d={m.was} />
                <path className="is" d={m.is} />
              </g>
            ))}
          </g>
        </svg>
        <div className="brought-told">
          <p>
            {moves.length === 0
              ? "Nothing moved."
              : `${moves.length === 1 ? "1 difference" : `${moves.length} differences`}; `}
            {moves.length > 0 && (same === 1 ? "1 cut is as it was." : `${same} cuts are as they were.`)}
          </p>
          <ul className="moves">
            {moves.map((m, i) => (
              <li
                key={m.said + i}
                className={m.kept ? "warn" : undefined}
                onPointerEnter={() => setLit(i)}
                onPointerLeave={() => setLit(null)}
              >
                {m.said}
              </li>
            ))}
          </ul>
          {kept > 0 && <p className="hint">What was changed by hand is left for you to decide.</p>}
          <p className="muted">
            Lines that you added stay. Taking it over is one step: undo brings it back.
          </p>
        </div>
      </div>
    </section>
  );
}
