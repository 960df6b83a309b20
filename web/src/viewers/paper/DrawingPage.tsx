import { Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { said } from "../../api/client";
import { keepFile } from "../../api/files";
import type { Brief, Check, DrawingSheet } from "../../api/types";
import { editDoc } from "../../document/bench";
import { draft } from "../../document/draft";
import { classes } from "../../hooks/classes";
import { useDraft } from "../../hooks/useDraft";
import { Act } from "../../verbs/Act";
import { usePanZoom } from "../flat/usePanZoom";
import { drawn, type Page, release } from "./page";
import { straight, turned } from "./turn";

const ROOM = [12, 12, 12, 12];

/** The brief on the bench. */
const useBrief = () => useDraft((d) => d.job?.briefs?.find((b) => b.id === d.brief));

function putSheet(sheet: DrawingSheet | undefined): void {
  editDoc("brief", "", (doc) => ({ ...doc, sheet }) as typeof doc);
}

/** Puts the pin of a figure somewhere, or takes it away. */
function putPin(line: string, pin: [number, number] | undefined): void {
  editDoc("brief", "", (doc) => {
    const { lines } = doc as unknown as Brief;
    return { ...doc, lines: lines?.map((l) => (l.id === line ? { ...l, pin } : l)) } as typeof doc;
  });
}

/** The drawing itself: a scan, a photograph or a PDF, its figures pinned to where they stand on it. */
export function DrawingPage({ checks }: { checks: Check[] }) {
  const brief = useBrief();
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const sheet = brief?.sheet ?? undefined;
  const bring = async (file: File) => {
    setBusy(true);
    try {
      const kept = await keepFile(file);
      if (!["png", "jpeg", "pdf"].includes(kept.kind))
        return draft.setState({ word: `${file.name} is a ${kept.kind}: bring a PDF, a PNG or a JPEG` });
      putSheet({ file: kept.digest, name: file.name });
    } catch (e) {
      draft.setState({ word: `the drawing is not kept: ${said(e)}` });
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        hidden
        accept=".pdf,.png,.jpg,.jpeg"
        aria-label="drawing to keep beside the brief"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) void bring(file);
          e.target.value = "";
        }}
      />
      {sheet ? (
        <Sheet
          key={`${sheet.file} ${sheet.page ?? 1}`}
          sheet={sheet}
          checks={checks}
          replace={() => input.current?.click()}
        />
      ) : (
        <p className="empty">
          {busy
            ? "It is being kept…"
            : "Keep the drawing beside its figures: a scan, a photograph or a PDF. "}
          <Button variant="outlined" disabled={busy} onClick={() => input.current?.click()}>
            Bring the drawing in
          </Button>
        </p>
      )}
    </>
  );
}

interface SheetProps {
  sheet: DrawingSheet;
  checks: Check[];
  replace(): void;
}

function Sheet({ sheet, checks, replace }: SheetProps) {
  const [page, setPage] = useState<Page | null>(null);
  const [trouble, setTrouble] = useState("");
  const lines = useBrief()?.lines ?? [];
  const picked = useDraft((d) => d.picked);
  const turns = sheet.turned ?? 0;
  const at = sheet.page ?? 1;
  useEffect(() => {
    let here = true;
    let made: Page | null = null;
    drawn(sheet.file, /\.pdf$/i.test(sheet.name), at).then(
      (p) => {
        made = p;
        if (here) setPage(p);
        else release(p);
      },
      () =>
        here &&
        setTrouble("This server does not keep that drawing, or it cannot be read. Bring it in again."),
    );
    return () => {
      here = false;
      if (made) release(made);
    };
  }, [sheet.file, sheet.name, at]);
  const [w, h] = page ? [page.wide, page.high] : [1, 1];
  const [wide, high] = turns % 2 === 0 ? [w, h] : [h, w];
  const { host, view, fit, zoom, onPointerDown, dragged } = usePanZoom(
    page ? { min: [0, -high], max: [wide, 0] } : undefined,
    ROOM,
  );
  const line = lines.find((l) => l.id === picked);
  const pin = (e: React.MouseEvent) => {
    const r = host.current?.getBoundingClientRect();
    if (!line || !page || !r || dragged.current) return;
    const x = (e.clientX - r.left - view.tx) / view.k / wide;
    const y = (e.clientY - r.top - view.ty) / view.k / high;
    if (x < 0 || y < 0 || x > 1 || y > 1) return;
    const round = (v: number) => Math.round(v * 1e4) / 1e4;
    putPin(line.id, straight([x, y], turns).map(round) as [number, number]);
  };
  const verdict = (id: string) => {
    const all = checks.filter((c) => c.line === id).map((c) => c.verdict);
    return (["off", "lost", "untied", "met"] as const).find((v) => all.includes(v)) ?? "untied";
  };
  // The picture is drawn as it was kept, and turned about its corner.
  const corner = [`0 0`, `${h} 0`, `${w} ${h}`, `0 ${w}`][turns % 4];
  return (
    <>
      <div className="paper-acts">
        <span className="grow" />
        {page && page.pages > 1 && (
          <>
            <Act disabled={at <= 1} onClick={() => putSheet({ ...sheet, page: at - 1 })}>
              ←
            </Act>
            page {at} of {page.pages}
            <Act disabled={at >= page.pages} onClick={() => putSheet({ ...sheet, page: at + 1 })}>
              →
            </Act>
          </>
        )}
        <Act disabled={!line?.pin} onClick={() => line && putPin(line.id, undefined)}>
          take its pin out
        </Act>
        <Act onClick={() => putSheet({ ...sheet, turned: (turns + 1) % 4 })}>turn</Act>
        <Act onClick={fit}>all of it</Act>
        <Act onClick={replace}>another drawing</Act>
        {/* A row of its own, so that the drawing stands still whatever it says. */}
        <span className="hint one-row">
          {line
            ? `Click where ${line.id} stands on the drawing.`
            : "Pick a figure, then click where it stands on the drawing."}
        </span>
      </div>
      {trouble && (
        <p className="fault" role="alert">
          {trouble}
        </p>
      )}
      {!page && !trouble && <p className="empty">The drawing is coming…</p>}
      <svg
        ref={host}
        className={classes("flat paper-page", { laying: line !== undefined })}
        role="application"
        aria-roledescription="drawing"
        aria-label={`${sheet.name}, with ${lines.filter((l) => l.pin).length} pins`}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: plus, minus and 0 zoom it
        tabIndex={0}
        onPointerDown={onPointerDown}
        onClick={pin}
        onKeyDown={(e) => {
          if (e.key === "+") zoom(1.25);
          else if (e.key === "-") zoom(1 / 1.25);
          else if (e.key === "0") fit();
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      >
        {page && (
          <g transform={`matrix(${view.k} 0 0 ${view.k} ${view.tx} ${view.ty})`}>
            <image
              href={page.href}
              width={w}
              height={h}
              transform={`translate(${corner}) rotate(${90 * (turns % 4)})`}
            />
          </g>
        )}
        {page &&
          lines.map((l) => {
            if (!l.pin) return null;
            const [x, y] = turned(l.pin, turns);
            const [cx, cy] = [x * wide * view.k + view.tx, y * high * view.k + view.ty];
            const wideOf = 12 + 7 * l.id.length;
            return (
              // biome-ignore lint/a11y/useSemanticElements: a button in a drawing
              <g
                key={l.id}
                role="button"
                tabIndex={0}
                className={classes(`pin-of ${verdict(l.id)}`, { lit: l.id === picked })}
                aria-label={`${l.id}, ${verdict(l.id)}`}
                onClick={(e) => {
                  e.stopPropagation();
                  draft.getState().pick(l.id);
                }}
                onKeyDown={(e) => {
                  if (e.key !== "Enter") return;
                  e.stopPropagation();
                  draft.getState().pick(l.id);
                }}
              >
                <circle cx={cx} cy={cy} r={4} />
                <rect x={cx + 6} y={cy - 18} width={wideOf} height={16} rx={2} />
                <text x={cx + 6 + wideOf / 2} y={cy - 6}>
                  {l.id}
                </text>
              </g>
            );
          })}
      </svg>
    </>
  );
}
