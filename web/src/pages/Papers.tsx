import { Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { paperUrl } from "../api/client";
import { FramePapers } from "../components/FramePapers";
import { PaperOf } from "../components/PaperOf";
import { unsaved } from "../document/saving";
import { useCutList } from "../hooks/useCutList";
import { useDraft, useStale } from "../hooks/useDraft";
import { usePage } from "../hooks/usePage";
import { Act } from "../verbs/Act";

/** What can be taken away, per piece and for the job, as it was last saved. */
export function Papers() {
  const { id = "" } = useParams();
  const list = useCutList();
  const saving = useDraft((d) => d.saving);
  const { revision } = saving;
  const stale = useStale();
  const [picked, setPicked] = useState("");
  const begun = useDraft((d) => (d.job?.pieces ?? []).length > 0);
  const variants = useDraft((d) => (d.job?.variants?.length ?? 0) > 0);
  const frame = list?.frames.find((f) => f.frame === picked);
  // Plates of frames have the papers of sheet pieces.
  const plates = (list?.frames ?? []).flatMap((f) =>
    f.plates.map((p) => ({ ...p, bends: 0, frame: f.frame })),
  );
  const plate = plates.find((p) => p.piece === picked);
  const piece = frame
    ? undefined
    : (list?.rows.find((r) => r.piece === picked) ?? plate ?? list?.rows[0]);
  usePage("Papers");
  if (!list) return <p className="empty wide">The cut list is coming…</p>;
  const waits = unsaved(saving);
  const nothing = list.rows.length + list.frames.length === 0;
  return (
    <main className="papers" id="main" tabIndex={-1}>
      <section className="paper-list">
        <header className="rack-head">
          <h1>Papers</h1>
          {!nothing && (
            <Button variant="contained" href={paperUrl(id, "cutlist", { revision: String(revision) })}>
              Cut list (CSV)
            </Button>
          )}
          <Button variant="outlined" href={paperUrl(id, "job", { revision: String(revision) })}>
            Job file
          </Button>
          {variants && (
            <Button href={paperUrl(id, "variants", { revision: String(revision) })}>
              All variants (zip)
            </Button>
          )}
          {!nothing && <Button onClick={() => window.print()}>Print this list</Button>}
          <span className={waits ? "warn" : "hint"} aria-live="polite">
            {waits
              ? `papers are of revision ${revision}; what you changed since is not saved yet`
              : `papers of revision ${revision}`}
            {stale && "; the list below is being worked out"}
          </span>
        </header>
        {nothing ? (
          <NothingToCut job={id} begun={begun} />
        ) : (
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
                    <Act onClick={() => setPicked(r.piece)}>{r.mark}</Act>
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
                    <Act onClick={() => setPicked(f.frame)}>{f.mark}</Act>
                  </TableCell>
                  <TableCell>
                    {f.name} {f.stops > 0 && <span className="stop">■ {f.stops} to stop for</span>}
                  </TableCell>
                  <TableCell className="num">{f.quantity}</TableCell>
                  <TableCell colSpan={5}>
                    frame: {f.bars.reduce((n, b) => n + b.quantity, 0)} members, plates{" "}
                    {f.plates.map((p) => (
                      <Act
                        key={p.key}
                        onClick={(e) => {
                          e.stopPropagation();
                          setPicked(p.piece);
                        }}
                      >
                        {p.mark}
                      </Act>
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
        )}
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
      </section>
      {frame && <FramePapers key={frame.frame} job={id} list={frame} revision={revision} />}
      {piece && (
        <PaperOf
          key={piece.piece}
          job={id}
          revision={revision}
          of={{ piece: piece.piece }}
          title={`${piece.mark} ${piece.name}`}
          bench={
            plate
              ? `/jobs/${id}/frames/${plate.frame}`
              : `/jobs/${id}/pieces/${("of" in piece && piece.of) || piece.piece}`
          }
          stops={piece.stops}
          note={"unseen" in piece ? piece.unseen : ""}
          fit={"fit_first" in piece && piece.fit_first}
          subjects={["piece"]}
          has={(needs) =>
            needs === "bends"
              ? piece.bends > 0
              : needs === "holes"
                ? "holes" in piece && piece.holes
                : needs === "patterns" && "patterns" in piece && piece.patterns
          }
        />
      )}
    </main>
  );
}

/** No paper can come of the job yet: what to do next. */
function NothingToCut({ job, begun }: { job: string; begun: boolean }) {
  return begun ? (
    <p className="empty wide">
      No piece can be made yet: what each still lacks stands at its line, under{" "}
      <Link to={`/jobs/${job}/pieces`}>Pieces</Link>.
    </p>
  ) : (
    <p className="empty wide">
      Nothing is to be cut yet. Begin with a piece under <Link to={`/jobs/${job}/pieces`}>Pieces</Link>,
      or with a frame under <Link to={`/jobs/${job}/frames`}>Frame</Link>: the cut list and every paper
      come from them.
    </p>
  );
}
