import { Alert, Button, Drawer, Snackbar, Tooltip } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { Link, NavLink, Outlet, useLocation, useNavigate, useParams } from "react-router";
import { answer, api, said } from "../api/client";
import type { Tally } from "../api/types";
import { Conflict } from "../components/Conflict";
import { Finder } from "../components/Finder";
import { History } from "../components/History";
import { LeftBehind } from "../components/LeftBehind";
import { Tour, TourOffer } from "../components/Tour";
import { draft } from "../document/draft";
import type { Phase } from "../document/saving";
import { useDocument, useDraft, useSteady } from "../hooks/useDraft";
import { useEvaluation } from "../hooks/useEvaluation";
import { useKeptFocus } from "../hooks/useKeptFocus";
import { useKeys } from "../hooks/useKeys";
import type { Mode } from "../theme/theme";

const SAID: Record<Phase, string> = {
  saved: "saved",
  changed: "changed…",
  sending: "saving…",
  asking: "saving…",
  away: "not saved yet",
  refused: "not taken",
  conflict: "saved elsewhere",
};

export function TopBar({
  mode,
  flip,
  children,
}: {
  mode: Mode;
  flip(): void;
  children?: React.ReactNode;
}) {
  return (
    <header className="top">
      <a className="skip" href="#main">
        past the head of the page
      </a>
      <Link to="/" className="word" aria-label="Steelk, to the rack">
        <svg viewBox="0 0 32 32" width="20" height="20" aria-hidden="true">
          <path d="M4 26h12V12a6 6 0 0 1 6-6h6" fill="none" stroke="currentColor" strokeWidth="5" />
        </svg>
        Steelk
      </Link>
      {children}
      <Finder />
      <Tooltip title={mode === "light" ? "dark" : "light"}>
        <Button onClick={flip} aria-label={`switch to ${mode === "light" ? "dark" : "light"}`}>
          {mode === "light" ? "◐" : "◑"}
        </Button>
      </Tooltip>
    </header>
  );
}

/** Everything inside one job: its title, stations, history, and how it is saved. */
export function JobShell({ mode, flip }: { mode: Mode; flip(): void }) {
  const { id = "" } = useParams();
  const loaded = useDraft((d) => d.id === id && d.job !== null);
  const title = useDocument((d) => d.job?.title ?? "");
  const number = useDocument((d) => d.job?.number ?? "");
  const archived = useDraft((d) => d.saving.archived);
  const conflict = useDraft((d) => d.saving.phase === "conflict");
  const trouble = useDraft((d) => d.saving.trouble);
  const unkept = useDraft((d) => (d.saver?.unkept ?? false) && d.saving.phase !== "saved");
  const word = useDraft((d) => d.word);
  const goTo = useDraft((d) => d.goTo);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const undoable = useDraft((d) => d.past.length > 0);
  const redoable = useDraft((d) => d.future.length > 0);
  const [history, setHistory] = useState(false);
  const [touring, setTouring] = useState(false);
  const [refused, setRefused] = useState("");
  const { edit, undo, redo } = draft.getState();
  useEvaluation();

  useEffect(() => {
    let here = true;
    let wait: ReturnType<typeof setTimeout> | undefined;
    const load = async (tries = 0) => {
      // A draft of this job that is still being saved is gone on with.
      if (draft.getState().reopen(id)) return;
      try {
        const got = answer(await api.GET("/api/jobs/{id}", { params: { path: { id } } }));
        if (!here) return;
        draft.getState().open(id, got.revision, got.job, got.archived);
        setRefused("");
      } catch (e) {
        if (!here) return;
        setRefused(`${said(e)}${e instanceof TypeError ? "; it is asked again" : ""}`);
        if (e instanceof TypeError)
          wait = setTimeout(() => void load(tries + 1), Math.min(1000 * 2 ** tries, 15_000));
      }
    };
    void load();
    return () => {
      here = false;
      clearTimeout(wait);
      draft.getState().leave();
    };
  }, [id]);
  useEffect(() => {
    if (!goTo) return;
    const to = `/jobs/${id}/${goTo.kind}/${goTo.id}`;
    if (pathname !== to) navigate(to);
    draft.setState({ goTo: null });
  }, [goTo, id, pathname, navigate]);
  useKeys((key) => {
    const acts: Record<string, () => void> = { "mod+z": undo, "mod+shift+z": redo, "mod+y": redo };
    acts[key]?.();
    return key in acts;
  });
  const putBack = async () => {
    try {
      answer(await api.POST("/api/jobs/{id}/restore", { params: { path: { id } } }));
      const { saver } = draft.getState();
      if (saver) {
        saver.saving = { ...saver.saving, archived: false };
        saver.tell();
      }
    } catch (e) {
      draft.setState({ word: said(e) });
    }
  };

  const page = useRef<HTMLDivElement>(null);
  useKeptFocus(page);

  return (
    <div className="shell" ref={page}>
      <TopBar mode={mode} flip={flip}>
        <input
          className="job-number"
          aria-label="job number"
          placeholder="number"
          value={number}
          onChange={(e) => edit("number", (j) => ({ ...j, number: e.target.value }))}
        />
        <input
          className="job-title"
          aria-label="job title"
          value={title}
          onChange={(e) => edit("title", (j) => ({ ...j, title: e.target.value }))}
        />
        <nav className="stations" aria-label="stations">
          <NavLink to={`/jobs/${id}/briefs`}>
            Brief <BriefTally />
          </NavLink>
          <NavLink to={`/jobs/${id}/pieces`}>Pieces</NavLink>
          <NavLink to={`/jobs/${id}/frames`}>Frame</NavLink>
          <NavLink to={`/jobs/${id}/papers`}>Papers</NavLink>
        </nav>
        <span className="grow" />
        {!touring && <TourOffer begin={() => setTouring(true)} />}
        <Tooltip title="undo (Ctrl Z)">
          <span>
            <Button disabled={!undoable} onClick={undo} aria-label="undo">
              ↶
            </Button>
          </span>
        </Tooltip>
        <Tooltip title="do again (Ctrl Shift Z)">
          <span>
            <Button disabled={!redoable} onClick={redo} aria-label="redo">
              ↷
            </Button>
          </span>
        </Tooltip>
        <SaveState />
        <Button onClick={() => setHistory(true)}>History</Button>
      </TopBar>
      {loaded && <LeftBehind key={id} id={id} />}
      {conflict && <Conflict />}
      {trouble && <Alert severity="warning">{trouble}</Alert>}
      {unkept && (
        <Alert severity="warning">
          This browser keeps no drafts (its store is full or switched off): wait for “saved” before you
          close the page.
        </Alert>
      )}
      {loaded && archived && (
        <Alert
          severity="info"
          action={<Button onClick={() => void putBack()}>put it back on the rack</Button>}
        >
          This job is in the archive. What you change is saved there.
        </Alert>
      )}
      {refused && (
        <p className="fault wide" role="alert">
          {refused}
        </p>
      )}
      {loaded && touring && <Tour leave={() => setTouring(false)} />}
      {/* A list that is open is folded when the tour begins. */}
      {loaded && <Outlet key={touring ? "tour" : "work"} />}
      {!loaded && !refused && <p className="empty wide">The job is coming…</p>}
      <Snackbar
        open={word !== ""}
        autoHideDuration={12_000}
        onClose={() => draft.setState({ word: "" })}
        message={word}
      />
      <Drawer anchor="right" open={history} onClose={() => setHistory(false)}>
        {history && <History id={id} close={() => setHistory(false)} />}
      </Drawer>
    </div>
  );
}

/** How many figures of all drawings are met, at every station. */
function BriefTally() {
  const [met, all, bad] = useSteady((d) => {
    const tallies = (d.result?.brief_states ?? []).map((b) => b.tally);
    const sum = (of: (t: Tally) => number) => tallies.reduce((n, t) => n + of(t), 0);
    return [sum((t) => t.met), sum((t) => t.all), sum((t) => t.off + t.lost)];
  });
  if (all === 0) return null;
  return <span className={bad > 0 ? "stop" : "hint"}>{`${bad > 0 ? "■ " : ""}${met}/${all}`}</span>;
}

/** How the job is kept; drawn by itself, for it changes with every key. */
function SaveState() {
  const { phase, trouble, revision } = useDraft((d) => d.saving);
  return (
    <button
      type="button"
      className={`saving ${phase}`}
      aria-live="polite"
      title={trouble || `the job saves itself; revision ${revision}`}
      onClick={() => draft.getState().saver?.now()}
    >
      {SAID[phase]}
    </button>
  );
}
