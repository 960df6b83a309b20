import { Button } from "@mui/material";
import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { Bends } from "../components/Bends";
import { Figures, Findings } from "../components/Figures";
import { JobFaults, JobSettings } from "../components/JobSettings";
import { Keys } from "../components/Keys";
import { PieceHead } from "../components/PieceHead";
import { Recipe } from "../components/Recipe";
import { Trouble } from "../components/Trouble";
import { applyMend, draft } from "../document/draft";
import { issue, retire } from "../document/ids";
import { useDraft, usePiece, useStale } from "../hooks/useDraft";
import { useKeys } from "../hooks/useKeys";
import { usePage } from "../hooks/usePage";
import type { Mode } from "../theme/theme";
import { type Asked, Offers } from "../verbs/Offers";
import { addFocused, useChoices } from "../verbs/palette";
import { FlatView } from "../viewers/flat/FlatView";

const FormedView = lazy(() => import("../viewers/formed/FormedView"));

/** The bench: one piece, said on the left, formed and flat on the right, always in step. */
export function Pieces({ mode }: { mode: Mode }) {
  const { piece: asked, id = "" } = useParams();
  const navigate = useNavigate();
  const job = useDraft((d) => d.job);
  const { piece } = usePiece();
  const result = useDraft((d) => d.result?.piece);
  const lastGood = useDraft((d) => d.lastGood);
  const stale = useStale();
  const [offer, setOffer] = useState<Asked | null>(null);
  const [stacked, setStacked] = useState(() => localStorage.getItem("steelk.views") !== "beside");
  const [sheet, setSheet] = useState(false);
  const pieces = job?.pieces ?? [];

  useEffect(() => {
    const { showPiece } = draft.getState();
    const known = pieces.find((p) => p.id === asked);
    if (known) showPiece(known.id);
    else if (pieces[0]) navigate(`/jobs/${id}/pieces/${pieces[0].id}`, { replace: true });
  }, [asked, pieces, id, navigate]);

  const choices = useChoices("piece");
  useKeys((key) => {
    const verb = choices.find((v) => v.key === key);
    const acts: Record<string, () => void> = {
      "/": () => document.querySelector<HTMLElement>("#short-text")?.focus(),
    };
    const act = acts[key] ?? (verb && (() => addFocused("piece", verb)));
    act?.();
    return act !== undefined;
  });

  usePage("Pieces", piece ? `${piece.mark} ${piece.name}` : "");
  const turn = () => {
    localStorage.setItem("steelk.views", stacked ? "beside" : "stacked");
    setStacked(!stacked);
  };
  if (!job) return null;
  const view = result && result.id === piece?.id ? result : undefined;
  // While the start cannot be read, the last picture stays, marked as old.
  const before = lastGood && lastGood.id === piece?.id && piece.lines?.length ? lastGood : undefined;
  const figures = view?.made ? view : before;
  // Figures come before the picture of many holes: the last one stands until then.
  const good = view?.made && view.drawn ? view : before;
  const old = view !== undefined && !view.made;
  return (
    <main className="bench" id="main" tabIndex={-1}>
      <h1 className="unseen">{piece ? `Piece ${piece.mark} ${piece.name}` : "Pieces"}</h1>
      <PieceTabs />
      <aside className="said" aria-label="recipe">
        {piece ? (
          <>
            <PieceHead />
            <Recipe />
            {view && <Findings piece={view} mend={(f) => f.mend && applyMend(f.mend)} />}
          </>
        ) : (
          <p className="empty">This job has no piece yet. Add the first with “+ piece” above.</p>
        )}
        <JobSettings />
        <JobFaults />
        <Trouble />
      </aside>
      <div className={`views ${stacked ? "stacked" : "beside"}${old ? " old" : ""}`}>
        {good ? (
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
            <section className="pane" aria-label={sheet ? "bends" : "flat pattern"}>
              <h2>
                <button
                  type="button"
                  className="pick"
                  aria-pressed={!sheet}
                  onClick={() => setSheet(false)}
                >
                  Flat pattern
                </button>
                <button
                  type="button"
                  className="pick"
                  aria-pressed={sheet}
                  onClick={() => setSheet(true)}
                >
                  Bends {good.flat.bends.length > 0 && good.flat.bends.length}
                </button>
                <button type="button" className="chip" onClick={turn}>
                  {stacked ? "side by side" : "one above the other"}
                </button>
              </h2>
              {sheet ? (
                <Bends key={good.id} piece={good} />
              ) : (
                <FlatView key={good.id} piece={good} ask={setOffer} />
              )}
            </section>
          </>
        ) : (
          <p className="empty wide">
            {piece?.lines?.length && (!view || stale || view.made)
              ? "The piece is being worked out…"
              : piece?.lines?.length
                ? "The start line cannot be carried out yet; its fault stands on the left."
                : piece
                  ? "The piece appears here as soon as it has a start."
                  : ""}
          </p>
        )}
      </div>
      {figures && <Figures piece={figures} old={old || stale} />}
      {view?.made && <Offers asked={offer} view={view} close={() => setOffer(null)} />}
    </main>
  );
}

/** One tab a piece, with what its checks say. */
function PieceTabs() {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const job = useDraft((d) => d.job);
  const current = useDraft((d) => d.piece);
  const briefs = useDraft((d) => d.result?.briefs);
  const row = useRef<HTMLDivElement>(null);
  const pieces = job?.pieces ?? [];
  const go = (piece: string) => navigate(`/jobs/${id}/pieces/${piece}`);
  const add = (twin: boolean) => {
    const { edit, job } = draft.getState();
    const all = job?.pieces ?? [];
    const from = twin ? all.find((p) => p.id === current) : undefined;
    const { id: fresh, issued } = issue(
      "piece",
      all.map((p) => p.id),
      job?.issued,
    );
    const numbers = all.map((p) => Number(p.mark.match(/(\d+)$/)?.[1] ?? 0));
    const mark = `P-${Math.max(100, ...numbers) + 1}`;
    const made = from
      ? { ...from, id: fresh, mark, name: `${from.name} (copy)` }
      : {
          id: fresh,
          mark,
          name: "New piece",
          quantity: "1",
          material: "s235",
          thickness: job?.display?.length === "in" ? "1/8" : "3",
          lines: [],
        };
    edit("", (j) => ({ ...j, issued, pieces: [...(j.pieces ?? []), made] }));
    go(fresh);
  };
  const drop = () => {
    const next = pieces.find((p) => p.id !== current);
    draft.getState().edit("", (j) => ({
      ...j,
      issued: retire(current, j.issued),
      pieces: j.pieces?.filter((p) => p.id !== current),
    }));
    navigate(`/jobs/${id}/pieces${next ? `/${next.id}` : ""}`);
  };
  return (
    <nav className="tabs" aria-label="pieces" ref={row}>
      {pieces.map((p) => {
        const b = briefs?.find((x) => x.id === p.id);
        const sign = !b ? "" : b.stops ? "■" : b.warns ? "▲" : "";
        return (
          <button
            type="button"
            key={p.id}
            aria-current={p.id === current}
            onClick={() => go(p.id)}
            title={`${p.name}${b?.stops ? `: ${b.stops} to stop for` : b?.warns ? `: ${b.warns} warnings` : ""}`}
          >
            {p.mark} {p.id === current && <span className="tab-name">{p.name}</span>}{" "}
            {sign && <span className={b?.stops ? "stop" : "warn"}>{sign}</span>}
          </button>
        );
      })}
      <Button onClick={() => add(false)}>+ piece</Button>
      {current && pieces.length > 0 && <Button onClick={() => add(true)}>copy piece</Button>}
      {current && pieces.length > 0 && <Button onClick={drop}>take piece out</Button>}
      <span className="grow" />
      <Keys bench="piece" />
    </nav>
  );
}
