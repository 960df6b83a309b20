import { type BenchName, type Doc, writeDoc } from "../document/bench";
import { useChecked } from "../hooks/useBench";
import { useBook } from "../hooks/useBook";
import { useDraft, usePiece } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { OwnerOf } from "../verbs/Field";
import { SettingSentence } from "../verbs/Settings";

/** What a piece or a frame is: picked first, because it drives everything below. */
export function Head({ bench, doc }: { bench: BenchName; doc: Doc }) {
  const checked = useChecked(bench);
  const radius = useDraft((d) => (d.result?.piece?.id === doc.id ? d.result.piece.radius_text : ""));
  const faults = (checked?.faults ?? []).filter((f) => f.line === "");
  const found = (checked?.findings.length ?? 0) + (checked?.faults.length ?? 0);
  return (
    <section className="piece-head" aria-label={bench}>
      {found > 0 && (
        <Act
          className="found"
          onClick={() => document.querySelector(".findings")?.scrollIntoView({ block: "end" })}
        >
          {found === 1 ? "1 finding ↓" : `${found} findings ↓`}
        </Act>
      )}
      <OwnerOf doc={doc} write={(path, value, typed) => writeDoc(bench, path, value, typed)}>
        <SettingSentence
          tag={bench}
          at=""
          faults={faults}
          bare
          usual={bench === "piece" && radius ? { "/radius": radius } : {}}
        />
      </OwnerOf>
      {bench === "piece" && <Gauges />}
    </section>
  );
}

/** That a thickness can be a gauge, where the material has any. */
function Gauges() {
  const { piece } = usePiece();
  const shelf = useBook().data?.materials.find((m) => m.id === piece?.material);
  const gauge = shelf?.gauges.find((g) => g.number === 16);
  if (!shelf || !gauge) return null;
  return (
    <p className="hint" title={`Gauge numbers here are the ${shelf.gauge_said}`}>
      A thickness may be a gauge: 16 ga = {gauge.mm.toFixed(2)} mm.
    </p>
  );
}
