import { Button } from "@mui/material";
import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { said, text } from "../api/client";
import type { FrameLine } from "../api/types";
import { Bars } from "../components/Bars";
import { Bench } from "../components/Bench";
import { CutTable } from "../components/CutTable";
import { PickTabs } from "../components/PickTabs";
import { Sections } from "../components/Sections";
import { Welds } from "../components/Welds";
import { editDoc } from "../document/bench";
import { draft } from "../document/draft";
import { issue, stemOf } from "../document/ids";
import { useCutList } from "../hooks/useCutList";
import { useDocument, useDraft, useFrame } from "../hooks/useDraft";
import type { Mode } from "../theme/theme";
import { Act } from "../verbs/Act";

const FrameStage = lazy(() => import("../viewers/frame/FrameStage"));

type Tab = "list" | "welds" | "sections" | "bars";

/** One frame: in space, and its lists. */
export function Frames({ mode }: { mode: Mode }) {
  const frame = useFrame();
  const result = useDraft((d) => d.result?.frame);
  const list = useCutList();
  const [tab, setTab] = useState<Tab>("list");
  const [folded, setFolded] = useState(false);
  useEffect(() => () => draft.getState().showFrame(""), []);
  const view = result && result.id === frame?.id ? result : undefined;
  const rows = list?.frames.find((f) => f.frame === frame?.id);
  const units = list && { unit: list.length_unit, mass: list.mass_unit };
  return (
    <Bench bench="frame" acts={ACTS} figures={view}>
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
              <div className="pane-head">
                <PickTabs<Tab>
                  label="lists of the frame"
                  value={folded ? false : tab}
                  pick={(t) => {
                    setTab(t);
                    setFolded(false);
                  }}
                  tabs={[
                    { value: "list", words: "Cut list" },
                    { value: "welds", words: `Welds ${rows?.welds.length || ""}` },
                    { value: "sections", words: `Sections ${view.sections.length || ""}` },
                    { value: "bars", words: "Bars" },
                  ]}
                />
                <span className="grow" />
                <Act aria-expanded={!folded} onClick={() => setFolded(!folded)}>
                  {folded ? "show the lists ▴" : "larger picture ▾"}
                </Act>
              </div>
              {!folded && tab === "list" && rows && units && <CutTable list={rows} {...units} />}
              {!folded && tab === "welds" && rows && units && <Welds list={rows} {...units} />}
              {!folded && tab === "sections" && <Sections />}
              {!folded && tab === "bars" && <Bars />}
            </section>
          </>
        ) : (
          frame && <p className="empty wide">The frame is being worked out…</p>
        )}
      </div>
    </Bench>
  );
}

/** Nodes and members from a table. */
function Skeleton() {
  const unit = useDocument((d) => d.job?.display?.length ?? "mm");
  const [told, setTold] = useState("");
  const input = useRef<HTMLInputElement>(null);
  const takeIn = async (input: HTMLInputElement) => {
    const file = input.files?.[0];
    input.value = "";
    if (!file) return;
    let got: { lines: FrameLine[]; left_out: string[] };
    try {
      const answer = await fetch(`/api/skeleton?unit=${unit}`, {
        method: "POST",
        headers: { "content-type": "text/csv" },
        body: await file.arrayBuffer(),
      });
      got = JSON.parse(await text(answer));
    } catch (e) {
      setTold(said(e));
      return;
    }
    // Ids that are taken give way.
    editDoc("frame", "", (f) => {
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
  return (
    <>
      <Button
        title="rows such as node,A,0,0,0 and member,rail,A B,SHS 60x60x3"
        onClick={() => input.current?.click()}
      >
        nodes from CSV
      </Button>
      <input
        ref={input}
        type="file"
        hidden
        accept=".csv,text/csv"
        aria-label="nodes from CSV"
        onChange={(e) => void takeIn(e.currentTarget)}
      />
      {told && (
        <span className="hint" role="status">
          {told}
        </span>
      )}
    </>
  );
}

/** Made once: tabs are drawn anew only when they change. */
const ACTS = <Skeleton />;
