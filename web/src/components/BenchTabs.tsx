import { Button } from "@mui/material";
import { memo, type ReactNode } from "react";
import { useNavigate, useParams } from "react-router";
import type { Evaluated } from "../api/types";
import { addDoc, type BenchName, docOf, dropDoc, LISTS } from "../document/bench";
import { draft } from "../document/draft";
import { archiveMany } from "../document/many";
import { useDraft, useSteady } from "../hooks/useDraft";
import { useFresh } from "../verbs/Settings";
import { Keys } from "./Keys";
import { PickTabs } from "./PickTabs";

/** What is to be said at a tab. */
interface State {
  id: string;
  stop: boolean;
  said: string;
}

/** How each brief stands. */
const statesOf = (result: Evaluated | null): State[] =>
  (result?.brief_states ?? []).map(({ id, tally, faults }) => ({
    id,
    stop: tally.off + tally.lost + faults > 0,
    said: tally.off + tally.lost + faults > 0 ? `${tally.met} of ${tally.all} met` : "",
  }));

/** What is done with what is on the bench as a whole; briefs have a tab each. */
export const BenchTabs = memo(function BenchTabs({
  bench,
  children,
}: {
  bench: BenchName;
  children?: ReactNode;
}) {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const current = useDraft((d) => d[bench]);
  const states = useSteady((d) => statesOf(d.result));
  const fresh = useFresh(bench);
  const docs = useSteady((d) =>
    (d.job?.[LISTS[bench]] ?? []).map(({ id, mark, name }) => ({ id, mark, name })),
  );
  const known = docs.some((d) => d.id === current);
  const go = (to: string) => navigate(`/jobs/${id}/${LISTS[bench]}${to && `/${to}`}`);
  const add = (from: object | undefined) => {
    if (!from) return;
    go(addDoc(bench, from));
    // Where letters add the first line.
    document.getElementById("main")?.focus();
  };
  const copy = () => {
    const from = docOf(bench);
    if (from) add({ ...from, name: `${from.name} (copy)` });
  };
  const drop = () => {
    const next = docs.find((d) => d.id !== current);
    dropDoc(bench);
    go(next?.id ?? "");
  };
  const archive = () => {
    const next = docs.find((d) => d.id !== current);
    const mark = docs.find((d) => d.id === current)?.mark;
    if (bench === "brief") return;
    archiveMany([{ kind: bench, id: current }]);
    draft.setState({ word: `${mark} is in the archive of the job: it is brought back from the list` });
    go(next?.id ?? "");
  };
  const tabs = docs.map((d) => {
    const b = states.find((x) => x.id === d.id);
    const said = b?.said ? `: ${b.said}` : "";
    return {
      value: d.id,
      title: d.name + said,
      words: (
        <span>
          {d.mark} {d.id === current && <span className="tab-name">{d.name}</span>}{" "}
          {said && <span className={b?.stop ? "stop" : "warn"}>{b?.stop ? "■" : "▲"}</span>}
        </span>
      ),
    };
  });
  return (
    <div className="tabs">
      {bench === "brief" && docs.length > 0 && (
        <PickTabs label={LISTS[bench]} tabs={tabs} value={known ? current : false} pick={go} />
      )}
      <Button onClick={() => add(fresh?.value)}>+ {bench}</Button>
      {known && <Button onClick={copy}>copy {bench}</Button>}
      {(known || bench === "piece") && children}
      {known && bench !== "brief" && <Button onClick={archive}>archive {bench}</Button>}
      {known && <Button onClick={drop}>take {bench} out</Button>}
      <span className="grow" />
      <Keys bench={bench} />
    </div>
  );
});
