import { memo, useEffect, useRef } from "react";
import { useDocument, useSteady } from "../hooks/useDraft";
import { type Thumb, useThumbs } from "../hooks/useThumbs";
import { type JobRow, rowsOf, signOf } from "./jobRows";

/** A piece or frame in small, in the ink of the page. */
export function Small({ thumb }: { thumb: Thumb | undefined }) {
  return (
    <svg className="thumb" viewBox="0 0 480 360" width="48" height="36" aria-hidden="true">
      {thumb?.path && <path className={thumb.filled ? "filled" : "lines"} d={thumb.path} />}
    </svg>
  );
}

interface Props {
  /** What is on the bench. */
  current: string;
  go(row: Pick<JobRow, "kind" | "id">): void;
  open(): void;
}

/** The list of the job folded to a rail: one click or arrow from piece to piece. */
export const JobRail = memo(function JobRail({ current, go, open }: Props) {
  const list = useRef<HTMLDivElement>(null);
  const rows = useSteady((d) =>
    rowsOf(d.job, d.result).map(({ kind, id, mark, name, stops, warns, made }) => ({
      kind,
      id,
      mark,
      name,
      stops,
      warns,
      made,
    })),
  );
  const thumbs = useThumbs();
  // Only when another comes onto the bench: who scrolls the rail by hand is left alone.
  const there = rows.some((r) => r.id === current);
  useEffect(() => {
    if (there && current)
      list.current
        ?.querySelector("[aria-selected=true]")
        ?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [current, there]);
  const at = rows.findIndex((r) => r.id === current);
  const walk = (to: number) => {
    const row = rows[to];
    if (!row) return;
    go(row);
    list.current?.querySelectorAll<HTMLElement>("[role=tab]")[to]?.focus();
  };
  const keys = (e: React.KeyboardEvent) => {
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: rows.length - 1 }[e.key];
    if (to === undefined) return;
    e.preventDefault();
    walk(to);
  };
  return (
    <div className="rail">
      <button type="button" className="rail-open" onClick={open} title="the list of the job (S)">
        list <kbd>S</kbd>
      </button>
      <div
        role="tablist"
        aria-orientation="vertical"
        aria-label="pieces and frames"
        ref={list}
        onKeyDown={keys}
      >
        {rows.map((r, i) => {
          const { sign, said, tone } = signOf(r);
          return (
            <button
              type="button"
              role="tab"
              key={`${r.kind} ${r.id}`}
              aria-selected={r.id === current}
              tabIndex={i === Math.max(at, 0) ? 0 : -1}
              title={`${r.name}${said && `: ${said}`}`}
              onClick={() => go(r)}
            >
              <Small thumb={thumbs.get(`${r.kind}:${r.id}`)} />
              <span>
                {r.mark} {sign && <span className={tone}>{sign}</span>}
              </span>
            </button>
          );
        })}
      </div>
    </div>
  );
});

/** What is on the bench, piece or frame. */
export const useOnBench = () => useDocument((d) => d.frame || d.piece);
