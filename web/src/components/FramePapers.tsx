import { Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { paperUrl, text } from "../api/client";
import type { FrameList } from "../api/types";

/** Papers of one frame: its sheet, its lists, templates of its copes. */
export function FramePapers({ job, list, revision }: { job: string; list: FrameList; revision: number }) {
  const [shown, setShown] = useState("frame-sheet-svg");
  const [paper, setPaper] = useState("A4");
  const of = (kind: string, piece = "") =>
    paperUrl(job, kind, {
      frame: list.frame,
      paper,
      revision: String(revision),
      ...(piece ? { piece } : {}),
    });
  const copes = list.bars.flatMap((b) =>
    b.cuts.filter((c) => c.template).map((c) => ({ number: c.template, row: b })),
  );
  const [kind, piece] = shown.split(":");
  const [skin, setSkin] = useState("");
  const preview = useQuery({
    queryKey: ["paper", job, revision, list.frame, shown, paper],
    queryFn: async () => {
      const svg = await text(await fetch(`${of(kind!, piece)}&view=true`));
      return `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
    },
  });
  const tabs: [string, string][] = [
    ["frame-sheet-svg", "Sheet, first page"],
    ["bars-svg", "Bars, first page"],
    ...copes.map((c): [string, string] => [`wrap-svg:${c.number}`, `Cope ${c.number}`]),
  ];
  return (
    <section className="paper-piece" aria-label={`papers of ${list.mark}`}>
      <header>
        <h2>
          {list.mark} {list.name}
        </h2>
        <Button component={Link} to={`/jobs/${job}/frames/${list.frame}`}>
          to the bench
        </Button>
      </header>
      {list.stops > 0 && (
        <p className="fault">Something here cannot be made yet: see its findings before you cut.</p>
      )}
      <div className="downloads">
        <Button variant="contained" href={of("frame-sheet")}>
          Frame sheet (PDF)
        </Button>
        <Button variant="contained" href={of("saw-list")}>
          Saw list (CSV)
        </Button>
        <Button variant="contained" href={of("spreadsheet")}>
          Spreadsheet
        </Button>
        <Button variant="contained" href={of("bars")}>
          Bars (PDF)
        </Button>
        <label>
          on{" "}
          <select
            className="choice"
            aria-label="paper size"
            value={paper}
            onChange={(e) => setPaper(e.target.value)}
          >
            <option>A4</option>
            <option>A3</option>
            <option>Letter</option>
          </select>
        </label>
        <Button variant="outlined" href={of("plate-list")}>
          Plates (CSV)
        </Button>
        <Button variant="outlined" href={of("skeleton")}>
          Skeleton (CSV)
        </Button>
        <Button variant="outlined" href={of("frame-stl")}>
          STL
        </Button>
        <Button variant="outlined" href={of("frame-glb")}>
          GLB
        </Button>
        <label>
          piece{" "}
          <select
            className="choice"
            aria-label="piece"
            value={skin}
            onChange={(e) => setSkin(e.target.value)}
          >
            <option value="">…</option>
            {list.bars.map((b) => (
              <option key={b.key} value={b.mark}>
                {b.mark}
              </option>
            ))}
          </select>
        </label>
        {skin && (
          <>
            {list.bars.find((b) => b.mark === skin)?.skin && (
              <Button variant="outlined" href={of("tube-dxf", skin)}>
                DXF for the tube laser
              </Button>
            )}
            <Button variant="outlined" href={of("bar-svg", skin)}>
              SVG
            </Button>
          </>
        )}
      </div>
      {copes.length > 0 && (
        <div className="downloads">
          {copes.map((c) => (
            <span key={c.number}>
              <Button variant="outlined" href={of("wrap", c.number)}>
                {c.number} wrap 1:1 (PDF)
              </Button>{" "}
              {c.row.skin && (
                <Button variant="outlined" href={of("tube-dxf", c.row.mark)}>
                  {c.row.mark} skin (DXF)
                </Button>
              )}
            </span>
          ))}
        </div>
      )}
      <nav className="shown">
        {tabs.map(([k, word]) => (
          <button type="button" key={k} aria-current={k === shown} onClick={() => setShown(k)}>
            {word}
          </button>
        ))}
      </nav>
      {preview.isError ? (
        <p className="fault">{preview.error.message}</p>
      ) : (
        <div className="sheet page">{preview.data && <img src={preview.data} alt="preview" />}</div>
      )}
    </section>
  );
}
