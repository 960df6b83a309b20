import { Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { answer, api, said } from "../api/client";
import type { components } from "../api/schema";
import { type BenchName, type Doc, docOf, editDoc } from "../document/bench";
import { draft } from "../document/draft";
import { retire } from "../document/ids";
import { useDocument } from "../hooks/useDraft";
import { Act } from "./Act";

type TextFault = components["schemas"]["TextFault"];

/** How long typing rests before the text is read. */
const REST_MS = 200;

/** What a text does not tell stays: where a piece came from, the drawing of a brief and its pins. */
function untold(was: Doc | undefined, read: Doc): Partial<Doc> {
  const kept: Record<string, unknown> = {};
  for (const key of ["origin", "tracing", "sheet"]) {
    const value = (was as Record<string, unknown> | undefined)?.[key];
    if (value) kept[key] = value;
  }
  const pins = new Map((was?.lines ?? []).map((l) => [l.id, (l as { pin?: unknown }).pin]));
  if ([...pins.values()].some(Boolean))
    kept.lines = read.lines?.map((l) => (pins.get(l.id) ? { ...l, pin: pins.get(l.id) } : l));
  return kept;
}

/** A piece or a frame as a text: changed as a whole, taken over in one step. */
export function TextView({ bench, close }: { bench: BenchName; close(): void }) {
  const doc = useDocument((d) => docOf(bench, d));
  const [text, setText] = useState<string | null>(null);
  const [printed, setPrinted] = useState("");
  const [faults, setFaults] = useState<TextFault[]>([]);
  const [trouble, setTrouble] = useState("");
  const [read, setRead] = useState<{ of: string; doc: Doc } | null>(null);
  const area = useRef<HTMLTextAreaElement>(null);
  const marks = useRef<HTMLPreElement>(null);
  const asked = useRef(0);

  // What stands is printed when the view opens; a change from elsewhere is printed anew as long as nothing
  // was typed.
  const untouched = text === null || text === printed;
  useEffect(() => {
    if (!untouched) return;
    let here = true;
    void (async () => {
      try {
        const got = answer(await api.POST("/api/text", { body: { [bench]: doc as never } })).text;
        if (!here) return;
        setText(got);
        setPrinted(got);
      } catch (e) {
        if (here) setTrouble(said(e));
      }
    })();
    return () => {
      here = false;
    };
  }, [bench, doc, untouched]);

  useEffect(() => {
    if (text === null || text === printed) {
      setFaults([]);
      setRead(null);
      return;
    }
    const mine = ++asked.current;
    const timer = setTimeout(async () => {
      try {
        const got = answer(
          await api.POST("/api/text/read", { body: { of: bench, text, now: doc as never } }),
        );
        if (mine !== asked.current) return;
        setFaults(got.faults);
        setTrouble("");
        const made = got[bench];
        setRead(made ? { of: text, doc: made as Doc } : null);
      } catch (e) {
        if (mine === asked.current) setTrouble(said(e));
      }
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [bench, text, printed, doc]);

  const changed = text !== null && text !== printed;
  const ready = changed && read?.of === text && faults.length === 0;
  const apply = () => {
    if (!ready || !read) return;
    const { id } = doc ?? { id: "" };
    const issued = (read.doc.lines ?? []).reduce((all, l) => retire(l.id, all), doc?.issued ?? {});
    const next = { ...read.doc, ...untold(doc, read.doc), id, issued };
    editDoc(bench, "", () => next);
    draft.setState({ word: "the text is taken over; undo brings back what stood" });
    close();
  };
  const go = (f: TextFault) => {
    const rows = (text ?? "").split("\n");
    const before = rows.slice(0, f.line - 1).reduce((n, r) => n + r.length + 1, 0);
    area.current?.focus();
    area.current?.setSelectionRange(
      before + f.fault.start,
      before + Math.max(f.fault.end, f.fault.start + 1),
    );
  };
  return (
    <section className="as-text" aria-label="as text">
      <div className="sheet-of-text">
        <pre ref={marks} aria-hidden="true">
          <Marked text={text ?? ""} faults={changed ? faults : []} />
        </pre>
        <textarea
          ref={area}
          data-own-text
          aria-label={`${bench} as text`}
          aria-invalid={faults.length > 0 || undefined}
          value={text ?? ""}
          spellCheck={false}
          rows={Math.min(Math.max((text ?? "").split("\n").length + 1, 6), 26)}
          onChange={(e) => setText(e.target.value)}
          onScroll={(e) => marks.current?.scrollTo(e.currentTarget.scrollLeft, e.currentTarget.scrollTop)}
          onKeyDown={(e) => {
            if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) {
              e.preventDefault();
              apply();
            }
          }}
        />
      </div>
      <p className="text-acts">
        <Button variant="contained" disabled={!ready} onClick={apply} title="Ctrl Enter">
          Take over
        </Button>
        <Button onClick={close}>{changed ? "Leave as it was" : "Back to the lines"}</Button>
        <Button onClick={() => void navigator.clipboard?.writeText(text ?? "")}>Copy</Button>
        <span className="hint">
          {changed
            ? ready
              ? ""
              : faults.length > 0
                ? `${faults.length} to mend`
                : "being read…"
            : "Names, order and values can be changed; a line gets a name before a colon."}
        </span>
      </p>
      {trouble && (
        <p className="fault" role="alert">
          {trouble}
        </p>
      )}
      {changed &&
        faults.slice(0, 8).map((f) => (
          <p className="fault" role="alert" key={`${f.line} ${f.fault.start} ${f.fault.message}`}>
            <Act onClick={() => go(f)}>line {f.line}</Act> {f.fault.message}. Try: {f.fault.mend}
          </p>
        ))}
    </section>
  );
}

/** The text with its faults underlined where they are. */
function Marked({ text, faults }: { text: string; faults: TextFault[] }) {
  return text.split("\n").map((row, i) => {
    const f = faults.find((x) => x.line === i + 1)?.fault;
    if (!f)
      return (
        <span key={i}>
          {row}
          {"\n"}
        </span>
      );
    const chars = [...row];
    const end = Math.max(f.end, f.start + 1);
    return (
      <span key={i}>
        {chars.slice(0, f.start).join("")}
        <mark>{chars.slice(f.start, end).join("") || " "}</mark>
        {chars.slice(end).join("")}
        {"\n"}
      </span>
    );
  });
}
