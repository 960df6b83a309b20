import { Button, Snackbar } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, api, said } from "../api/client";
import type { Job, Piece, TakenDrawing, Ticket } from "../api/types";
import { when } from "../components/when";
import { abandoned, type Leftover } from "../document/leftover";
import { Saver } from "../document/saver";
import { useVerbs, type Verbs } from "../verbs/useVerbs";
import { Brought } from "../viewers/drawing/Brought";

/** A job with what was taken of a drawing: a piece each part. */
function jobOf(file: string, taken: TakenDrawing, verbs: Verbs): Job {
  const inch = taken.length === "in";
  const start = verbs.settings.find((s) => s.tag === "piece")?.starts[0];
  const piece = (inch ? start?.inch : start?.mm) as unknown as Piece;
  const name = file.replace(/\.[^.]*$/, "");
  const [, stem, first] = piece.mark.match(/^(.*?)(\d+)$/) ?? ["", `${piece.mark}-`, "1"];
  const pieces = taken.parts.map((p, i) => ({
    ...piece,
    ...p,
    id: `piece-${i + 1}`,
    mark: `${stem}${Number(first) + i}`,
    name: taken.parts.length === 1 ? name : `${name} ${i + 1}`,
  }));
  return { ...(inch ? verbs.new_job.inch : verbs.new_job.mm), title: name, pieces };
}

/** The jobs, as tickets. */
export function Rack() {
  const [archived, setArchived] = useState(false);
  const [page, setPage] = useState(0);
  const [undo, setUndo] = useState("");
  const [trouble, setTrouble] = useState("");
  const [drawing, setDrawing] = useState<File | null>(null);
  const verbs = useVerbs();
  const file = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const cache = useQueryClient();
  const size = 24;
  const rack = useQuery({
    queryKey: ["jobs", archived, page],
    queryFn: async () =>
      answer(
        await api.GET("/api/jobs", { params: { query: { archived, offset: page * size, limit: size } } }),
      ),
  });
  const again = () => cache.invalidateQueries({ queryKey: ["jobs"] });
  const act = useMutation({
    mutationFn: async (run: () => Promise<unknown>) => run(),
    onSuccess: again,
    onError: (e) => setTrouble(said(e)),
  });
  const make = (job: Job, station = "pieces") =>
    act.mutate(async () =>
      navigate(`/jobs/${answer(await api.POST("/api/jobs", { body: job })).id}/${station}`),
    );
  const copy = (t: Ticket) =>
    act.mutate(async () =>
      answer(await api.POST("/api/jobs/{id}/copy", { params: { path: { id: t.id } } })),
    );
  const put = (id: string, back: boolean) =>
    act.mutate(async () => {
      answer(
        await api.POST(back ? "/api/jobs/{id}/restore" : "/api/jobs/{id}/archive", {
          params: { path: { id } },
        }),
      );
      setUndo(back ? "" : id);
    });
  const bring = async (f: File) => {
    if (/\.(dxf|svg)$/i.test(f.name)) return setDrawing(f);
    try {
      const text = await f.text();
      if (!f.name.toLowerCase().endsWith(".txt")) return make(JSON.parse(text) as Job);
      const read = answer(await api.POST("/api/text/read", { body: { of: "job", text } }));
      // Nothing is brought in by halves.
      if (read.faults.length === 0 && read.job) return make(read.job as Job);
      setTrouble(
        read.faults
          .slice(0, 5)
          .map((x) => `${f.name}, line ${x.line}: ${x.fault.message} (${x.fault.mend})`)
          .join("; "),
      );
    } catch (e) {
      setTrouble(
        e instanceof SyntaxError
          ? "The file is not JSON: pick a *.steelk.json, a job as *.txt, a *.dxf or a *.svg"
          : said(e),
      );
    }
  };
  useEffect(() => {
    document.title = "Steelk";
  }, []);
  const jobs = rack.data?.jobs ?? [];
  const total = rack.data?.total ?? 0;
  return (
    <main className="rack" id="main" tabIndex={-1}>
      <header className="rack-head">
        <h1>{archived ? "Archive" : "Rack"}</h1>
        <Button
          variant="contained"
          disabled={!verbs}
          onClick={() => verbs && make(verbs.new_job.mm, "briefs")}
        >
          New job
        </Button>
        <Button variant="outlined" onClick={() => file.current?.click()}>
          Bring in a job or drawing
        </Button>
        <input
          ref={file}
          type="file"
          hidden
          accept=".json,.txt,.dxf,.svg"
          aria-label="file to bring in"
          onChange={(e) =>
            e.target.files?.[0] &&
            void bring(e.target.files[0]).then(() => e.target && Object.assign(e.target, { value: "" }))
          }
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
          {said(rack.error)}
        </p>
      )}
      {rack.data?.trouble && (
        <p className="fault" role="alert">
          The data base is damaged: nothing can be saved until a backup is restored. ({rack.data.trouble})
        </p>
      )}
      {drawing && (
        <Brought
          key={`${drawing.name} ${drawing.lastModified}`}
          file={drawing}
          act="Make the job"
          done={(_, taken) => {
            if (!verbs) return;
            make(jobOf(drawing.name, taken, verbs));
            setDrawing(null);
          }}
          close={() => setDrawing(null)}
        />
      )}
      <Unsaved />
      {rack.isPending && <p className="empty wide">The rack is coming…</p>}
      {rack.isSuccess && jobs.length === 0 && (
        <p className="empty wide">
          {archived
            ? "Nothing is archived. “archive” on a ticket of the rack brings a job here."
            : "The rack is empty. Start a new job, or bring one in."}
        </p>
      )}
      <ul className="tickets">
        {jobs.map((t) => (
          <li key={t.id} className="ticket" data-job={t.id}>
            <Link to={`/jobs/${t.id}/pieces`} className="ticket-face">
              <span className="ticket-number">{t.number || "no number"}</span>
              <h2>{t.title}</h2>
              <img loading="lazy" src={`/api/jobs/${t.id}/picture.svg`} alt="" />
              <dl>
                <div>
                  <dt>pieces{(t.summary.frames ?? []).length > 0 && " and frames"}</dt>
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
      <Snackbar
        open={trouble !== ""}
        onClose={() => setTrouble("")}
        message={trouble}
        action={<Button onClick={() => setTrouble("")}>close</Button>}
      />
    </main>
  );
}

/** Jobs with something in this browser that is not on the server: still being saved, or left behind. */
function Unsaved() {
  const [left, setLeft] = useState<Leftover[]>([]);
  const [going, setGoing] = useState<Saver[]>([]);
  useEffect(() => {
    const look = async () => {
      const alive = Saver.unsaved();
      setGoing(alive);
      setLeft((await abandoned()).filter((l) => !alive.some((s) => s.id === l.job)));
    };
    void look();
    const timer = setInterval(() => void look(), 1500);
    return () => clearInterval(timer);
  }, []);
  const titles = new Map<string, string>();
  for (const s of going) titles.set(s.id, s.job.title);
  for (const l of left) if (!titles.has(l.job)) titles.set(l.job, l.title);
  if (titles.size === 0) return null;
  return (
    <p className="unsaved" role="status">
      Not saved yet, kept in this browser:{" "}
      {[...titles].map(([id, title]) => (
        <Link key={id} to={`/jobs/${id}/pieces`}>
          {title || "a job"}
        </Link>
      ))}
    </p>
  );
}
