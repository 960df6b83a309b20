import { type ReactNode, useEffect, useRef, useState } from "react";

/** Rows that are drawn whether they are seen or not: more come and go in runs. */
export const MOST_AT_ONCE = 120;
const IN_A_RUN = 6;
/** How far from the view a run is drawn already, in pixels. */
const AHEAD = 900;
/** A row before any has been measured. */
const ROW = 42;

export function runsOf<T>(rows: T[]): T[][] {
  const n = Math.ceil(rows.length / IN_A_RUN);
  return Array.from({ length: n }, (_, k) => rows.slice(k * IN_A_RUN, (k + 1) * IN_A_RUN));
}

interface Props {
  rows: number;
  /** Drawn wherever it is. */
  all: boolean;
  children(): ReactNode;
}

/** Rows of a long table: drawn near the view only; elsewhere their room is kept. */
export function Run({ rows, all, children }: Props) {
  const body = useRef<HTMLTableSectionElement>(null);
  const [near, setNear] = useState(false);
  const high = useRef(rows * ROW);
  useEffect(() => {
    const el = body.current;
    if (all || !el) return;
    const root = el.closest(".rows");
    const watch = new IntersectionObserver(
      ([entry]) => {
        if (!entry) return;
        // What has the keyboard stays.
        const held = el.contains(document.activeElement);
        if (!entry.isIntersecting && !held && el.clientHeight > 0) high.current = el.clientHeight;
        setNear(entry.isIntersecting || held);
      },
      { root, rootMargin: `${AHEAD}px 0px` },
    );
    watch.observe(el);
    return () => watch.disconnect();
  }, [all]);
  const drawn = all || near;
  return (
    <tbody ref={body}>
      {drawn ? (
        children()
      ) : (
        <tr>
          <td colSpan={10} style={{ height: high.current, padding: 0, border: 0 }} />
        </tr>
      )}
    </tbody>
  );
}
