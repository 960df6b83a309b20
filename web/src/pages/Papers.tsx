import { Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { paperUrl, text } from "../api/client";
import { FramePapers } from "../components/FramePapers";
import { unsaved } from "../document/saving";
import { useDraft, useStale } from "../hooks/useDraft";
import { usePage } from "../hooks/usePage";

type Shown = "flat-svg" | "formed-svg" | "template-svg" | "bend-sheet-svg";

const SHOWN: [Shown, string][] = [
  ["flat-svg", "Flat pattern"],
  ["formed-svg", "Formed"],
  ["template-svg", "Template, first page"],
  ["bend-sheet-svg", "Bend sheet"],
];

/** What can be taken away, per piece and for the job, as it was last saved. */
export function Papers() {
  const { id = "" } = useParams();
  const list = useDraft((d) => d.result?.cut_list);
  const saving = useDraft((d) => d.saving);
  const { revision } = saving;
  const stale = useStale();
  const [picked, setPicked] = useState("");
  const [shown, setShown] = useState<Shown>("flat-svg");
  const [paper, setPaper] = useState("A4");
  const frame = list?.frames.find((f) => f.frame === picked);
  // Plates of frames have the papers of sheet pieces.
  const plates = (list?.frames ?? []).flatMap((f) =>
    f.plates.map((p) => ({ ...p, bends: 0, frame: f.frame })),
  );
  const plate = plates.find((p) => p.piece === picked);
  const piece = frame
    ? undefined
    : (list?.rows.find((r) => r.piece === picked) ?? plate ?? list?.rows[0]);
  const preview = useQuery({
    queryKey: ["paper", id, revision, piece?.piece, shown, paper],
    enabled: Boolean(piece),
    queryFn: async () => {
      return text(
        await fetch(
          paperUrl(id, shown, {
            piece: piece?.piece ?? "",
            paper,
            view: "true",
            revision: String(revision),
          }),
        ),
      );
    },
  });
  usePage("Papers");
  if (!list) return <p className="empty wide">The cut list is coming…</p>;
  const own = (kind: string) =>
    piece ? paperUrl(id, kind, { piece: piece.piece, paper, revision: String(revision) }) : "";
  const waits = unsaved(saving);
  return (
    <main className="papers" id="main" tabIndex={-1}>
      <section className="paper-list">
        <header className="rack-head">
          <h1>Papers</h1>
          <Button variant="contained" href={paperUrl(id, "cutlist", { revision: String(revision) })}>
            Cut list (CSV)
          </Button>
          <Button variant="outlined" href={paperUrl(id, "job", { revision: String(revision) })}>
            Job file
          </Button>
          <Button onClick={() => window.print()}>Print this list</Button>
          <span className={waits ? "warn" : "hint"} aria-live="polite">
            {waits
              ? `papers are of revision ${revision}; what you changed since is not saved yet`
              : `papers of revision ${revision}`}
            {stale && "; the list below is being worked out"}
          </span>
        </header>
        <Table size="small" aria-label="cut list">
          <TableHead>
            <TableRow>
              <TableCell>mark</TableCell>
              <TableCell>name</TableCell>
              <TableCell align="right">qty</TableCell>
              <TableCell>material</TableCell>
              <TableCell align="right">t [{list.length_unit}]</TableCell>
              <TableCell align="right">blank [{list.length_unit}]</TableCell>
              <TableCell align="right">bends</TableCell>
              <TableCell align="right">each [{list.mass_unit}]</TableCell>
              <TableCell align="right">all [{list.mass_unit}]</TableCell>
              <TableCell align="right">cut [{list.length_unit}]</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {list.rows.map((r) => (
              <TableRow
                key={r.piece}
                hover
                selected={r.piece === piece?.piece}
                onClick={() => setPicked(r.piece)}
                sx={{ cursor: "pointer" }}
              >
                <TableCell>
                  <button type="button" className="chip" onClick={() => setPicked(r.piece)}>
                    {r.mark}
                  </button>
                </TableCell>
                <TableCell>
                  {r.name} {r.stops > 0 && <span className="stop">■ {r.stops} to stop for</span>}
                </TableCell>
                <TableCell className="num">{r.quantity}</TableCell>
                <TableCell>{r.material}</TableCell>
                <TableCell className="num">{r.thickness}</TableCell>
                <TableCell
                  className="num"
                  title={[
                    `${r.area} one face`,
                    r.radius && `inside radius ${r.radius}`,
                    r.rolling && `rolled ${r.rolling}`,
                    r.hand && `${r.hand} hand`,
                    r.finish,
                  ]
                    .filter(Boolean)
                    .join("; ")}
                >
                  {r.blank}
                </TableCell>
                <TableCell className="num">
                  {r.rolls ? `${r.bends} + ${r.rolls} rolled` : r.bends}
                </TableCell>
                <TableCell className="num">{r.unit_mass}</TableCell>
                <TableCell className="num">{r.total_mass}</TableCell>
                <TableCell className="num">{r.cut_length}</TableCell>
              </TableRow>
            ))}
            {list.frames.map((f) => (
              <TableRow
                key={f.frame}
                hover
                selected={f.frame === picked}
                onClick={() => setPicked(f.frame)}
                sx={{ cursor: "pointer" }}
              >
                <TableCell>
                  <button type="button" className="chip" onClick={() => setPicked(f.frame)}>
                    {f.mark}
                  </button>
                </TableCell>
                <TableCell>
                  {f.name} {f.stops > 0 && <span className="stop">■ {f.stops} to stop for</span>}
                </TableCell>
                <TableCell className="num">{f.quantity}</TableCell>
                <TableCell colSpan={5}>
                  frame: {f.bars.reduce((n, b) => n + b.quantity, 0)} members, plates{" "}
                  {f.plates.map((p) => (
                    <button
                      type="button"
                      key={p.key}
                      className="chip"
                      onClick={(e) => {
                        e.stopPropagation();
                        setPicked(p.piece);
                      }}
                    >
                      {p.mark}
                    </button>
                  ))}
                </TableCell>
                <TableCell className="num">{f.mass.split(" ")[0]}</TableCell>
                <TableCell />
              </TableRow>
            ))}
            <TableRow>
              <TableCell colSpan={2}>together</TableCell>
              <TableCell className="num">{list.pieces}</TableCell>
              <TableCell colSpan={5} />
              <TableCell className="num">{list.total_mass}</TableCell>
              <TableCell />
            </TableRow>
          </TableBody>
        </Table>
        {list.sheets.length > 0 && (
          <table className="to-buy" aria-label="sheet and plate to buy">
            <caption>Sheet and plate</caption>
            <tbody>
              {list.sheets.map((t) => (
                <tr key={t.material + t.thickness}>
                  <th>{t.material}</th>
                  <td className="num">
                    {t.thickness} {list.length_unit}
                  </td>
                  <td className="num">{t.blanks} of blanks</td>
                  <td className="num">
                    {t.mass} {list.mass_unit}
                  </td>
                  <td className="num">
                    {t.pieces} {t.pieces === 1 ? "piece" : "pieces"}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {list.rows.length === 0 && <p className="empty wide">No piece can be made yet.</p>}
      </section>
      {frame && <FramePapers key={frame.frame} job={id} list={frame} revision={revision} />}
      {piece && (
        <section className="paper-piece" aria-label={`papers of ${piece.mark}`}>
          <header>
            <h2>
              {piece.mark} {piece.name}
            </h2>
            <Button
              component={Link}
              to={plate ? `/jobs/${id}/frames/${plate.frame}` : `/jobs/${id}/pieces/${piece.piece}`}
            >
              to the bench
            </Button>
          </header>
          {"unseen" in piece && piece.unseen && <p className="muted">{piece.unseen}.</p>}
          {piece.stops > 0 && (
            <p className="fault">Something here cannot be made yet: see its findings before you cut.</p>
          )}
          <div className="downloads">
            <Button variant="contained" href={own("dxf")}>
              DXF for the cutter
            </Button>
            <Button variant="contained" href={own("template")}>
              1:1 template (PDF)
            </Button>
            {piece.bends > 0 && (
              <Button variant="contained" href={own("bend-sheet")}>
                Bend sheet (PDF)
              </Button>
            )}
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
            <Button variant="outlined" href={own("flat-svg")}>
              Flat SVG
            </Button>
            <Button variant="outlined" href={own("formed-svg")}>
              Formed SVG
            </Button>
            <Button variant="outlined" href={own("stl")}>
              STL
            </Button>
            <Button variant="outlined" href={own("glb")}>
              GLB
            </Button>
            {"patterns" in piece && piece.patterns && (
              <>
                <Button variant="outlined" href={own("stl-plain")}>
                  STL without patterns
                </Button>
                <Button variant="outlined" href={own("glb-plain")}>
                  GLB without patterns
                </Button>
              </>
            )}
          </div>
          <nav className="shown">
            {SHOWN.filter(([k]) => k !== "bend-sheet-svg" || piece.bends > 0).map(([k, word]) => (
              <button type="button" key={k} aria-current={k === shown} onClick={() => setShown(k)}>
                {word}
              </button>
            ))}
          </nav>
          {preview.isError ? (
            <p className="fault">{preview.error.message}</p>
          ) : (
            <Drawn svg={preview.data ?? ""} />
          )}
        </section>
      )}
    </main>
  );
}

/** A drawing of the server's, on a sheet of paper. */
function Drawn({ svg }: { svg: string }) {
  const src = svg ? `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}` : "";
  return <div className="sheet">{src && <img src={src} alt="preview" />}</div>;
}
