import { Button } from "@mui/material";
import { useCallback, useEffect, useState } from "react";
import { Refusal, said, text } from "../api/client";
import type { DxfLines, Job, LengthUnit, Piece } from "../api/types";
import { useVerbs, type Verbs } from "../verbs/useVerbs";

/** A job with one piece: what the drawing holds. */
function jobOf(name: string, got: DxfLines, verbs: Verbs): Job {
  const inch = got.length === "in";
  const start = verbs.settings.find((s) => s.tag === "piece")?.starts[0];
  const piece = (inch ? start?.inch : start?.mm) as unknown as Piece;
  return {
    ...(inch ? verbs.new_job.inch : verbs.new_job.mm),
    title: name,
    pieces: [{ ...piece, id: "piece-1", name, lines: got.lines }],
  };
}

/**
 * A DXF being brought in: asks for the unit where the file names none, tells what was mended and left out
 * before the piece is made.
 */
export function Drawing({ file, make, close }: { file: File; make(job: Job): void; close(): void }) {
  const [got, setGot] = useState<DxfLines | null>(null);
  const [asks, setAsks] = useState("");
  const [trouble, setTrouble] = useState("");
  const name = file.name.replace(/\.dxf$/i, "");
  const read = useCallback(
    async (assume?: LengthUnit) => {
      try {
        const answer = await fetch(`/api/dxf${assume ? `?assume=${assume}` : ""}`, {
          method: "POST",
          body: await file.arrayBuffer(),
        });
        setGot(JSON.parse(await text(answer)) as DxfLines);
        setAsks("");
      } catch (e) {
        if (e instanceof Refusal && e.field === "assume") setAsks(e.title ?? "");
        else setTrouble(said(e));
      }
    },
    [file],
  );
  useEffect(() => void read(), [read]);
  const verbs = useVerbs();
  const finish = (of: DxfLines) => {
    if (!verbs) return;
    make(jobOf(name, of, verbs));
    close();
  };
  // Nothing to tell: the piece is made at once.
  const told = !got || got.mended.length + got.left_out.length > 0;
  useEffect(() => {
    if (got && !told) finish(got);
  }, [got, verbs]);
  const layers = Object.entries(got?.layers ?? {}).map(([layer, n]) => `${layer} (${n})`);
  return (
    <section className="drawing" aria-label={file.name}>
      <h2>{file.name}</h2>
      {trouble && (
        <p className="fault" role="alert">
          {trouble}
        </p>
      )}
      {asks && <p role="alert">{asks}.</p>}
      {!trouble && !asks && !got && <p className="muted">is being read…</p>}
      {got && told && (
        <>
          <p>
            Taken: the outline and {got.lines.length - 1} {got.lines.length === 2 ? "cut" : "cuts"}, from{" "}
            {layers.length === 1 ? "layer" : "layers"} {layers.join(", ")}; the file is in{" "}
            {got.unit ?? "the unit that you chose"}. Material and thickness are not in a DXF: choose them
            on the piece.
          </p>
          <Told what="Mended" all={got.mended} />
          <Told what="Left out" all={got.left_out} />
        </>
      )}
      <footer>
        {asks && (
          <>
            <Button variant="contained" onClick={() => void read("mm")}>
              Millimetres
            </Button>
            <Button variant="contained" onClick={() => void read("in")}>
              Inches
            </Button>
          </>
        )}
        {got && told && (
          <Button variant="contained" onClick={() => finish(got)}>
            Make the piece
          </Button>
        )}
        <Button onClick={close}>{trouble ? "Close" : "Leave it"}</Button>
      </footer>
    </section>
  );
}

function Told({ what, all }: { what: string; all: string[] }) {
  if (all.length === 0) return null;
  return (
    <>
      <h3>{what}</h3>
      <ul>
        {all.map((s) => (
          <li key={s}>{s}</li>
        ))}
      </ul>
    </>
  );
}
