import { Button, Checkbox, FormControlLabel } from "@mui/material";
import { useEffect, useState } from "react";
import { said } from "../../api/client";
import { keepFile } from "../../api/files";
import type { Assume, DrawingOptions, DrawingView, LayerUse, TakenDrawing } from "../../api/types";
import { Act } from "../../verbs/Act";
import { Pick } from "../../verbs/Pick";
import { BroughtPicture } from "./BroughtPicture";
import { preview, take } from "./kept";

const USES: readonly (readonly [LayerUse, string])[] = [
  ["cut", "is cut"],
  ["fold_up", "bends up"],
  ["fold_down", "bends down"],
  ["out", "is left out"],
];

/** A drawing that is kept, and how it is taken. */
export interface Chosen {
  file: string;
  name: string;
  options: DrawingOptions;
  parts: number[];
}

interface Props {
  file: File;
  /** How it is taken to begin with. */
  begin?: DrawingOptions;
  /** One part only, for a piece that stands. */
  one?: boolean;
  /** What is done with it, in words. */
  act: string;
  done(chosen: Chosen, taken: TakenDrawing): void | Promise<void>;
  close(): void;
}

/** A DXF or SVG before anything of it is taken: unit, layers, repairs, gaps, parts, and what is left out. */
export function Brought({ file, begin, one, act, done, close }: Props) {
  const [kept, setKept] = useState("");
  const [options, setOptions] = useState<DrawingOptions>(begin ?? {});
  const [drawing, setDrawing] = useState<DrawingView | null>(null);
  const [trouble, setTrouble] = useState("");
  const [reading, setReading] = useState(true);
  const [out, setOut] = useState<number[]>([]);
  const [lit, setLit] = useState<number | null>(null);
  useEffect(() => {
    let here = true;
    keepFile(file).then(
      (k) => {
        if (!here) return;
        if (k.kind === "dxf" || k.kind === "svg") setKept(k.digest);
        else setTrouble(`${file.name} is a ${k.kind}: bring a DXF or an SVG in`);
      },
      (e: unknown) => here && setTrouble(said(e)),
    );
    return () => {
      here = false;
    };
  }, [file]);
  useEffect(() => {
    if (!kept) return;
    const gone = new AbortController();
    setReading(true);
    preview(kept, options, gone.signal).then(
      (d) => {
        setDrawing(d);
        setTrouble("");
        setReading(false);
      },
      (e: unknown) => {
        if (gone.signal.aborted) return;
        setTrouble(said(e));
        setReading(false);
      },
    );
    return () => gone.abort();
  }, [kept, options]);
  const put = (more: Partial<DrawingOptions>) => setOptions({ ...options, ...more });
  const parts = (drawing?.parts ?? []).map((_, i) => i + 1).filter((n) => !out.includes(n));
  const chosen = one ? parts.slice(0, 1) : parts;
  const asks = (drawing?.units.length ?? 0) > 0;
  const go = async () => {
    try {
      await done(
        { file: kept, name: file.name, options, parts: chosen },
        await take(kept, file.name, options, chosen),
      );
    } catch (e) {
      setTrouble(said(e));
    }
  };
  const toggle = (l: DrawingView["loops"][number]) => {
    const at = l.at as [number, number];
    const skips = options.skips ?? [];
    const without = skips.filter((s) => Math.hypot(s[0]! - at[0], s[1]! - at[1]) > 0.02);
    setOut([]);
    put({ skips: l.role === "skipped" ? without : [...skips, at] });
  };
  const mend = (i: number) => {
    const g = drawing?.gaps[i];
    if (g) put({ joins: [...(options.joins ?? []), [g.from, g.to] as [number[], number[]]] as never });
  };
  const ready = !asks && !reading && !drawing?.trouble && chosen.length > 0;
  return (
    <section className="brought" aria-label={file.name}>
      <header>
        <h2>{file.name}</h2>
        <span className="muted" role="status">
          {reading && !trouble ? "is being read…" : ""}
        </span>
        <span className="grow" />
        <Button variant="contained" disabled={!ready} onClick={() => void go()}>
          {act}
          {!one && !drawing?.trouble && chosen.length > 1 ? ` (${chosen.length} pieces)` : ""}
        </Button>
        <Button onClick={close}>Leave it</Button>
      </header>
      {trouble && (
        <p className="fault" role="alert">
          {trouble}
        </p>
      )}
      {drawing && (
        <div className="brought-body">
          <BroughtPicture drawing={drawing} lit={lit} toggle={toggle} close={mend} />
          <div className="brought-told">
            {drawing.trouble && (
              <p className="fault" role="alert">
                Nothing can be taken yet: {drawing.trouble}.
              </p>
            )}
            {asks && <Units drawing={drawing} choose={(assume) => put({ assume })} />}
            {!asks && (
              <p>
                Its numbers are {drawing.unit}.{" "}
                {drawing.unit_told && <Act onClick={() => put({ assume: undefined })}>choose again</Act>}
              </p>
            )}
            <Gaps drawing={drawing} options={options} put={put} mend={mend} />
            <Repairs drawing={drawing} put={put} lit={setLit} />
            <Parts drawing={drawing} one={one} out={out} setOut={setOut} />
            <Layers drawing={drawing} put={put} options={options} />
            {drawing.left_out.length > 0 && (
              <>
                <h3>Left out</h3>
                <ul>
                  {drawing.left_out.map((s) => (
                    <li key={s}>{s}</li>
                  ))}
                </ul>
              </>
            )}
            <p className="muted">
              Material and thickness are not in a drawing: choose them on the piece.
            </p>
          </div>
        </div>
      )}
    </section>
  );
}

/** The file names no unit: the likely one first, each with the size that it would have. */
function Units({ drawing, choose }: { drawing: DrawingView; choose(unit: Assume): void }) {
  const likely = drawing.units.find((u) => u.because);
  const all = [...drawing.units].sort((a, b) => Number(b.because !== "") - Number(a.because !== ""));
  return (
    <fieldset className="unit-asked">
      <legend>The file names no unit. What are its numbers?</legend>
      {all.map((u) => (
        <Button
          key={u.unit}
          variant={u === likely ? "contained" : "outlined"}
          onClick={() => choose(u.unit)}
        >
          {u.words}: {u.size}
        </Button>
      ))}
      {likely && (
        <p className="hint">
          Likely {likely.words}: {likely.because}.
        </p>
      )}
    </fieldset>
  );
}

interface Putting {
  drawing: DrawingView;
  options: DrawingOptions;
  put(more: Partial<DrawingOptions>): void;
}

/** What does not close: each gap with its letter, and how wide a gap closes by itself. */
function Gaps({ drawing, options, put, mend }: Putting & { mend(i: number): void }) {
  const closes = drawing.options.closes ?? 0;
  const [typed, setTyped] = useState(String(closes));
  const value = Number(typed.replace(",", "."));
  const bad = typed.trim() === "" || !Number.isFinite(value) || value < 0 || value > 20;
  const tell = () => !bad && value !== closes && put({ closes: value });
  const joins = options.joins?.length ?? 0;
  return (
    <>
      <h3>Gaps</h3>
      <p>
        Those up to{" "}
        <input
          className="val"
          aria-label="gaps up to so many mm close by themselves"
          aria-invalid={bad || undefined}
          size={5}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={tell}
          onKeyDown={(e) => e.key === "Enter" && tell()}
        />{" "}
        mm close by themselves.
        {bad && <span className="stop"> Give a length from 0 to 20 mm.</span>}
      </p>
      {drawing.gaps.length > 0 && (
        <ul className="gaps">
          {drawing.gaps.slice(0, 26).map((g, i) => (
            <li key={`${g.from} ${g.to}`}>
              <b>{String.fromCharCode(65 + i)}</b> {g.said} <Act onClick={() => mend(i)}>close it</Act>
            </li>
          ))}
        </ul>
      )}
      {drawing.gaps.length > 26 && <p>and {drawing.gaps.length - 26} more</p>}
      {joins > 0 && (
        <Act onClick={() => put({ joins: options.joins!.slice(0, -1) })}>open the last one again</Act>
      )}
    </>
  );
}

function Repairs({ drawing, put, lit }: Omit<Putting, "options"> & { lit(n: number | null): void }) {
  return (
    <>
      {drawing.repairs.length > 0 && (
        <>
          <h3>Mended</h3>
          <ol className="repairs">
            {drawing.repairs.map((r, n) => (
              <li key={r.said} onPointerEnter={() => lit(n)} onPointerLeave={() => lit(null)}>
                {r.said}
              </li>
            ))}
          </ol>
        </>
      )}
      {drawing.chords && (
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={drawing.options.arcs !== false}
              onChange={(e) => put({ arcs: e.target.checked })}
            />
          }
          label="make arcs of short chords"
        />
      )}
    </>
  );
}

interface PartsProps {
  drawing: DrawingView;
  one?: boolean;
  out: number[];
  setOut(out: number[]): void;
}

function Parts({ drawing, one, out, setOut }: PartsProps) {
  if (drawing.parts.length === 0 || drawing.trouble) return null;
  return (
    <>
      <h3>{drawing.parts.length === 1 ? "Taken" : "Which parts are taken"}</h3>
      <ul className="parts">
        {drawing.parts.slice(0, 60).map((p, i) => {
          const n = i + 1;
          const cuts = p.cuts === 0 ? "" : p.cuts === 1 ? ", 1 cut" : `, ${p.cuts} cuts`;
          const bends = p.folds === 0 ? "" : p.folds === 1 ? ", 1 bend line" : `, ${p.folds} bend lines`;
          const words = `${p.size}${cuts}${bends}`;
          if (drawing.parts.length === 1) return <li key={n}>{words}</li>;
          const first = drawing.parts.findIndex((_, k) => !out.includes(k + 1)) === i;
          return (
            <li key={n}>
              <FormControlLabel
                control={
                  <Checkbox
                    size="small"
                    checked={one ? first : !out.includes(n)}
                    onChange={(e) => {
                      if (one) setOut(drawing.parts.map((_, k) => k + 1).filter((k) => k !== n));
                      else setOut(e.target.checked ? out.filter((k) => k !== n) : [...out, n]);
                    }}
                  />
                }
                label={words}
              />
            </li>
          );
        })}
      </ul>
      {drawing.parts.some((p) => p.folds > 0) && (
        <p className="hint">A drawing tells no angles: bend lines say 90° until you change them.</p>
      )}
    </>
  );
}

function Layers({ drawing, options, put }: Putting) {
  return (
    <>
      <h3>Layers</h3>
      <ul className="layers">
        {drawing.layers.map((l) => (
          <li key={l.name}>
            <span title={`${l.strokes} lines, arcs and curves`}>{l.name}</span>
            <Pick
              label={`layer ${l.name}`}
              value={l.used}
              options={USES}
              choose={(used) => {
                const { [l.name]: _, ...others } = options.layers ?? {};
                put({ layers: used === l.usual ? others : { ...others, [l.name]: used as LayerUse } });
              }}
            />
          </li>
        ))}
      </ul>
    </>
  );
}
