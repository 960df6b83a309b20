import { Button, Snackbar } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, api } from "../api/client";
import type { Job, Ticket } from "../api/types";

const NEW_JOB: Job = {
  format: 1,
  title: "New job",
  display: { length: "mm", inches: "1/64" },
  bend_rule: { school: "din6935" },
  stock: [
    { length: "2500", width: "1250" },
    { length: "3000", width: "1500" },
  ],
  pieces: [],
};

/** When, in the words of the shop. */
export function when(seconds: number): string {
  const d = new Date(seconds * 1000);
  const time = d.toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hour12: false });
  return d.toDateString() === new Date().toDateString() ? `today ${time}` : `${d.toLocaleDateString()} ${time}`;
}

/** The jobs, as tickets. */
export function Rack() {
  const [archived, setArchived] = useState(false);
  const [page, setPage] = useState(0);
  const [undo, setUndo] = useState("");
  const [trouble, setTrouble] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const cache = useQueryClient();
  const size = 24;
  const rack = useQuery({
    queryKey: ["jobs", archived, page],
    queryFn: async () => answer(await api.GET("/api/jobs", { params: { query: { archived, offset: page * size, limit: size } } })),
  });
  const again = () => cache.invalidateQueries({ queryKey: ["jobs"] });
  const act = useMutation({
    mutationFn: async (run: () => Promise<unknown>) => run(),
    onSuccess: again,
    onError: (e) => setTrouble(e.message),
  });
  const make = (job: Job) => act.mutate(async () => navigate(`/jobs/${answer(await api.POST("/api/jobs", { body: job })).id}/pieces`));
  const copy = (t: Ticket) => act.mutate(async () => answer(await api.POST("/api/jobs/{id}/copy", { params: { path: { id: t.id } } })));
  const put = (id: string, back: boolean) =>
    act.mutate(async () => {
      await api.POST(back ? "/api/jobs/{id}/restore" : "/api/jobs/{id}/archive", { params: { path: { id } } });
      setUndo(back ? "" : id);
    });
  const bring = async (f: File) => {
    try {
      if (f.name.toLowerCase().endsWith(".dxf")) {
        const r = await fetch("/api/dxf?unit=mm", { method: "POST", body: await f.arrayBuffer() });
        const got = await r.json();
        if (!r.ok) throw new Error(`${got.title}. To mend it: ${got.detail}`);
        make({
          ...NEW_JOB,
          title: f.name.replace(/\.dxf$/i, ""),
          pieces: [
            {
              id: "piece-1",
              mark: "P-101",
              name: f.name.replace(/\.dxf$/i, ""),
              quantity: "1",
              material: "s235",
              thickness: "3",
              lines: got.lines,
            },
          ],
        });
      } else make(JSON.parse(await f.text()) as Job);
    } catch (e) {
      setTrouble(e instanceof SyntaxError ? "The file is not JSON: pick a *.steelk.json or a *.dxf" : e instanceof Error ? e.message : String(e));
    }
  };
  const jobs = rack.data?.jobs ?? [];
  const total = rack.data?.total ?? 0;
  return (
    <main className="rack">
      <header className="rack-head">
        <h1>{archived ? "Archive" : "Rack"}</h1>
        <Button variant="contained" onClick={() => make(NEW_JOB)}>
          New job
        </Button>
        <Button variant="outlined" onClick={() => file.current?.click()}>
          Bring in a job or DXF
        </Button>
        <input
          ref={file}
          type="file"
          hidden
          accept=".json,.dxf"
          aria-label="file to bring in"
          onChange={(e) => e.target.files?.[0] && void bring(e.target.files[0]).then(() => e.target && Object.assign(e.target, { value: "" }))}
        />
        <span className="grow" />
        <Button
          onClick={() => {
            setArchived(!archived);
            setPage(0);
          }}
        >
          {archived ? "Back to the rack" : "Archive"}
        </Button>
      </header>
      {rack.isError && (
        <p className="fault" role="alert">
          {rack.error.message}
        </p>
      )}
      {rack.isSuccess && jobs.length === 0 && (
        <p className="empty wide">{archived ? "Nothing is archived." : "The rack is empty. Start a new job, or bring one in."}</p>
      )}
      <ul className="tickets">
        {jobs.map((t) => (
          <li key={t.id} className="ticket" data-job={t.id}>
            <Link to={`/jobs/${t.id}/pieces`} className="ticket-face">
              <span className="ticket-number">{t.number || "no number"}</span>
              <h2>{t.title}</h2>
              <img src={`/api/jobs/${t.id}/picture.svg?r=${t.revision}`} alt={`pieces of ${t.title}`} />
              <dl>
                <div>
                  <dt>pieces</dt>
                  <dd>{t.summary.count}</dd>
                </div>
                <div>
                  <dt>mass</dt>
                  <dd>{t.summary.mass || "–"}</dd>
                </div>
                <div>
                  <dt>findings</dt>
                  <dd>
                    {t.summary.stops > 0 && <span className="stop">■ {t.summary.stops} </span>}
                    {t.summary.warns > 0 && <span className="warn">▲ {t.summary.warns}</span>}
                    {t.summary.stops + t.summary.warns === 0 && "none"}
                  </dd>
                </div>
                <div>
                  <dt>last change</dt>
                  <dd>{when(t.saved_at)}</dd>
                </div>
              </dl>
            </Link>
            <footer>
              <Button component={Link} to={`/jobs/${t.id}/papers`}>
                papers
              </Button>
              <Button onClick={() => copy(t)}>copy</Button>
              <Button onClick={() => put(t.id, archived)}>{archived ? "put back" : "archive"}</Button>
            </footer>
          </li>
        ))}
      </ul>
      {total > size && (
        <footer className="rack-head">
          <Button disabled={page === 0} onClick={() => setPage(page - 1)}>
            ← newer
          </Button>
          <span>
            {page * size + 1} to {Math.min((page + 1) * size, total)} of {total}
          </span>
          <Button disabled={(page + 1) * size >= total} onClick={() => setPage(page + 1)}>
            older →
          </Button>
        </footer>
      )}
      <Snackbar
        open={undo !== ""}
        autoHideDuration={8000}
        onClose={() => setUndo("")}
        message="Archived. It stands in the archive, whole."
        action={<Button onClick={() => put(undo, true)}>put it back</Button>}
      />
      <Snackbar open={trouble !== ""} onClose={() => setTrouble("")} message={trouble} action={<Button onClick={() => setTrouble("")}>close</Button>} />
    </main>
  );
}
