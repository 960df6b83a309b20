import { type ReactNode, useCallback, useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { addDoc, applyMend, type BenchName, docOf, LISTS } from "../document/bench";
import { draft } from "../document/draft";
import { classes } from "../hooks/classes";
import { type Checked, useChecked } from "../hooks/useBench";
import { useDocument, useSteady } from "../hooks/useDraft";
import { useKeys } from "../hooks/useKeys";
import { usePage } from "../hooks/usePage";
import { Act } from "../verbs/Act";
import { begin, beginningsOf } from "../verbs/Beginnings";
import { addFocused, useChoices } from "../verbs/palette";
import { useFresh } from "../verbs/Settings";
import { useVerbs } from "../verbs/useVerbs";
import { BenchTabs } from "./BenchTabs";
import { BrokenFigures } from "./BrokenFigures";
import { Figures, Findings } from "./Figures";
import { Head } from "./Head";
import { JobList } from "./JobList";
import { JobRail, useOnBench } from "./JobRail";
import { JobFaults, JobSettings } from "./JobSettings";
import type { JobRow } from "./jobRows";
import { Recipe } from "./Recipe";
import { Trouble } from "./Trouble";

const STATION: Record<BenchName, string> = { piece: "Pieces", frame: "Frame", brief: "Brief" };
const HEADING: Record<BenchName, string> = { piece: "Piece", frame: "Frame", brief: "Brief" };

interface Props {
  bench: BenchName;
  /** Beside the tabs. */
  acts?: ReactNode;
  /** What it looks like. */
  children: ReactNode;
  /** Whose figures stand below the views; of an older state where the present one cannot be made. */
  figures?: Pick<Checked, "figures">;
  old?: boolean;
}

/** The bench: one piece or frame, said on the left, seen on the right, always in step. */
export function Bench({ bench, acts, children, figures, old = false }: Props) {
  const id = useDocument((d) => docOf(bench, d)?.id);
  const said = useDocument((d) => {
    const doc = docOf(bench, d);
    return doc ? `${doc.mark} ${doc.name}` : "";
  });
  const view = useChecked(bench);
  const [listed, setListed] = useState(false);
  const current = useOnBench();
  const navigate = useNavigate();
  const { id: job = "" } = useParams();
  const railed = bench !== "brief";
  const go = useCallback(
    (row: Pick<JobRow, "kind" | "id">) => {
      setListed(false);
      navigate(`/jobs/${job}/${LISTS[row.kind]}/${row.id}`);
    },
    [job, navigate],
  );
  const open = useCallback(() => setListed(true), []);
  useAsked(bench);
  useVerbKeys(bench, railed ? open : undefined);
  usePage(STATION[bench], id ? said : "");
  const heading = HEADING[bench];
  return (
    <main className={classes("bench", { railed })} id="main" tabIndex={-1}>
      <h1 className="unseen">{id ? `${heading} ${said}` : `${heading}s`}</h1>
      <BenchTabs bench={bench}>{acts}</BenchTabs>
      {railed && <JobRail current={current} go={go} open={open} />}
      {listed ? (
        <JobList current={current} go={go} close={() => setListed(false)} />
      ) : (
        <>
          <section className="said" aria-label="recipe">
            {id ? (
              <>
                <Head bench={bench} />
                <Recipe bench={bench} id={id} />
                {bench !== "brief" && <BrokenFigures bench={bench} />}
                {view && bench !== "brief" && (
                  <Findings piece={view} mend={(f) => f.mend && applyMend(bench, f.mend)} />
                )}
              </>
            ) : (
              <Empty bench={bench} />
            )}
            <JobSettings />
            <JobFaults />
            <Trouble />
          </section>
          {children}
          {figures && <Figures piece={figures} old={old} />}
        </>
      )}
    </main>
  );
}

/** Nothing stands here yet: what to do next. A job begins with its drawings, or without any. */
function Empty({ bench }: { bench: BenchName }) {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const piece = useFresh("piece")?.value;
  const frame = useFresh("frame")?.value;
  const start = (of: "piece" | "frame", from: object) => {
    navigate(`/jobs/${id}/${LISTS[of]}/${addDoc(of, from)}`);
    document.getElementById("main")?.focus();
  };
  if (bench !== "brief") {
    const fresh = { piece, frame }[bench];
    const from = { piece: "a drawing brought in above", frame: "nodes and members that you draw" }[bench];
    return (
      <p className="empty">
        {`There is no ${bench} yet. `}
        <Act disabled={!fresh} onClick={() => fresh && start(bench, fresh)}>
          Start with a {bench}
        </Act>
        {` It begins from small pictures with their sizes, or from ${from}.`}
      </p>
    );
  }
  return (
    <div className="empty">
      <p>
        A job begins with its drawings: write their figures down with “+ brief” above, and each is checked
        against the model at every step.
      </p>
      <p>
        {"No drawing at hand? "}
        <Act disabled={!piece} onClick={() => piece && start("piece", piece)}>
          Start with a piece
        </Act>{" "}
        <Act disabled={!frame} onClick={() => frame && start("frame", frame)}>
          Start with a frame
        </Act>
      </p>
    </div>
  );
}

/** Brings what the address names onto the bench, or the first there is. */
function useAsked(bench: BenchName): void {
  const params = useParams();
  const navigate = useNavigate();
  const asked = params[bench];
  const { id = "" } = params;
  const ids = useSteady((d) => (d.job?.[LISTS[bench]] ?? []).map((x) => x.id));
  useEffect(() => {
    const { showPiece, showFrame, showBrief } = draft.getState();
    const show = { piece: showPiece, frame: showFrame, brief: showBrief }[bench];
    if (asked && ids.includes(asked)) show(asked);
    else if (ids[0]) navigate(`/jobs/${id}/${LISTS[bench]}/${ids[0]}`, { replace: true });
    else if (bench !== "piece") show("");
  }, [asked, ids, id, navigate, bench]);
}

/** Letters add lines, `/` goes to where one is typed, S opens the list. */
function useVerbKeys(bench: BenchName, list: (() => void) | undefined): void {
  const choices = useChoices(bench);
  const verbs = useVerbs();
  const empty = useDocument((d) => docOf(bench, d)?.lines?.length === 0);
  useKeys((key) => {
    const first = empty ? beginningsOf(bench, verbs).find((b) => b.key === key) : undefined;
    const verb = choices.find((v) => v.key === key);
    if (key === "/") document.querySelector<HTMLElement>("#short-text")?.focus();
    else if (first) void begin(bench, first, verbs);
    else if (verb) addFocused(bench, verb);
    else if (key === "s" && list) list();
    else return false;
    return true;
  });
}
