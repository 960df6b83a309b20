import { useState } from "react";
import type { FrameList } from "../api/types";
import { Pick } from "../verbs/Pick";
import { PaperOf, type PaperTo, Take } from "./PaperOf";

/** Papers of one frame: its sheet, its lists, templates of its copes. */
export function FramePapers({ job, list, revision }: { job: string; list: FrameList; revision: number }) {
  const copes = list.bars.flatMap((b) =>
    b.cuts.filter((c) => c.template).map((c) => ({ number: c.template, row: b })),
  );
  return (
    <PaperOf
      job={job}
      revision={revision}
      of={{ frame: list.frame }}
      title={`${list.mark} ${list.name}`}
      bench={`/jobs/${job}/frames/${list.frame}`}
      stops={list.stops}
      page
      shown={[
        ["frame-sheet-svg", "Sheet, first page"],
        ["bars-svg", "Bars, first page"],
        ...copes.map((c): [string, string] => [`wrap-svg:${c.number}`, `Cope ${c.number}`]),
      ]}
      first={(to) => (
        <>
          <Take loud to={to("frame-sheet")}>
            Frame sheet (PDF)
          </Take>
          <Take loud to={to("saw-list")}>
            Saw list (CSV)
          </Take>
          <Take loud to={to("spreadsheet")}>
            Spreadsheet
          </Take>
          <Take loud to={to("bars")}>
            Bars (PDF)
          </Take>
        </>
      )}
      more={(to) => (
        <>
          <Take to={to("plate-list")}>Plates (CSV)</Take>
          <Take to={to("skeleton")}>Skeleton (CSV)</Take>
          <Take to={to("frame-stl")}>STL</Take>
          <Take to={to("frame-glb")}>GLB</Take>
          <OneBar list={list} to={to} />
          {copes.map((c) => (
            <span key={c.number}>
              <Take to={to("wrap", c.number)}>{c.number} wrap 1:1 (PDF)</Take>{" "}
              {c.row.skin && <Take to={to("tube-dxf", c.row.mark)}>{c.row.mark} skin (DXF)</Take>}
            </span>
          ))}
        </>
      )}
    />
  );
}

/** Files of one piece of the list. */
function OneBar({ list, to }: { list: FrameList; to: PaperTo }) {
  const [mark, setMark] = useState("");
  const marks = list.bars.map((b) => [b.mark, b.mark] as const);
  return (
    <>
      <span>
        piece{" "}
        <Pick label="piece" value={mark} options={[["", "…"] as const, ...marks]} choose={setMark} />
      </span>
      {mark && list.bars.find((b) => b.mark === mark)?.skin && (
        <Take to={to("tube-dxf", mark)}>DXF for the tube laser</Take>
      )}
      {mark && <Take to={to("bar-svg", mark)}>SVG</Take>}
    </>
  );
}
