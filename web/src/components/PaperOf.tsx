import { Button, LinearProgress } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { paperUrl, text } from "../api/client";
import type { components } from "../api/schema";
import { useBook } from "../hooks/useBook";
import { useDraft } from "../hooks/useDraft";
import { Pick } from "../verbs/Pick";
import { PickTabs } from "./PickTabs";

type S = components["schemas"];
type PaperKind = S["PaperKind"];
type Needs = S["Needs"];

/** A paper of a kind, and of which part of the piece or frame where it has several. */
interface Paper extends PaperKind {
  part: string;
}

const keyOf = (p: Paper) => `${p.kind}:${p.part}`;

/** One for each bar: behind a choice. */
const BY_BAR: Needs[] = ["bar", "skin"];

interface Props {
  job: string;
  revision: number;
  /** `piece` or `frame`, and which. */
  of: Record<string, string>;
  title: string;
  bench: string;
  stops: number;
  note?: string;
  /** Papers of what. */
  subjects: S["Subject"][];
  /** What there is of it: once, for each part, or not at all. */
  has(needs: Needs): boolean | string[];
  /** Its outline is new here: paper is laid on the part before anything is cut. */
  fit?: boolean;
  /** A whole page stands there, not one drawing. */
  page?: boolean;
}

/** The papers of these subjects that there are. */
function papersOf(kinds: PaperKind[], subjects: S["Subject"][], has: Props["has"]): Paper[] {
  return kinds
    .filter((k) => subjects.includes(k.of) && k.shelf !== "elsewhere")
    .flatMap((k) => {
      const there = k.needs === "nothing" || has(k.needs);
      if (typeof there === "boolean") return there ? [{ ...k, part: "" }] : [];
      return there.map((part) => ({ ...k, part, words: k.words.replace("{}", part) }));
    });
}

/** The printer at this desk, as the browser remembers it. */
const PRINTER = "steelk.printer";

/** The papers of one piece or frame: to be taken away, and looked at before. */
export function PaperOf({
  job,
  revision,
  of,
  title,
  bench,
  stops,
  note,
  subjects,
  has,
  fit,
  page,
}: Props) {
  const book = useBook().data;
  const papers = papersOf(book?.papers ?? [], subjects, has);
  const looked = papers.filter((p) => p.shelf === "look");
  const [picked, setPicked] = useState("");
  const [paper, setPaper] = useState("");
  const [printer, setPrinter] = useState(() => localStorage.getItem(PRINTER) ?? "");
  const printers = useDraft((d) => d.job?.printers) ?? [];
  const known = printers.some((p) => p.name === printer) ? printer : "";
  const now = looked.find((p) => keyOf(p) === picked) ?? looked[0];
  const to = (p: Paper) =>
    paperUrl(job, p.kind, {
      ...of,
      ...(p.part && { piece: p.part }),
      ...(paper && { paper }),
      ...(known && { printer: known }),
      revision: String(revision),
    });
  const template = papers.find((p) => p.kind === "template");
  const take = (shelf: PaperKind["shelf"]) =>
    papers
      .filter((p) => p.shelf === shelf && !BY_BAR.includes(p.needs))
      .map((p) => (
        <Button key={keyOf(p)} variant={shelf === "first" ? "contained" : "outlined"} href={to(p)}>
          {p.words}
        </Button>
      ));
  const preview = useQuery({
    queryKey: ["paper", job, revision, of, now && keyOf(now), paper, known],
    enabled: now !== undefined,
    queryFn: async () => {
      const svg = await text(await fetch(`${to(now!)}&view=true`));
      return `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
    },
  });
  const sizes = (book?.sizes ?? ["A4"]).map((s) => [s, s] as const);
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
      {fit && template && (
        <p className="first-fit">
          A new outline: print its template first, at 100 %, cut it out and lay it on the part.{" "}
          <Button variant="contained" href={to(template)}>
            {template.words}
          </Button>
        </p>
      )}
      <div className="downloads">
        {take("first")}
        <span>
          on <Pick label="paper size" value={paper || sizes[0]![0]} options={sizes} choose={setPaper} />
        </span>
        {printers.length > 0 && (
          <span>
            for{" "}
            <Pick
              label="printer"
              value={known}
              options={[
                ["", "a printer that prints true"],
                ...printers.map((p) => [p.name, p.name] as const),
              ]}
              choose={(name) => {
                setPrinter(name);
                localStorage.setItem(PRINTER, name);
              }}
            />
          </span>
        )}
        {take("more")}
        <OneBar papers={papers.filter((p) => BY_BAR.includes(p.needs))} to={to} />
      </div>
      <PickTabs
        label="what is looked at"
        value={now ? keyOf(now) : ""}
        pick={setPicked}
        tabs={looked.map((p) => ({ value: keyOf(p), words: p.words }))}
      />
      {preview.isError ? (
        <p className="fault" role="alert">
          {preview.error.message}
        </p>
      ) : (
        <div className={page ? "sheet page" : "sheet"}>
          {preview.isFetching && (
            <p className="making" role="status">
              {now?.words} is being made…
              <LinearProgress aria-label={`${now?.words} is being made`} />
            </p>
          )}
          {preview.data && <img src={preview.data} alt={`${title}: ${now?.words}`} />}
        </div>
      )}
    </section>
  );
}

/** Files of one bar of the list: too many to stand side by side. */
function OneBar({ papers, to }: { papers: Paper[]; to(p: Paper): string }) {
  const [bar, setBar] = useState("");
  const bars = [...new Set(papers.map((p) => p.part))];
  if (bars.length === 0) return null;
  return (
    <>
      <span>
        bar{" "}
        <Pick
          label="bar"
          value={bar}
          options={[["", "…"] as const, ...bars.map((b) => [b, b] as const)]}
          choose={setBar}
        />
      </span>
      {papers
        .filter((p) => p.part === bar)
        .map((p) => (
          <Button key={keyOf(p)} variant="outlined" href={to(p)}>
            {p.words}
          </Button>
        ))}
    </>
  );
}
