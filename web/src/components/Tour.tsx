import { Button } from "@mui/material";
import { useCallback, useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { said } from "../api/client";
import type { Job } from "../api/types";
import { draft } from "../document/draft";
import { useDraft } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { STEPS, TOUR_PIECE } from "./tourSteps";

/** What a step did: the job before and after it. */
interface Done {
  before: Job | null;
  after: Job | null;
}

/** Offered where a job has the piece that explains itself. */
export function TourOffer({ begin }: { begin(): void }) {
  const has = useDraft((d) => d.job?.pieces?.some((p) => p.id === TOUR_PIECE) === true);
  return has ? <Act onClick={begin}>take the tour</Act> : null;
}

/** A band over the bench: what is to be seen now, and the way on, back and out. It covers nothing. */
export function Tour({ leave }: { leave(): void }) {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const [at, setAt] = useState(-1);
  const [trouble, setTrouble] = useState("");
  const done = useRef<Done[]>([]);
  const busy = useRef(false);
  const figures = useDraft((d) => (d.piece === TOUR_PIECE ? d.result?.piece?.figures : undefined));
  const printed = (key: string) => figures?.find((f) => f.key === key)?.text ?? "…";
  const here = useDraft((d) => d.piece === TOUR_PIECE && d.job !== null);

  const go = useCallback(async (to: number) => {
    const step = STEPS[to];
    if (!step || busy.current) return;
    busy.current = true;
    const before = draft.getState().job;
    try {
      await step.does?.();
      done.current[to] = { before, after: draft.getState().job };
      setTrouble("");
      setAt(to);
    } catch (e) {
      setTrouble(`This step is not carried out: ${said(e)}`);
    }
    busy.current = false;
  }, []);

  /** Takes back what the step changed; what a hand changed since stays. */
  const takeBack = useCallback((k: number): boolean => {
    const was = done.current[k];
    if (!STEPS[k]?.edits || !was?.before || was.before === was.after) return true;
    if (draft.getState().job !== was.after) return false;
    // As an edit of its own: a step that itself was an undo is taken back likewise.
    draft.getState().edit("", () => was.before as Job);
    return true;
  }, []);

  const back = useCallback(() => {
    const clean = takeBack(at);
    if (at <= 0 || !clean) {
      if (!clean) draft.setState({ word: "The piece was changed by hand since: it stays as it is." });
      leave();
      return;
    }
    done.current.length = at;
    // What was lit and open at the step before is so again.
    const before = STEPS[at - 1];
    if (!before?.edits) void before?.does?.();
    setAt(at - 1);
  }, [at, leave, takeBack]);

  const out = () => {
    let clean = true;
    for (let k = at; k >= 0 && clean; k--) clean = takeBack(k);
    draft.setState({
      word: clean
        ? "The tour is left: the piece is as it was."
        : "The tour is left: the piece was changed by hand, so it stays as it is.",
    });
    leave();
  };

  useEffect(() => {
    navigate(`/jobs/${id}/pieces/${TOUR_PIECE}`);
  }, [id, navigate]);
  useEffect(() => {
    // Once the piece is seen.
    if (here && figures && at < 0) void go(0);
  }, [here, figures, at, go]);
  useEffect(() => {
    const stop = (e: KeyboardEvent) => {
      const field = (e.target as Element | null)?.closest?.("input, select, textarea, [role=menu]");
      if (e.key === "Escape" && !field && !e.defaultPrevented) back();
    };
    document.addEventListener("keydown", stop);
    return () => document.removeEventListener("keydown", stop);
  }, [back]);

  return (
    <section className="tour" aria-label="tour of the bench">
      <span className="tour-at">
        {Math.max(at, 0) + 1} of {STEPS.length}
      </span>
      <p aria-live="polite">{trouble || (at < 0 ? "The piece is coming…" : STEPS[at]?.says(printed))}</p>
      <Button onClick={back} disabled={at <= 0}>
        back <kbd>Esc</kbd>
      </Button>
      {at < STEPS.length - 1 && (
        <Button variant="contained" onClick={() => void go(at + 1)}>
          next
        </Button>
      )}
      <Button onClick={out}>leave</Button>
    </section>
  );
}
