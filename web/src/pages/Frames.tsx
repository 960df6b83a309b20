import { Button } from "@mui/material";
import { lazy, Suspense, useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { said, text } from "../api/client";
import type { FrameLine } from "../api/types";
import { Bars } from "../components/Bars";
import { CutTable } from "../components/CutTable";
import { Figures, Findings } from "../components/Figures";
import { FrameRecipe } from "../components/FrameRecipe";
import { JobFaults, JobSettings } from "../components/JobSettings";
import { Keys } from "../components/Keys";
import { Sections } from "../components/Sections";
import { Trouble } from "../components/Trouble";
import { Welds } from "../components/Welds";
import { draft, editFrame } from "../document/draft";
import { issue, retire, stemOf } from "../document/ids";
import { useDraft, useFrame, useStale } from "../hooks/useDraft";
import { useKeys } from "../hooks/useKeys";
import { usePage } from "../hooks/usePage";
import type { Mode } from "../theme/theme";
import { newFrame } from "../verbs/nodes";
import { addFocused, useChoices } from "../verbs/palette";
import "../theme/frame.css";

const FrameStage = lazy(() => import("../viewers/frame/FrameStage"));

type Tab = "list" | "welds" | "sections" | "bars";
const TABS: [Tab, string][] = [
  ["list", "Cut list"],
  ["welds", "Welds"],
  ["sections", "Sections"],
  ["bars", "Bars"],
];

/** The frame bench: said on the left, the frame in space and its cut list on the right. */
export function Frames({ mode }: { mode: Mode }) {
  const { frame: asked, id = "" } = useParams();
  const navigate = useNavigate();
  const job = useDraft((d) => d.job);
  const { frame } = useFrame();
  const result = useDraft((d) => d.result?.frame);
  const list = useDraft((d) => d.result?.cut_list);
  const stale = useStale();
  const [tab, setTab] = useState<Tab>("list");
  const [folded, setFolded] = useState(false);
  const frames = job?.frames ?? [];

  useEffect(() => {
    const { showFrame } = draft.getState();
    const known = frames.find((f) => f.id === asked);
    if (known) showFrame(known.id);
    else if (frames[0]) navigate(`/jobs/${id}/frames/${frames[0].id}`, { replace: true });
    else showFrame("");
  }, [asked, frames, id, navigate]);
  useEffect(() => () => draft.getState().showFrame(""), []);

  const choices = useChoices("frame");
  useKeys((key) => {
    const verb = choices.find((v) => v.key === key);
    const acts: Record<string, () => void> = {
      "/": () => document.querySelector<HTMLElement>("#short-text")?.focus(),
    };
    const act = acts[key] ?? (verb && (() => addFocused("frame", verb)));
    act?.();
    return act !== undefined;
  });

  usePage("Frame", frame ? `${frame.mark} ${frame.name}` : "");
  if (!job) return null;
  const view = result && result.id === frame?.id ? result : undefined;
  const rows = list?.frames.find((f) => f.frame === frame?.id);
  const counts: Partial<Record<Tab, number>> = {
    welds: rows?.welds.length,
    sections: view?.sections.length,
  };
  return (
    <main className="bench" id="main" tabIndex={-1}>
      <h1 className="unseen">{frame ? `Frame ${frame.mark} ${frame.name}` : "Frames"}</h1>
      <FrameTabs />
      <aside className="said" aria-label="recipe">
        {frame ? (
          <>
            <FrameRecipe />
            {view && <Findings piece={view} mend={() => {}} />}
          </>
        ) : (
          <p className="empty">This job has no frame yet. Add the first with “+ frame” above.</p>
        )}
        <JobSettings />
        <JobFaults />
        <Trouble />
      </aside>
      <div className={`views stacked${folded ? " low" : ""}`}>
        {view ? (
          <>
            <section className="pane" aria-label="frame view">
              <h2>Frame</h2>
              <Suspense fallback={<p className="empty">The 3D view is coming…</p>}>
                <FrameStage frame={view} list={rows} mode={mode} />
              </Suspense>
            </section>
            <section
              className={`pane listed${folded ? " folded" : ""}`}
              aria-label={tab === "list" ? "cut list" : tab}
            >
              <h2>
                {TABS.map(([t, word]) => (
                  <button
                    type="button"
                    key={t}
                    className="pick"
                    aria-pressed={tab === t && !folded}
                    onClick={() => {
                      setTab(t);
                      setFolded(false);
                    }}
                  >
                    {word} {counts[t] || ""}
                  </button>
                ))}
                <span className="grow" />
                <button
                  type="button"
                  className="chip"
                  aria-expanded={!folded}
                  onClick={() => setFolded(!folded)}
                >
                  {folded ? "show the lists ▴" : "larger picture ▾"}
                </button>
              </h2>
              {!folded && tab === "list" && rows && list && (
                <CutTable list={rows} unit={list.length_unit} mass={list.mass_unit} />
              )}
              {!folded && tab === "welds" && rows && list && (
                <Welds list={rows} unit={list.length_unit} mass={list.mass_unit} />
              )}
              {!folded && tab === "sections" && <Sections />}
              {!folded && tab === "bars" && <Bars />}
            </section>
          </>
        ) : (
          <p className="empty wide">{frame ? "The frame is being worked out…" : ""}</p>
        )}
      </div>
      {view && <Figures piece={view} old={stale} />}
    </main>
  );
}

/** One tab a frame, with what its checks say. */
function FrameTabs() {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const job = useDraft((d) => d.job);
  const current = useDraft((d) => d.frame);
  const briefs = useDraft((d) => d.result?.frame_briefs);
  const frames = job?.frames ?? [];
  const add = () => {
    const { id: fresh, issued } = issue(
      "frame",
      frames.map((f) => f.id),
      job?.issued,
    );
    const mark = `F-${Math.max(0, ...frames.map((f) => Number(f.mark.match(/(\d+)$/)?.[1] ?? 0))) + 1}`;
    const made = newFrame(fresh, mark, job?.display?.length === "in");
    draft.getState().edit("", (j) => ({ ...j, issued, frames: [...(j.frames ?? []), made] }));
    navigate(`/jobs/${id}/frames/${fresh}`);
  };
  const [told, setTold] = useState("");
  const takeIn = async (input: HTMLInputElement) => {
    const file = input.files?.[0];
    input.value = "";
    if (!file) return;
    let got: { lines: FrameLine[]; left_out: string[] };
    try {
      got = JSON.parse(
        await text(
          await fetch(`/api/skeleton?unit=${job?.display?.length ?? "mm"}`, {
            method: "POST",
            headers: { "content-type": "text/csv" },
            body: await file.arrayBuffer(),
          }),
        ),
      );
    } catch (e) {
      setTold(said(e));
      return;
    }
    // Ids that are taken give way.
    editFrame("", (f) => {
      const taken = new Set((f.lines ?? []).map((l) => l.id));
      let { issued } = f;
      const fresh = got.lines.map((l) => {
        let { id } = l;
        if (taken.has(id)) ({ id, issued } = issue(stemOf(id), [...taken], issued));
        taken.add(id);
        return { ...l, id };
      });
      return { ...f, issued, lines: [...(f.lines ?? []), ...fresh] };
    });
    const more = got.left_out.length > 3 ? [`${got.left_out.length - 3} more left out`] : [];
    setTold([`${got.lines.length} lines taken in`, ...got.left_out.slice(0, 3), ...more].join("; "));
  };
  const drop = () => {
    const next = frames.find((f) => f.id !== current);
    draft.getState().edit("", (j) => ({
      ...j,
      issued: retire(current, j.issued),
      frames: j.frames?.filter((f) => f.id !== current),
    }));
    navigate(`/jobs/${id}/frames${next ? `/${next.id}` : ""}`);
  };
  return (
    <nav className="tabs" aria-label="frames">
      {frames.map((f) => {
        const b = briefs?.find((x) => x.id === f.id);
        const sign = !b ? "" : b.stops ? "■" : b.warns ? "▲" : "";
        return (
          <button
            type="button"
            key={f.id}
            aria-current={f.id === current}
            onClick={() => navigate(`/jobs/${id}/frames/${f.id}`)}
            title={f.name}
          >
            {f.mark} {f.id === current && <span className="tab-name">{f.name}</span>}{" "}
            {sign && <span className={b?.stops ? "stop" : "warn"}>{sign}</span>}
          </button>
        );
      })}
      <Button onClick={add}>+ frame</Button>
      {current && (
        <Button component="label" title="rows such as node,A,0,0,0 and member,rail,A B,SHS 60x60x3">
          nodes from CSV
          <input
            type="file"
            accept=".csv,text/csv"
            hidden
            aria-label="nodes from CSV"
            onChange={(e) => void takeIn(e.currentTarget)}
          />
        </Button>
      )}
      {told && <span className="hint">{told}</span>}
      {current && frames.length > 0 && <Button onClick={drop}>take frame out</Button>}
      <span className="grow" />
      <Keys bench="frame" />
    </nav>
  );
}
