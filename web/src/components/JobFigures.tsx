import { useEffect, useRef, useState } from "react";
import { answer, api } from "../api/client";
import type { Figure, FigureUses, FigureValue } from "../api/types";
import { writeJob } from "../document/bench";
import { draft, NOWHERE } from "../document/draft";
import { useDocument, useDraft } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { Fields, OwnerOf } from "../verbs/Field";
import { Parts } from "../verbs/Sentence";
import { useFresh } from "../verbs/Settings";
import { useSetting } from "../verbs/useVerbs";

/** An edit rests so long before it is looked up anew what depends on the figures. */
const RESTS_MS = 500;

/** What depends on each figure, as the job stands. */
function useUses(): FigureUses[] {
  const job = useDocument((d) => d.job);
  const [uses, setUses] = useState<FigureUses[]>([]);
  useEffect(() => {
    if (!job?.figures?.length) return;
    const gone = new AbortController();
    const ask = async () => {
      try {
        const got = answer(await api.POST("/api/uses", { body: { job }, signal: gone.signal }));
        setUses(got.figures);
      } catch {
        // What stands there is of a moment ago; the next edit asks again.
      }
    };
    const timer = setTimeout(() => void ask(), RESTS_MS);
    return () => {
      clearTimeout(timer);
      gone.abort();
    };
  }, [job]);
  return uses;
}

/** Named values: each with what it comes to, its range, and all that it moves. */
export function JobFigures() {
  const figures = useDocument((d) => d.job?.figures) ?? [];
  const values = useDraft((d) => d.result?.figures);
  const uses = useUses();
  const fresh = useFresh("figure");
  return (
    <>
      <ul className="figures-of-job" aria-label="figures of the job">
        {figures.map((f, i) => (
          <FigureRow
            key={i}
            i={i}
            figure={f}
            value={values?.[i]}
            uses={uses.find((u) => u.name === f.name)}
          />
        ))}
      </ul>
      {fresh && (
        <Act
          onClick={() => {
            const { name } = fresh.value as { name: string };
            writeJob("/figures/-", { ...fresh.value, name: `${name}${figures.length + 1}` });
          }}
        >
          + {fresh.name}
        </Act>
      )}
    </>
  );
}

interface RowProps {
  i: number;
  figure: Figure;
  value: FigureValue | undefined;
  uses: FigureUses | undefined;
}

function FigureRow({ i, figure, value, uses }: RowProps) {
  const sentence = useSetting("figure")?.sentence ?? [];
  // Its name and its value stand before it; what may follow comes from its own description.
  const clauses = sentence.filter((p) => p.part === "clause");
  const [listed, setListed] = useState(false);
  const { setHover } = draft.getState();
  const lines = [...new Set(uses?.uses.map((u) => u.line).filter(Boolean))];
  const light = () => setHover({ names: [], lines });
  const dark = () => setHover(NOWHERE);
  const count = (uses?.uses.length ?? 0) + (uses?.figures.length ?? 0);
  const refused = uses?.uses.filter((u) => u.refused !== "") ?? [];
  return (
    <li onPointerEnter={light} onPointerLeave={dark} onFocus={light} onBlur={dark}>
      <FigureName i={i} name={figure.name} /> ={" "}
      <input
        className="val words"
        aria-label={`value of ${figure.name}`}
        aria-invalid={value?.fault ? true : undefined}
        value={figure.value}
        onChange={(e) => writeJob(`/figures/${i}/value`, e.target.value, true)}
      />{" "}
      <span className="num">{value?.text}</span>
      <OwnerOf name="job">
        <Fields at={`/figures/${i}`} faults={[]} of={figure.name}>
          {", "}
          <Parts parts={clauses} pre="" tail="." />
        </Fields>
      </OwnerOf>{" "}
      <Act
        aria-label={`take out ${figure.name}`}
        onClick={() => {
          const { job } = draft.getState();
          writeJob(
            "/figures",
            (job?.figures ?? []).filter((_, k) => k !== i),
          );
        }}
      >
        ×
      </Act>
      {value?.slider && (
        <input
          type="range"
          aria-label={`move ${figure.name}`}
          min={value.slider.least}
          max={value.slider.most}
          step={value.slider.step}
          value={figure.value}
          onChange={(e) => writeJob(`/figures/${i}/value`, e.target.value, true)}
        />
      )}
      {value?.fault && (
        <p className="fault" role="alert">
          {`${value.name}: ${value.fault.message}. ${value.fault.mend}.`}
        </p>
      )}
      {refused.map((u) => (
        <p key={u.mark + u.line + u.path} className="fault" role="alert">
          {`${[u.mark, u.line].filter(Boolean).join(" ")} cannot take it: ${u.refused}.`}
        </p>
      ))}
      {count > 0 && (
        <Act aria-expanded={listed} onClick={() => setListed(!listed)}>
          {`moves ${count} ${count === 1 ? "value" : "values"}`}
        </Act>
      )}
      {uses && count === 0 && <span className="hint"> nothing uses it</span>}
      {listed && uses && (
        <ul className="uses" aria-label={`what ${figure.name} moves`}>
          {uses.figures.map((f) => (
            <li key={f}>the figure {f}</li>
          ))}
          {uses.uses.map((u) => (
            <li key={u.mark + u.line + u.path}>
              {[u.mark, u.line].filter(Boolean).join(" ") || "the job"}: <code>{u.text}</code>
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}

/** The name of a figure. Its uses take a new name when it is typed out, in the same step. */
function FigureName({ i, name }: { i: number; name: string }) {
  const before = useRef(name);
  const write = (value: string) => writeJob(`/figures/${i}/name`, value, true);
  const done = async () => {
    const [from, to] = [before.current, name];
    before.current = name;
    const { job } = draft.getState();
    // A name that is another figure's is a fault of its own; its uses are left as they are.
    const own = job?.figures?.filter((f) => f.name === to).length === 1;
    if (!job || from === to || from === "" || to === "" || !own) return;
    if (!JSON.stringify(job).includes(from)) return;
    try {
      const renamed = answer(await api.POST("/api/rename", { body: { job, from, to, line_of: "" } }));
      const { job: now, amend } = draft.getState();
      if (now === job) amend(() => renamed);
    } catch {
      draft.setState({ word: `The uses of ${from} still have its old name: the server does not answer` });
    }
  };
  return (
    <input
      className="val words"
      aria-label={`name of figure ${i + 1}`}
      value={name}
      onFocus={() => {
        before.current = name;
      }}
      onBlur={() => void done()}
      onChange={(e) => write(e.target.value)}
    />
  );
}
