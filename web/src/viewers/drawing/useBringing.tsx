import { Button } from "@mui/material";
import { type ReactNode, useMemo, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { said } from "../../api/client";
import { keepFile } from "../../api/files";
import type { Piece, Revised, TakenDrawing } from "../../api/types";
import { addDoc, docOf, editDoc } from "../../document/bench";
import { type Documents, draft } from "../../document/draft";
import { useDocument, usePiece } from "../../hooks/useDraft";
import { useFresh } from "../../verbs/Settings";
import { TracePanel } from "../trace/TracePanel";
import { Brought, type Chosen } from "./Brought";
import { revision } from "./kept";
import { Revision } from "./Revision";

type Going =
  | { step: "new"; file: File }
  | { step: "revised"; file: File }
  | { step: "moved"; name: string; of: string; revised: Revised }
  | { step: "traced"; of: string };

const pieceOf = (d?: Documents) => docOf("piece", d) as Piece | undefined;

/** Drawings at the bench: brought in as pieces, or as the revision of the one that a piece came from. */
export function useBringing(): { acts: ReactNode; panel: ReactNode | null } {
  const [going, setGoing] = useState<Going | null>(null);
  // Parts of the piece, not all of it: a key in its lines is none of theirs.
  const here = useDocument((d) => pieceOf(d)?.id);
  const origin = useDocument((d) => pieceOf(d)?.origin);
  const traced = useDocument((d) => Boolean(pieceOf(d)?.tracing));
  const fresh = useFresh("piece");
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const pictures = useRef<HTMLInputElement>(null);
  const wants = useRef<"new" | "revised">("new");
  const close = () => setGoing(null);
  const added = (chosen: Chosen, taken: TakenDrawing) => {
    const name = chosen.name.replace(/\.[^.]*$/, "");
    const { job } = draft.getState();
    // The recipe is typed in the drawing's unit, where that is not the job's.
    const display =
      taken.length === (job?.display?.length ?? "mm")
        ? undefined
        : { ...job?.display, length: taken.length };
    let last = "";
    taken.parts.forEach((p, i) => {
      const called = taken.parts.length === 1 ? name : `${name} ${i + 1}`;
      last = addDoc("piece", { ...fresh?.value, ...p, name: called, ...(display && { display }) });
    });
    close();
    if (last) navigate(`/jobs/${id}/pieces/${last}`);
  };
  const compared = async (chosen: Chosen) => {
    const { job } = draft.getState();
    const piece = pieceOf();
    const display = piece?.display ?? job?.display ?? {};
    const { file, name, options } = chosen;
    const part = chosen.parts[0] ?? 1;
    const revised = await revision({ piece, display, file, name, options, part });
    setGoing({ step: "moved", name, of: piece?.id ?? "", revised });
  };
  const take = (r: Revised) => {
    editDoc("piece", "", (doc) => ({ ...doc, ...r.piece }));
    const n = r.moves.filter((m) => !m.kept).length;
    draft.setState({
      word:
        n === 0
          ? "the new drawing is noted; nothing moved"
          : `${n} taken over; undo brings back what stood`,
    });
    close();
  };
  /** A picture to be traced: on the bare piece on the bench, else on a new one. */
  const picture = async (file: File) => {
    try {
      const kept = await keepFile(file);
      if (kept.kind !== "png" && kept.kind !== "jpeg")
        return draft.setState({ word: `${file.name} is a ${kept.kind}: trace a PNG or a JPEG` });
      const piece = pieceOf();
      const inch = (piece?.display?.length ?? draft.getState().job?.display?.length) === "in";
      const tracing = {
        picture: kept.digest,
        name: file.name,
        elements: [],
        step: inch ? "1/32" : "0.5",
        angle_step: "1",
      };
      const bare = piece && !piece.lines?.length && !piece.tracing;
      if (bare) editDoc("piece", "", (doc) => ({ ...doc, tracing }) as typeof doc);
      const name = file.name.replace(/\.[^.]*$/, "");
      const of = bare ? piece.id : addDoc("piece", { ...fresh?.value, name, tracing });
      setGoing({ step: "traced", of });
      navigate(`/jobs/${id}/pieces/${of}`);
    } catch (e) {
      draft.setState({ word: said(e) });
    }
  };
  const traces = useRef(picture);
  traces.current = picture;
  const acts = useMemo(() => {
    const pick = (step: "new" | "revised") => {
      wants.current = step;
      input.current?.click();
    };
    return (
      <>
        <Button onClick={() => pick("new")} title="a DXF or an SVG, as pieces of this job">
          bring a drawing in
        </Button>
        {origin && (
          <Button onClick={() => pick("revised")} title={`it came from ${origin.name}`}>
            revised drawing
          </Button>
        )}
        {traced && here ? (
          <Button onClick={() => setGoing({ step: "traced", of: here })}>the tracing</Button>
        ) : (
          <Button onClick={() => pictures.current?.click()} title="a PNG or a JPEG of a part">
            trace a picture
          </Button>
        )}
        <input
          ref={pictures}
          type="file"
          hidden
          accept=".png,.jpg,.jpeg"
          aria-label="picture to trace"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) void traces.current(file);
            e.target.value = "";
          }}
        />
        <input
          ref={input}
          type="file"
          hidden
          accept=".dxf,.svg"
          aria-label="drawing to bring in"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) setGoing({ step: wants.current, file });
            e.target.value = "";
          }}
        />
      </>
    );
  }, [here, origin, traced]);
  const key = going && "file" in going ? `${going.file.name} ${going.file.lastModified}` : "";
  const panel =
    going?.step === "new" ? (
      <Brought key={key} file={going.file} act="Make the piece" done={added} close={close} />
    ) : going?.step === "revised" ? (
      <Brought
        key={key}
        file={going.file}
        begin={origin?.options}
        one
        act="See what moved"
        done={compared}
        close={close}
      />
    ) : going?.step === "moved" && going.of === here ? (
      <Revision
        name={going.name}
        revised={going.revised}
        take={() => take(going.revised)}
        close={close}
      />
    ) : going?.step === "traced" && going.of === here && traced ? (
      <Traced close={close} />
    ) : null;
  return { acts, panel };
}

function Traced({ close }: { close(): void }) {
  const piece = usePiece();
  return piece?.tracing ? <TracePanel piece={piece} close={close} /> : null;
}
