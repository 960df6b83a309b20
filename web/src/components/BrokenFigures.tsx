import { memo } from "react";
import { Link, useParams } from "react-router";
import { type BenchName, docOf } from "../document/bench";
import { useSteady } from "../hooks/useDraft";

/** What the drawings of the piece or frame on the bench say and the model does not keep. */
export const BrokenFigures = memo(function BrokenFigures({ bench }: { bench: BenchName }) {
  const { id = "" } = useParams();
  const briefs = useSteady((d) => {
    const mark = docOf(bench, d)?.mark.trim().toLowerCase();
    return (d.result?.brief_states ?? [])
      .filter((b) => b.of.trim().toLowerCase() === mark && b.tally.off + b.tally.lost > 0)
      .map(({ id, mark, tally, broken }) => ({ id, mark, n: tally.off + tally.lost, broken }));
  });
  return briefs.map((b) => (
    <section key={b.id} className="findings broken" aria-label={`figures of drawing ${b.mark}`}>
      <h2 aria-live="polite">
        <Link to={`/jobs/${id}/briefs/${b.id}`}>Drawing {b.mark}</Link>:{" "}
        {b.n === 1 ? "1 figure is not kept" : `${b.n} figures are not kept`}
      </h2>
      <ul>
        {b.broken.map((f, k) => (
          <li key={k} className="stop">
            <span className="sign">■ {f.line}</span>
            <span>
              {f.figure}: {f.said}
            </span>
          </li>
        ))}
      </ul>
    </section>
  ));
});
