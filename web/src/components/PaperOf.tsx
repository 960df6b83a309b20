import { Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { paperUrl, text } from "../api/client";
import { Pick } from "../verbs/Pick";
import { PickTabs } from "./PickTabs";

const SIZES = ["A4", "A3", "Letter"].map((s) => [s, s] as const);

/** Makes the address of a paper, of this kind and, where it is of a part, of that. */
export type PaperTo = (kind: string, piece?: string) => string;

interface Props {
  job: string;
  revision: number;
  /** `piece` or `frame`, and which. */
  of: Record<string, string>;
  title: string;
  bench: string;
  stops: number;
  note?: string;
  /** What can be looked at: its kind (and part, after a colon), and the word for it. */
  shown: [string, string][];
  /** A whole page stands there, not one drawing. */
  page?: boolean;
  first(to: PaperTo): ReactNode;
  more(to: PaperTo): ReactNode;
}

/** The papers of one piece or frame: to be taken away, and looked at before. */
export function PaperOf({
  job,
  revision,
  of,
  title,
  bench,
  stops,
  note,
  shown,
  page,
  first,
  more,
}: Props) {
  const [picked, setPicked] = useState(shown[0]?.[0] ?? "");
  const [paper, setPaper] = useState("A4");
  const now = shown.some(([k]) => k === picked) ? picked : (shown[0]?.[0] ?? "");
  const to: PaperTo = (kind, piece) =>
    paperUrl(job, kind, { ...of, ...(piece ? { piece } : {}), paper, revision: String(revision) });
  const preview = useQuery({
    queryKey: ["paper", job, revision, of, now, paper],
    queryFn: async () => {
      const [kind, piece] = now.split(":");
      const svg = await text(await fetch(`${to(kind!, piece)}&view=true`));
      return `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
    },
  });
  return (
    <section className="paper-piece" aria-label={`papers of ${title}`}>
      <header>
        <h2>{title}</h2>
        <Button component={Link} to={bench}>
          to the bench
        </Button>
      </header>
      {note && <p className="muted">{note}.</p>}
      {stops > 0 && (
        <p className="fault">Something here cannot be made yet: see its findings before you cut.</p>
      )}
      <div className="downloads">
        {first(to)}
        <span>
          on <Pick label="paper size" value={paper} options={SIZES} choose={setPaper} />
        </span>
        {more(to)}
      </div>
      <PickTabs
        label="what is looked at"
        value={now}
        pick={setPicked}
        tabs={shown.map(([value, words]) => ({ value, words }))}
      />
      {preview.isError ? (
        <p className="fault" role="alert">
          {preview.error.message}
        </p>
      ) : (
        <div className={page ? "sheet page" : "sheet"}>
          {preview.data && (
            <img src={preview.data} alt={`${title}: ${shown.find(([k]) => k === now)?.[1]}`} />
          )}
        </div>
      )}
    </section>
  );
}

/** A file to be taken away. */
export function Take({
  to,
  children,
  loud = false,
}: {
  to: string;
  children: ReactNode;
  loud?: boolean;
}) {
  return (
    <Button variant={loud ? "contained" : "outlined"} href={to}>
      {children}
    </Button>
  );
}
