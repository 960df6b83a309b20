import { Alert, Button, Drawer, Tooltip } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, NavLink, Outlet, useParams } from "react-router";
import { answer, api } from "../api/client";
import { useDraft } from "../draft/store";
import { save, saveOnTop, useAutosave, useEvaluation } from "../draft/sync";
import { when } from "../stations/Rack";
import type { Mode } from "./theme";

const SAID = { saved: "saved", changed: "changed…", saving: "saving…", offline: "not saved yet", conflict: "saved elsewhere" } as const;

export function TopBar({ mode, flip, children }: { mode: Mode; flip(): void; children?: React.ReactNode }) {
  return (
    <header className="top">
      <Link to="/" className="word" aria-label="Steelk, to the rack">
        <svg viewBox="0 0 32 32" width="20" height="20" aria-hidden="true">
          <path d="M4 26h12V12a6 6 0 0 1 6-6h6" fill="none" stroke="currentColor" strokeWidth="5" />
        </svg>
        Steelk
      </Link>
      {children}
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
  const title = useDraft((d) => d.job?.title ?? "");
  const number = useDraft((d) => d.job?.number ?? "");
  const saving = useDraft((d) => d.saving);
  const trouble = useDraft((d) => d.trouble);
  const undoable = useDraft((d) => d.past.length > 0);
  const redoable = useDraft((d) => d.future.length > 0);
  const [history, setHistory] = useState(false);
  const [refused, setRefused] = useState("");
  const { edit, undo, redo } = useDraft.getState();
  useEvaluation();
  useAutosave();

  const load = async () => {
    try {
      const got = answer(await api.GET("/api/jobs/{id}", { params: { path: { id } } }));
      useDraft.getState().open(id, got.revision, got.job);
      setRefused("");
    } catch (e) {
      setRefused(e instanceof Error ? e.message : String(e));
    }
  };
  useEffect(() => {
    void load();
  }, [id]);
  useEffect(() => {
    document.title = title ? `${title} · Steelk` : "Steelk";
  }, [title]);

  return (
    <div className="shell">
      <TopBar mode={mode} flip={flip}>
        <input
          className="job-number"
          aria-label="job number"
          placeholder="number"
          value={number}
          onChange={(e) => edit("number", (j) => ({ ...j, number: e.target.value }))}
        />
        <input className="job-title" aria-label="job title" value={title} onChange={(e) => edit("title", (j) => ({ ...j, title: e.target.value }))} />
        <nav className="stations" aria-label="stations">
          <NavLink to={`/jobs/${id}/pieces`}>Pieces</NavLink>
          <NavLink to={`/jobs/${id}/frames`}>Frame</NavLink>
          <NavLink to={`/jobs/${id}/papers`}>Papers</NavLink>
        </nav>
        <span className="grow" />
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
        <button type="button" className={`saving ${saving}`} aria-live="polite" title={trouble || "the job saves itself"} onClick={() => void save()}>
          {SAID[saving]}
        </button>
        <Button onClick={() => setHistory(true)}>History</Button>
      </TopBar>
      {saving === "conflict" && (
        <Alert
          severity="warning"
          action={
            <>
              <Button onClick={() => void load()}>take theirs</Button>
              <Button onClick={saveOnTop}>save mine on top</Button>
            </>
          }
        >
          {trouble}. Both versions are kept in the history.
        </Alert>
      )}
      {saving === "offline" && <Alert severity="warning">{trouble}</Alert>}
      {refused && (
        <p className="fault wide" role="alert">
          {refused}
        </p>
      )}
      {loaded && <Outlet />}
      <Drawer anchor="right" open={history} onClose={() => setHistory(false)}>
        {history && <History id={id} close={() => setHistory(false)} />}
      </Drawer>
    </div>
  );
}

/** The revisions: when, with what note, and what changed in size and mass. */
function History({ id, close }: { id: string; close(): void }) {
  const revision = useDraft((d) => d.revision);
  const [note, setNote] = useState("");
  const [limit, setLimit] = useState(30);
  const list = useQuery({
    queryKey: ["revisions", id, revision, limit],
    queryFn: async () => answer(await api.GET("/api/jobs/{id}/revisions", { params: { path: { id }, query: { limit } } })),
  });
  const bringBack = async (r: number) => {
    const got = answer(await api.GET("/api/jobs/{id}/revisions/{revision}", { params: { path: { id, revision: r } } }));
    useDraft.setState({ note: `brought back revision ${r}` });
    useDraft.getState().edit("", () => got.job);
    close();
  };
  const file = () => {
    // A note makes a revision of its own, so that it can be found again.
    useDraft.setState({ note, saving: "changed" });
    void save();
    setNote("");
  };
  return (
    <section className="history" aria-label="history">
      <h2>History</h2>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          file();
        }}
      >
        <input className="val words" aria-label="note" placeholder="note for what stands now" value={note} onChange={(e) => setNote(e.target.value)} />
        <Button type="submit" disabled={!note}>
          file
        </Button>
      </form>
      <ol>
        {list.data?.revisions.map((r) => (
          <li key={r.revision}>
            <header>
              <b>{r.revision}</b> {when(r.saved_at)} {r.note && <i>{r.note}</i>}
              {r.revision !== revision && (
                <button type="button" className="chip" onClick={() => void bringBack(r.revision)}>
                  bring back
                </button>
              )}
            </header>
            {r.changes.length > 0 ? (
              r.changes.map((c) => <p key={c}>{c}</p>)
            ) : (
              <p className="hint">{r.revision === 1 ? "as it began" : "no change in size or mass"}</p>
            )}
          </li>
        ))}
      </ol>
      {list.data && list.data.total > limit && <Button onClick={() => setLimit(Math.min(limit + 100, 200))}>older</Button>}
    </section>
  );
}
