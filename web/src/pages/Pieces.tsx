import { lazy, memo, Suspense, useCallback, useState } from "react";
import { Bench } from "../components/Bench";
import { Bends } from "../components/Bends";
import { PickTabs } from "../components/PickTabs";
import { docOf } from "../document/bench";
import { draft } from "../document/draft";
import { useDocument, useDraft, useStale } from "../hooks/useDraft";
import type { Mode } from "../theme/theme";
import { Act } from "../verbs/Act";
import { type Asked, Offers } from "../verbs/Offers";
import { useBringing } from "../viewers/drawing/useBringing";
import { Family } from "../viewers/flat/Family";
import { FlatView } from "../viewers/flat/FlatView";
import { flipSizing } from "../viewers/flat/useSizing";

const FormedView = lazy(() => import("../viewers/formed/FormedView"));

/** One piece: formed and flat, or formed and the sheet of its bends. */
export function Pieces({ mode }: { mode: Mode }) {
  const piece = useDocument((d) => docOf("piece", d)?.id);
  const lines = useDocument((d) => docOf("piece", d)?.lines?.length ?? 0);
  const result = useDraft((d) => d.result?.piece);
  const lastGood = useDraft((d) => d.lastGood);
  const [offer, setOffer] = useState<Asked | null>(null);
  const [stacked, setStacked] = useState(() => localStorage.getItem("steelk.views") !== "beside");
  const [seen, setSeen] = useState<"flat" | "bends">("flat");
  const ask = useCallback((asked: Asked) => {
    if (asked.line) draft.getState().pick(asked.line);
    setOffer(asked);
  }, []);
  const turn = useCallback(() => {
    localStorage.setItem("steelk.views", stacked ? "beside" : "stacked");
    setStacked(!stacked);
  }, [stacked]);
  const view = result && result.id === piece ? result : undefined;
  // While the start cannot be read, the last picture stays, marked as old.
  const before = lastGood && lastGood.id === piece && lines > 0 ? lastGood : undefined;
  const figures = view?.made ? view : before;
  // Figures come before the picture of many holes: the last one stands until then.
  const good = view?.made && view.drawn ? view : before;
  const old = view !== undefined && !view.made;
  // Too little is told for one outline: those that fit are the better picture.
  const short = view !== undefined && !view.made && view.family.length > 0;
  const bends = good?.flat.bends.length || "";
  const bringing = useBringing();
  return (
    <Bench bench="piece" figures={figures} old={old} acts={bringing.acts}>
      {bringing.panel ?? (
        <div className={`views ${stacked ? "stacked" : "beside"}${old && !short ? " old" : ""}`}>
          {short ? (
            <Family piece={view} />
          ) : good ? (
            <>
              <section className="pane" aria-label="formed">
                <h2>
                  Formed
                  {old && <span className="old-said">as it was before its start could not be read</span>}
                </h2>
                <Suspense fallback={<p className="empty">The 3D view is coming…</p>}>
                  <FormedView piece={good} mode={mode} ask={setOffer} />
                </Suspense>
              </section>
              <section className="pane" aria-label={seen === "bends" ? "bends" : "flat pattern"}>
                <div className="pane-head">
                  <Seen seen={seen} pick={setSeen} bends={bends} />
                  {seen === "flat" && <SizeAct />}
                  <Act onClick={turn}>{stacked ? "side by side" : "one above the other"}</Act>
                </div>
                {seen === "bends" ? (
                  <Bends key={good.id} piece={good} />
                ) : (
                  <FlatView key={good.id} piece={good} ask={ask} />
                )}
              </section>
            </>
          ) : (
            piece && <Waits empty={lines === 0} made={!view || view.made} />
          )}
        </div>
      )}
      {view?.made && <Offers asked={offer} close={() => setOffer(null)} />}
    </Bench>
  );
}

/** Why nothing is seen yet. */
function Waits({ empty, made }: { empty: boolean; made: boolean }) {
  const stale = useStale();
  return (
    <p className="empty wide">
      {empty
        ? "The piece appears here as soon as it has a start."
        : stale || made
          ? "The piece is being worked out…"
          : "The start line cannot be carried out yet; its fault stands on the left."}
    </p>
  );
}

/** Begins a size between two things that are clicked. */
const SizeAct = memo(function SizeAct() {
  const on = useDraft((d) => d.sizing !== null);
  return (
    <Act onClick={flipSizing} aria-pressed={on}>
      dimension
    </Act>
  );
});

interface SeenProps {
  seen: "flat" | "bends";
  pick(seen: "flat" | "bends"): void;
  bends: number | "";
}

/** Drawn anew only when the number of bends changes. */
const Seen = memo(function Seen({ seen, pick, bends }: SeenProps) {
  return (
    <PickTabs<"flat" | "bends">
      label="what is seen of the flat"
      value={seen}
      pick={pick}
      tabs={[
        { value: "flat", words: "Flat pattern" },
        { value: "bends", words: `Bends ${bends}` },
      ]}
    />
  );
});
