import { Button, Popover } from "@mui/material";
import { memo, useCallback, useRef, useState } from "react";
import type { FigureResult, Finding } from "../api/types";
import { draft } from "../document/draft";
import { same } from "../document/merge";
import { isStale, useOld } from "../hooks/useDraft";
import { Act } from "../verbs/Act";

/** A piece or a frame, as far as its figures and findings go. */
interface Checked {
  figures: FigureResult[];
  findings: Finding[];
}

/** The figures under the views. Each opens its working. */
export function Figures({
  piece,
  old: older = false,
}: {
  piece: Pick<Checked, "figures">;
  old?: boolean;
}) {
  const late = useOld();
  const old = older || late;
  const [open, setOpen] = useState<{ keys: string[]; anchor: HTMLElement } | null>(null);
  const key = open?.keys.at(-1);
  const figure = piece.figures.find((f) => f.key === key);
  return (
    <section
      className={`figures${old ? " old" : ""}`}
      aria-label={old ? "figures of an older state" : "figures"}
      aria-busy={old}
    >
      {piece.figures
        .filter((f) => f.main)
        .map((f) => (
          <button
            type="button"
            key={f.key}
            data-figure={f.key}
            className="figure"
            onClick={(e) => setOpen({ keys: [f.key], anchor: e.currentTarget })}
          >
            <span className="label">{f.label}</span>
            <span className="value">{f.text}</span>
          </button>
        ))}
      {piece.figures.some((f) => !f.main) && (
        <MoreFigures piece={piece} show={(k, anchor) => setOpen({ keys: [k], anchor })} />
      )}
      {figure && open && (
        <Popover
          open
          anchorEl={open.anchor}
          onClose={() => setOpen(null)}
          anchorOrigin={{ vertical: "top", horizontal: "left" }}
          transformOrigin={{ vertical: "bottom", horizontal: "left" }}
        >
          <WorkingSlip
            figure={figure}
            deeper={(k) => setOpen({ ...open, keys: [...open.keys, k] })}
            back={
              open.keys.length > 1 ? () => setOpen({ ...open, keys: open.keys.slice(0, -1) }) : undefined
            }
            leave={() => setOpen(null)}
          />
        </Popover>
      )}
    </section>
  );
}

function MoreFigures({
  piece,
  show,
}: {
  piece: Pick<Checked, "figures">;
  show(key: string, anchor: HTMLElement): void;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const rest = piece.figures.filter((f) => !f.main);
  return (
    <>
      <button type="button" className="figure more" onClick={(e) => setAnchor(e.currentTarget)}>
        <span className="label">all figures</span>
        <span className="value">+{rest.length}</span>
      </button>
      {anchor && (
        <Popover
          open
          anchorEl={anchor}
          onClose={() => setAnchor(null)}
          anchorOrigin={{ vertical: "top", horizontal: "right" }}
          transformOrigin={{ vertical: "bottom", horizontal: "right" }}
        >
          <table className="figure-list">
            <tbody>
              {rest.map((f) => (
                <tr key={f.key}>
                  <td>{f.label}</td>
                  <td className="num">
                    <Act
                      onClick={() => {
                        const at = anchor;
                        setAnchor(null);
                        if (at) show(f.key, at);
                      }}
                    >
                      {f.text}
                    </Act>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Popover>
      )}
    </>
  );
}

/** A figure explained: rule, source, the formula with the numbers in it, and where each number comes from. */
function WorkingSlip({
  figure,
  deeper,
  back,
  leave,
}: {
  figure: FigureResult;
  deeper(key: string): void;
  back?: () => void;
  leave(): void;
}) {
  const w = figure.working;
  const goTo = (line: string) => {
    leave();
    requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-line="${line}"]`)?.focus());
  };
  return (
    <article className="working" aria-label={`working of ${figure.label}`}>
      <header>
        {back && <Button onClick={back}>← back</Button>}
        <h2>{figure.label}</h2>
        <strong>{figure.text}</strong>
      </header>
      <p>{w.rule}</p>
      <p className="formula">{w.formula}</p>
      <p className="filled">{w.filled}</p>
      {w.terms.length > 0 && (
        <table>
          <tbody>
            {w.terms.map((t, i) => (
              <tr key={i}>
                <td className="symbol">{t.symbol}</td>
                <td className="num">{t.value}</td>
                <td>{t.meaning}</td>
                <td>
                  {t.figure && <Act onClick={() => deeper(t.figure!)}>how?</Act>}
                  {t.line && <Act onClick={() => goTo(t.line!)}>{t.line}</Act>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {w.assumption && <p className="assumption">Rests on: {w.assumption}.</p>}
      <p className="source">Source: {w.source}.</p>
    </article>
  );
}

/** For what is pressed within the moment in which the findings are of what stood before a key. */
const LATE = "not done: the findings are being worked out; press again";

const SIGN = { stop: "■", warn: "▲", note: "●" } as const;

interface FoundProps {
  f: Finding;
  old: boolean;
  mend(f: Finding): void;
}

/** One finding; drawn anew only when it says something else. */
const Found = memo(
  function Found({ f, old, mend }: FoundProps) {
    const { setHover } = draft.getState();
    return (
      <li
        className={f.severity}
        onPointerEnter={() => setHover({ names: f.names })}
        onPointerLeave={() => setHover({ names: [] })}
      >
        <span className="sign" title={f.severity}>
          {SIGN[f.severity]} {f.severity}
        </span>
        <span>
          {f.message}
          {f.amount && <b> ({f.amount})</b>}. <small>{`${f.rule}; ${f.source}`}</small>{" "}
          {f.mend && (
            <Act className="mend" disabled={old} onClick={() => mend(f)}>
              {f.mend.label}
            </Act>
          )}
        </span>
      </li>
    );
  },
  (a, b) => a.old === b.old && a.mend === b.mend && same(a.f, b.f),
);

/** What the checks say, the gravest first, each with its rule and its mend. */
export function Findings({ piece, mend }: { piece: Pick<Checked, "findings">; mend(f: Finding): void }) {
  const n = piece.findings.length;
  const old = useOld();
  const latest = useRef(mend);
  latest.current = mend;
  const act = useCallback(
    (f: Finding) => (isStale() ? draft.setState({ word: LATE }) : latest.current(f)),
    [],
  );
  return (
    <section className="findings" aria-label="findings">
      <h2 aria-live="polite">{n === 0 ? "No findings" : n === 1 ? "1 finding" : `${n} findings`}</h2>
      <ul>
        {piece.findings.map((f, i) => (
          <Found key={i} f={f} old={old} mend={act} />
        ))}
      </ul>
    </section>
  );
}
