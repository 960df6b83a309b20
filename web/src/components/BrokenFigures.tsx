import { memo } from "react";
import { Link, useParams } from "react-router";
import type { BenchName } from "../document/bench";
import { briefsOf } from "../hooks/useBench";
import { useSteady } from "../hooks/useDraft";

/** What the drawings of the piece or frame on the bench say and the model does not keep. */
export const BrokenFigures = memo(function BrokenFigures({ bench }: { bench: BenchName }) {
  const { id = "" } = useParams();
  const briefs = useSteady((d) => {
    return briefsOf(d, bench)
      .map(({ id, mark, tally, broken }) => ({ id, mark, n: tally.off + tally.lost, broken }))
      .filter((b) => b.n > 0);
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
