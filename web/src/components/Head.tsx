import { memo, useMemo } from "react";
import type { LineFault } from "../api/types";
import type { BenchName } from "../document/bench";
import type { Draft } from "../document/draft";
import { briefsOf, useChecked } from "../hooks/useBench";
import { useBook } from "../hooks/useBook";
import { useDocument, useDraft } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { OwnerOf } from "../verbs/Field";
import { viewOf } from "../verbs/names";
import { SettingSentence } from "../verbs/Settings";

const NO_FAULTS: LineFault[] = [];

/** Escape leaves a field, so that letters add lines again. */
const leave = (e: React.KeyboardEvent) => {
  if (e.key === "Escape") document.getElementById("main")?.focus();
};

/** What a piece or a frame is: picked first, because it drives everything below. */
export const Head = memo(function Head({ bench }: { bench: BenchName }) {
  const checked = useChecked(bench);
  const radius = useDraft((d) => (bench === "piece" && viewOf(d)?.radius_text) || "");
  const usual = useMemo(() => (radius ? { "/radius": radius } : undefined), [radius]);
  const all = checked?.faults;
  const faults = useMemo(() => {
    const own = (all ?? []).filter((f) => f.line === "");
    return own.length > 0 ? own : NO_FAULTS;
  }, [all]);
  const found = (checked?.findings.length ?? 0) + (checked?.faults.length ?? 0);
  const broken = useDraft((d) => brokenOf(d, bench));
  const words = [
    found > 0 && (found === 1 ? "1 finding" : `${found} findings`),
    broken > 0 && `${broken} of the drawing off`,
  ].filter(Boolean);
  return (
    <section className="piece-head" aria-label={bench} onKeyDown={leave}>
      {words.length > 0 && (
        <Act
          className="found"
          onClick={() => document.querySelector(".findings")?.scrollIntoView({ block: "end" })}
        >
          {words.join(" · ")} ↓
        </Act>
      )}
      <OwnerOf name={bench}>
        <SettingSentence tag={bench} at="" faults={faults} bare usual={usual} />
      </OwnerOf>
      {bench === "piece" && <Gauges />}
    </section>
  );
});

/** Figures of the drawings of what is on the bench that are off or lost. */
function brokenOf(d: Draft, bench: BenchName): number {
  return briefsOf(d, bench).reduce((n, b) => n + b.tally.off + b.tally.lost, 0);
}

/** How else a thickness may be told, where the material has another way. */
function Gauges() {
  const material = useDocument((d) => d.job?.pieces?.find((p) => p.id === d.piece)?.material);
  const shelf = useBook().data?.materials.find((m) => m.id === material);
  if (!shelf?.thickness_hint) return null;
  const title = shelf.gauge_said && `Gauge numbers here are the ${shelf.gauge_said}`;
  return (
    <p className="hint" title={title}>
      {shelf.thickness_hint}
    </p>
  );
}
