import { Button, Dialog } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useLocation, useNavigate, useParams } from "react-router";
import { answer, api } from "../api/client";
import { type BenchName, docOf, LISTS, writeDoc } from "../document/bench";
import { draft } from "../document/draft";
import { LIST_OF } from "../document/lists";
import { useDraft } from "../hooks/useDraft";
import { useKeys } from "../hooks/useKeys";
import { begin, beginningsOf } from "../verbs/Beginnings";
import { addFocused, useChoices } from "../verbs/palette";
import { toSetting } from "../verbs/toSetting";
import { type Said, useVerbs } from "../verbs/useVerbs";
import { type Find, ranked } from "./finds";

/** What stands at an address of a job. */
const benchAt = (path: string): BenchName | undefined =>
  LIST_OF.find(([, list]) => path.includes(`/${list}`))?.[0];

/** One field for everything: jobs, pieces, lines, what can be said, sections, settings, stations. */
export function Finder() {
  const [open, setOpen] = useState(false);
  useKeys((key) => {
    if (key === "mod+k") setOpen(true);
    return key === "mod+k";
  });
  return (
    <>
      <Button onClick={() => setOpen(true)} title="find anything (Ctrl K)">
        find
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        slotProps={{ paper: { "aria-label": "find anything" } }}
        className="finder"
        disableRestoreFocus
      >
        {open && <Field close={() => setOpen(false)} />}
      </Dialog>
    </>
  );
}

function Field({ close }: { close(): void }) {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const finds = useFinds(text);
  const groups = useMemo(() => ranked(finds, text), [finds, text]);
  const flat = groups.flatMap((g) => g.finds);
  const now = Math.min(at, flat.length - 1);
  const go = (find: Find | undefined) => {
    if (!find) return;
    close();
    // Behind the dialog's own care for the focus.
    requestAnimationFrame(() => find.run());
  };
  return (
    <>
      <input
        // biome-ignore lint/a11y/noAutofocus: it was opened to be typed into
        autoFocus
        data-own-text
        role="combobox"
        aria-label="find anything"
        aria-expanded
        aria-controls="finds"
        aria-activedescendant={flat.length > 0 ? `find-${now}` : undefined}
        placeholder="a job, a piece, a line, a section, a setting, or what to do"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          if (e.nativeEvent.isComposing || flat.length === 0) return;
          const to = { ArrowDown: now + 1, ArrowUp: now - 1 }[e.key];
          if (to !== undefined) {
            e.preventDefault();
            const next = (to + flat.length) % flat.length;
            setAt(next);
            document.getElementById(`find-${next}`)?.scrollIntoView({ block: "nearest" });
          } else if (e.key === "Enter") go(flat[now]);
        }}
      />
      <div id="finds" role="listbox" aria-label="found">
        {groups.map((g) => (
          // biome-ignore lint/a11y/useSemanticElements: a group of options, not of fields
          <div role="group" aria-label={g.group} key={g.group}>
            <p className="finds-of" aria-hidden="true">
              {g.group}
            </p>
            {g.finds.map((f) => {
              const i = flat.indexOf(f);
              return (
                <div
                  role="option"
                  key={`${f.words} ${f.hint}`}
                  id={`find-${i}`}
                  tabIndex={-1}
                  aria-selected={i === now}
                  onPointerMove={() => i !== now && setAt(i)}
                  onClick={() => go(f)}
                  onKeyDown={(e) => e.key === "Enter" && go(f)}
                >
                  {f.words} <small>{f.hint}</small>
                </div>
              );
            })}
          </div>
        ))}
      </div>
      {flat.length === 0 && <p className="empty">Nothing is called so.</p>}
    </>
  );
}

/** All that could be meant here. */
function useFinds(text: string): Find[] {
  const { id } = useParams();
  const navigate = useNavigate();
  const bench = benchAt(useLocation().pathname);
  const job = useDraft((d) => d.job);
  const lines = useDraft((d) => bench && docOf(bench, d)?.lines);
  const verbs = useVerbs();
  const choices = useChoices(bench ?? "brief");
  const jobs = useQuery({
    queryKey: ["jobs", "find"],
    queryFn: async () =>
      answer(
        await api.GET("/api/jobs", { params: { query: { archived: false, offset: 0, limit: 200 } } }),
      ),
  }).data?.jobs;
  const sections = useQuery({
    queryKey: ["sections", text],
    enabled: bench === "frame" && text.trim().length > 1,
    queryFn: async () => answer(await api.GET("/api/sections", { params: { query: { q: text } } })),
  }).data?.sections;
  return useMemo(() => {
    const out: Find[] = [];
    const add = (group: string, words: string, hint: string, run: () => void) =>
      out.push({ group, words, hint, run });
    if (id && job) {
      for (const [kind, list] of LIST_OF)
        for (const doc of job[list] ?? [])
          add("In this job", `${doc.mark} ${doc.name}`, kind, () =>
            navigate(`/jobs/${id}/${list}/${doc.id}`),
          );
      for (const l of lines ?? [])
        add("Lines here", l.id, `${(l.say as Said).verb.replaceAll("_", " ")} ${l.note ?? ""}`, () => {
          const line = document.querySelector<HTMLElement>(`[data-line="${l.id}"]`);
          line?.focus();
          line?.scrollIntoView({ block: "nearest" });
        });
      if (bench && lines?.length === 0)
        for (const b of beginningsOf(bench, verbs))
          add("To begin with", b.name, b.about, () => void begin(bench, b, verbs));
      if (bench)
        for (const c of choices) {
          const about = verbs?.[bench].find((v) => v.tag === c.say.verb)?.about ?? "";
          add("Lines to add", c.name, `${c.key.toUpperCase()} · ${about}`, () => addFocused(bench, c));
        }
      for (const [words, to] of [
        ["Brief", LISTS.brief],
        ["Pieces", LISTS.piece],
        ["Frame", LISTS.frame],
        ["Papers", "papers"],
      ] as const)
        add("Stations", words, "", () => navigate(`/jobs/${id}/${to}`));
      for (const s of verbs?.settings ?? [])
        if (!(Object.values(LISTS) as string[]).includes(s.list))
          add("Settings", s.tag.replaceAll("_", " "), s.about, () => {
            if (!bench || bench === "brief") navigate(`/jobs/${id}/${LISTS.piece}`);
            toSetting(s.tag);
          });
      for (const s of sections ?? [])
        add("Sections for this frame", s.designation, s.series, () =>
          writeDoc("frame", "/section", s.designation),
        );
      add("To do", "undo", "Ctrl Z", draft.getState().undo);
      add("To do", "do again", "Ctrl Shift Z", draft.getState().redo);
    }
    add("Stations", "Rack", "all jobs", () => navigate("/"));
    for (const j of jobs ?? [])
      if (j.id !== id) add("Jobs", `${j.number} ${j.title}`.trim(), "", () => navigate(`/jobs/${j.id}`));
    return out;
  }, [id, job, lines, bench, verbs, choices, jobs, sections, navigate]);
}
