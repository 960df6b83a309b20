import { Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, said } from "../api/client";
import { draft } from "../document/draft";
import { useDraft } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { when } from "./when";

/** The revisions: when, with what note, and what changed in size and mass. */
export function History({ id, close }: { id: string; close(): void }) {
  const revision = useDraft((d) => d.saving.revision);
  const [note, setNote] = useState("");
  const [trouble, setTrouble] = useState("");
  const [limit, setLimit] = useState(30);
  const list = useQuery({
    queryKey: ["revisions", id, revision, limit],
    queryFn: async () =>
      answer(await api.GET("/api/jobs/{id}/revisions", { params: { path: { id }, query: { limit } } })),
  });
  const bringBack = async (r: number) => {
    try {
      const got = answer(
        await api.GET("/api/jobs/{id}/revisions/{revision}", { params: { path: { id, revision: r } } }),
      );
      draft.getState().edit("", () => got.job);
      draft.getState().saver?.note(`brought back revision ${r}`);
      close();
    } catch (e) {
      setTrouble(`Revision ${r} could not be brought back. ${said(e)}`);
    }
  };
  const file = () => {
    // A note makes a revision of its own, so that it can be found again.
    draft.getState().saver?.note(note);
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
        <input
          className="val words"
          data-own-text
          aria-label="note"
          placeholder="note for what stands now"
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
        <Button type="submit" disabled={!note}>
          file
        </Button>
      </form>
      {(trouble || list.isError) && (
        <p className="fault" role="alert">
          {trouble || said(list.error)}
        </p>
      )}
      <ol>
        {list.data?.revisions.map((r) => (
          <li key={r.revision}>
            <header>
              <b>{r.revision}</b> {when(r.saved_at)} {r.note && <i>{r.note}</i>}
              {r.revision !== revision && (
                <Act onClick={() => void bringBack(r.revision)}>bring back</Act>
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
      {list.data && list.data.total > limit && (
        <Button onClick={() => setLimit(Math.min(limit + 100, 200))}>older</Button>
      )}
    </section>
  );
}
