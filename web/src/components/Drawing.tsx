import { Button } from "@mui/material";
import { useCallback, useEffect, useState } from "react";
import { Refusal, said, text } from "../api/client";
import type { DxfLines, Job, LengthUnit } from "../api/types";
import { NEW_JOB } from "../document/newJob";

/** A job with one piece: what the drawing holds. */
function jobOf(name: string, got: DxfLines): Job {
  const inch = got.length === "in";
  return {
    ...NEW_JOB,
    title: name,
    display: { length: got.length, inches: "1/64" },
    ...(inch && {
      stock: [
        { length: "96", width: "48" },
        { length: "120", width: "60" },
      ],
    }),
    pieces: [
      {
        id: "piece-1",
        mark: "P-101",
        name,
        quantity: "1",
        material: "s235",
        thickness: inch ? "1/8" : "3",
        lines: got.lines,
      },
    ],
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
  const finish = (of: DxfLines) => {
    make(jobOf(name, of));
    close();
  };
  // Nothing to tell: the piece is made at once.
  const told = !got || got.mended.length + got.left_out.length > 0;
  useEffect(() => {
    if (got && !told) finish(got);
  }, [got]);
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
