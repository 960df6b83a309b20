import { Button } from "@mui/material";
import { lazy, Suspense, useCallback, useEffect, useState } from "react";
import { answer, api, paperUrl, said } from "../api/client";
import type { BriefState, Check } from "../api/types";
import { Bench } from "../components/Bench";
import { CheckTable, TallyLine } from "../components/CheckTable";
import { PickTabs } from "../components/PickTabs";
import { Hand } from "../components/Taken";
import { Unchecked } from "../components/Unchecked";
import { applyMend, docOf } from "../document/bench";
import { draft } from "../document/draft";
import { useBook } from "../hooks/useBook";
import { useCutList } from "../hooks/useCutList";
import { useDraft, useSteady } from "../hooks/useDraft";
import type { Mode } from "../theme/theme";
import type { Asked } from "../verbs/Offers";
import { tie } from "../verbs/tie";
import { useVerbs } from "../verbs/useVerbs";
import { FlatView } from "../viewers/flat/FlatView";
import { DrawingPage } from "../viewers/paper/DrawingPage";
import { edgeAt } from "../viewers/zones";

const FrameStage = lazy(() => import("../viewers/frame/FrameStage"));

const NONE = new Map<string, string>();

/** What a drawing says: its figures on the left, what the model has of each on the right. */
export function Briefs({ mode }: { mode: Mode }) {
  const id = useDraft((d) => docOf("brief", d)?.id);
  const of = useDraft((d) => d.job?.briefs?.find((b) => b.id === d.brief)?.of ?? "");
  const result = useDraft((d) => d.result?.brief);
  const [notes, setNotes] = useState<{ of: string; notes: Map<string, string> }>();
  const state = useShown();
  useEffect(
    () => () => {
      draft.getState().showBrief("");
      draft.getState().showFrame("");
    },
    [],
  );
  const view = result && result.id === id ? result : undefined;
  const acts = (
    <>
      <Ties note={(all) => setNotes({ of: id ?? "", notes: all })} />
      <CheckSheet />
    </>
  );
  return (
    <Bench bench="brief" acts={acts}>
      <div className="views stacked">
        {view && (
          <>
            <section className="pane listed" aria-label="check">
              <div className="pane-head">
                <h2>Drawing and model</h2>
                <TallyLine tally={view.tally} checks={view.checks} />
                {view.checks.length > 0 && <Hand />}
              </div>
              {view.checks.length > 0 ? (
                <CheckTable checks={view.checks} notes={notes?.of === id ? notes!.notes : NONE} />
              ) : (
                <p className="empty">Each figure is checked here as soon as it is written down.</p>
              )}
              <Unchecked key={id} />
            </section>
            <Shown mode={mode} of={of} piece={state?.piece} checks={view.checks} />
          </>
        )}
      </div>
    </Bench>
  );
}

/** Brings the piece or frame that a brief is of beside it. */
function useShown(): BriefState | undefined {
  const state = useSteady((d) => d.result?.brief_states.find((b) => b.id === d.brief));
  const { piece = "", frame = "" } = state ?? {};
  useEffect(() => {
    if (piece) draft.getState().showPiece(piece);
    draft.getState().showFrame(frame);
  }, [piece, frame]);
  return state;
}

/** The piece or frame itself: pointing at it ties the figure that is picked. */
interface ShownProps {
  mode: Mode;
  /** Mark of what is shown. */
  of: string;
  /** Id of the piece that it is. */
  piece: string | undefined;
  checks: Check[];
}

function Shown({ mode, of, piece: id, checks }: ShownProps) {
  const [seen, setSeen] = useState<"model" | "drawing">("model");
  const verbs = useVerbs()?.brief;
  const frame = useDraft((d) => d.result?.frame);
  const piece = useDraft((d) => (d.frame ? undefined : d.result?.piece));
  const list = useCutList()?.frames.find((f) => f.frame === frame?.id);
  const lines = useDraft((d) => d.job?.briefs?.find((b) => b.id === d.brief)?.lines ?? []);
  const picked = useDraft((d) => d.picked);
  const point = useCallback(
    (asked: Asked) => tie(edgeAt(piece?.zones ?? [], asked.name, asked.at), verbs),
    [verbs, piece],
  );
  const name = useCallback((n: string) => tie(n, verbs), [verbs]);
  const line = lines.find((l) => l.id === picked);
  return (
    <section className="pane" aria-label={seen}>
      <div className="pane-head">
        <PickTabs<"model" | "drawing">
          label="model or drawing"
          value={seen}
          pick={setSeen}
          tabs={[
            { value: "model", words: of || "Model" },
            { value: "drawing", words: "Drawing" },
          ]}
        />
        {seen === "model" && (
          <span className="hint">
            {line ? `Point at what ${line.id} is of.` : "Pick a figure, then point at what it is of."}
          </span>
        )}
      </div>
      {seen === "drawing" ? (
        <DrawingPage checks={checks} />
      ) : frame ? (
        <Suspense fallback={<p className="empty">The 3D view is coming…</p>}>
          <FrameStage frame={frame} list={list} mode={mode} point={name} />
        </Suspense>
      ) : piece?.made && piece.id === id ? (
        <FlatView key={piece.id} piece={piece} ask={point} />
      ) : (
        <p className="empty">The brief names no piece or frame that can be made yet.</p>
      )}
    </section>
  );
}

/** The figures on paper, with room for what is measured; of what is saved. */
function CheckSheet() {
  const job = useDraft((d) => d.id);
  const brief = useDraft((d) => d.brief);
  const revision = useDraft((d) => d.saving.revision);
  const any = useDraft((d) => (d.result?.brief?.checks.length ?? 0) > 0);
  const papers = useBook().data?.papers ?? [];
  if (!any) return null;
  return papers
    .filter((p) => p.of === "brief" && p.shelf === "first")
    .map((p) => (
      <Button key={p.kind} href={paperUrl(job, p.kind, { piece: brief, revision: String(revision) })}>
        {p.words}
      </Button>
    ));
}

/** Ties every figure that one thing of the model fits, and says of the others why not. */
function Ties({ note }: { note(all: Map<string, string>): void }) {
  const untied = useDraft((d) => d.result?.brief?.tally.untied ?? 0);
  const [busy, setBusy] = useState(false);
  const run = async () => {
    const { job, brief } = draft.getState();
    if (!job) return;
    setBusy(true);
    try {
      const { proposals } = answer(await api.POST("/api/ties", { body: { job, brief } }));
      if (draft.getState().job !== job) throw new Error("it was changed meanwhile; try again");
      const clear = proposals.filter((p) => p.patch.length > 0);
      if (clear.length > 0) applyMend("brief", { label: "", patch: clear.flatMap((p) => p.patch) });
      note(new Map(proposals.filter((p) => p.patch.length === 0).map((p) => [p.line, p.said])));
      const left = proposals.length - clear.length;
      draft.setState({
        word:
          proposals.length === 0
            ? "every figure is tied already"
            : `${clear.length} tied${left > 0 ? `; ${left} not clear, the list says why` : ""}`,
      });
    } catch (e) {
      draft.setState({ word: `nothing is tied: ${said(e)}` });
    } finally {
      setBusy(false);
    }
  };
  return (
    <Button disabled={busy || untied === 0} onClick={() => void run()}>
      {untied > 0 ? `tie what is clear (${untied} open)` : "all tied"}
    </Button>
  );
}
