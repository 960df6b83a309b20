import { Button } from "@mui/material";
import { memo, type ReactNode } from "react";
import { useNavigate, useParams } from "react-router";
import { addDoc, type BenchName, docOf, dropDoc, LISTS } from "../document/bench";
import { useDraft, useSteady } from "../hooks/useDraft";
import { useFresh } from "../verbs/Settings";
import { Keys } from "./Keys";
import { PickTabs } from "./PickTabs";

/** One tab a piece or frame, with what its checks say; more can be added. */
export const BenchTabs = memo(function BenchTabs({
  bench,
  children,
}: {
  bench: BenchName;
  children?: ReactNode;
}) {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const current = useDraft((d) => (bench === "piece" ? d.piece : d.frame));
  const briefs = useSteady((d) => {
    const all = bench === "piece" ? d.result?.briefs : d.result?.frame_briefs;
    return (all ?? []).map(({ id, stops, warns }) => ({ id, stops, warns }));
  });
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
  const tabs = docs.map((d) => {
    const b = briefs.find((x) => x.id === d.id);
    const said = b?.stops ? `: ${b.stops} to stop for` : b?.warns ? `: ${b.warns} warnings` : "";
    return {
      value: d.id,
      title: d.name + said,
      words: (
        <span>
          {d.mark} {d.id === current && <span className="tab-name">{d.name}</span>}{" "}
          {said && <span className={b?.stops ? "stop" : "warn"}>{b?.stops ? "■" : "▲"}</span>}
        </span>
      ),
    };
  });
  return (
    <div className="tabs">
      {docs.length > 0 && (
        <PickTabs label={LISTS[bench]} tabs={tabs} value={known ? current : false} pick={go} />
      )}
      <Button onClick={() => add(fresh?.value)}>+ {bench}</Button>
      {known && <Button onClick={copy}>copy {bench}</Button>}
      {known && children}
      {known && <Button onClick={drop}>take {bench} out</Button>}
      <span className="grow" />
      <Keys bench={bench} />
    </div>
  );
});
