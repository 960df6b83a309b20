import { Button, LinearProgress } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { paperUrl, said } from "../api/client";
import { heardFrom } from "../api/lines";
import type { BarPlan, BarsLine } from "../api/types";
import { useDraft } from "../hooks/useDraft";
import { OwnerOf } from "../verbs/Field";
import { SettingList, SettingSentence, useJobFaults } from "../verbs/Settings";

/** Pieces onto bars: the plan of each section, drawn, with what is to be bought. */
export function Bars() {
  const { id = "" } = useParams();
  const job = useDraft((d) => d.job);
  const revision = useDraft((d) => d.saving.revision);
  const [told, setTold] = useState<BarsLine | null>(null);
  const [plans, setPlans] = useState<BarPlan[] | null>(null);
  const [running, setRunning] = useState(false);
  const [trouble, setTrouble] = useState("");
  const stop = useRef<AbortController | null>(null);

  useEffect(() => {
    if (!job) return;
    const control = new AbortController();
    // A pause, so that typing does not start a plan with every key.
    const wait = setTimeout(() => {
      stop.current = control;
      setRunning(true);
      setTrouble("");
      heardFrom<BarsLine>("/api/bars", { job }, control.signal, (line) => {
        setTold(line);
        if (line.plans) setPlans(line.plans);
        if (line.trouble) setTrouble(line.trouble);
      })
        .catch((e) => e instanceof DOMException || setTrouble(said(e)))
        .finally(() => !control.signal.aborted && setRunning(false));
    }, 400);
    return () => {
      clearTimeout(wait);
      control.abort();
    };
  }, [job]);

  return (
    <div className="list-scroll bars" aria-live="polite">
      <Stock />
      {running && (
        <p className="bars-going">
          <LinearProgress
            variant="determinate"
            value={(told?.progress ?? 0) * 100}
            aria-label="progress"
          />
          <span className="hint">
            {plans
              ? "A plan stands below; better ones are looked for, ten seconds at most."
              : "Laying out…"}
          </span>
          <Button
            onClick={() => {
              stop.current?.abort();
              setRunning(false);
            }}
          >
            keep this one
          </Button>
        </p>
      )}
      {trouble && (
        <p className="fault" role="alert">
          {trouble}
        </p>
      )}
      {plans?.length === 0 && <p className="empty">No member is to be cut from bars yet.</p>}
      {plans?.map((p) => (
        <Plan key={p.section + p.material} plan={p} unit={job?.display?.length ?? "mm"} />
      ))}
      {plans && plans.length > 0 && (
        <p>
          <Button variant="outlined" href={paperUrl(id, "bars", { revision: String(revision) })}>
            Cutting plan (PDF)
          </Button>
        </p>
      )}
    </div>
  );
}

function Plan({ plan, unit }: { plan: BarPlan; unit: string }) {
  const longest = Math.max(...plan.bars.map((b) => b.length_mm), 1);
  return (
    <section className="bar-plan" aria-label={`bars of ${plan.section}`}>
      <h3>
        {plan.section} <small>{plan.material}</small>
      </h3>
      <p>
        {plan.to_buy.length > 0 ? (
          <>
            Buy <b>{plan.to_buy.join(", ")}</b>
          </>
        ) : (
          "Nothing to buy"
        )}
        : {plan.verdict}. {plan.used && `${plan.used} of the length taken becomes pieces.`}
        {plan.left_out.length > 0 && (
          <span className="stop"> ■ longer than any bar: {plan.left_out.join(", ")}</span>
        )}
      </p>
      {plan.bars.map((b, i) => (
        <div key={i} className="bar-row">
          <span className="times">{b.times} ×</span>
          <svg
            viewBox={`-20 0 ${longest + 40} 200`}
            preserveAspectRatio="none"
            role="img"
            aria-label={b.pieces.map((p) => `${p.mark} ${p.length}`).join(", ")}
          >
            <rect x={0} y={20} width={b.length_mm} height={160} className="stock" />
            {b.pieces.map((p, k) => (
              <polygon key={k} points={`${p.x[0]},20 ${p.x[1]},20 ${p.x[2]},180 ${p.x[3]},180`}>
                <title>{`${p.mark} ${p.name}: ${p.length} ${unit}, ${p.cuts.join(" | ")}`}</title>
              </polygon>
            ))}
          </svg>
          <span className="marks">
            {b.pieces.map((p, k) => (
              <span
                key={k}
                style={{
                  left: `${(((p.x[0]! + p.x[1]! + p.x[2]! + p.x[3]!) / 4 + 20) / (longest + 40)) * 100}%`,
                }}
              >
                {(p.x[1]! - p.x[0]!) / longest > 0.08 ? p.mark : ""}
              </span>
            ))}
          </span>
          <span className="rest">
            {b.offcut ? "offcut" : "bar"} {b.length}, rest {b.rest}
            {b.kept ? ", keep" : ""}
          </span>
        </div>
      ))}
    </section>
  );
}

/** The bars that can be had, and the saw. */
function Stock() {
  const job = useDraft((d) => d.job);
  const faults = useJobFaults("/saw");
  const bars = job?.bars ?? [];
  // Open to who comes to it without bars; it does not shut on the first that is added.
  const [open, setOpen] = useState(bars.length === 0);
  if (!job) return null;
  const said = bars.map(
    (b) => `${b.section ? `${b.section} ` : ""}${b.length}${b.offcut ? " offcut" : ""}`,
  );
  return (
    <details className="stock" open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>Bars to be had: {said.join(" · ") || "the usual lengths"}</summary>
      <SettingList tag="bar" />
      <OwnerOf name="job">
        <SettingSentence tag="saw" at="/saw" faults={faults} of="saw" />
      </OwnerOf>
    </details>
  );
}
