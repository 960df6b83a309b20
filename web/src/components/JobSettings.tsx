import { memo, useRef, useState } from "react";
import { answer, api } from "../api/client";
import { writeJob } from "../document/bench";
import { draft } from "../document/draft";
import { useDraft } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { OwnerOf } from "../verbs/Field";
import { SettingList, SettingOne, SettingSentence, useFresh, useJobFaults } from "../verbs/Settings";

/** Whether a fault is of a list as a whole, of the job's head, or of pieces and frames beside one another. */
const ofNoSentence = (path: string) => /^\/(pieces|frames|briefs)\b|^\/[^/]+$/.test(path);

/** Faults that no sentence shows, always in sight. */
export const JobFaults = memo(function JobFaults() {
  const faults = useDraft((d) => d.result?.faults);
  return (faults ?? [])
    .filter((f) => ofNoSentence(f.path))
    .map((f) => (
      <p key={f.path} className="fault" role="alert">
        <b>Stop.</b> {f.message}. <i>{f.mend}.</i>
      </p>
    ));
});

/** Stand in the head of the page. */
const ABOVE = ["/title", "/number"];

/** Settings and named figures of the whole job. */
export const JobSettings = memo(function JobSettings() {
  const [open, setOpen] = useState(false);
  const wrong = useDraft(
    (d) =>
      (d.result?.figures ?? []).filter((f) => f.fault).length +
      (d.result?.faults ?? []).filter((f) => !ofNoSentence(f.path)).length,
  );
  return (
    <details className="job-settings" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>
        Job figures and settings {wrong > 0 && <span className="stop">■ {wrong} to mend</span>}
      </summary>
      {open && <AllSettings />}
    </details>
  );
});

function AllSettings() {
  const faults = useJobFaults("/bend_rule").map((f) => ({ ...f, path: `/bend_rule${f.path}` }));
  return (
    <>
      <OwnerOf name="job">
        <SettingSentence tag="job" at="" faults={faults} skip={ABOVE} bare />
      </OwnerOf>
      <h3>Figures</h3>
      <JobFigures />
      <h3>Sheets on the rack</h3>
      <SettingList tag="sheet" />
      <details>
        <summary>Bend table, test bends and brake</summary>
        <SettingOne tag="brake" />
        <SettingList tag="test_bend" />
        <SettingList tag="table_row" />
      </details>
      <details>
        <summary>Materials of the shop's own</summary>
        <p className="hint">The book's materials are there without this.</p>
        <SettingList tag="material" />
      </details>
      <details>
        <summary>Sections of the shop's own</summary>
        <p className="hint">Outlines by their corners; a bore is cut out of it.</p>
        <SettingList tag="section" />
      </details>
    </>
  );
}

/** Named values: each with what it comes to. */
function JobFigures() {
  const figures = useDraft((d) => d.job?.figures) ?? [];
  const values = useDraft((d) => d.result?.figures);
  const fresh = useFresh("figure");
  return (
    <>
      <table aria-label="figures of the job">
        <tbody>
          {figures.map((f, i) => {
            const v = values?.[i];
            return (
              <tr key={i}>
                <td>
                  <FigureName i={i} name={f.name} />
                </td>
                <td>
                  ={" "}
                  <input
                    className="val words"
                    aria-label={`value of ${f.name}`}
                    aria-invalid={v?.fault ? true : undefined}
                    value={f.value}
                    onChange={(e) => writeJob(`/figures/${i}/value`, e.target.value, true)}
                  />
                </td>
                <td className="num">{v?.text}</td>
                <td>
                  <Act
                    aria-label={`take out ${f.name}`}
                    onClick={() =>
                      writeJob(
                        "/figures",
                        figures.filter((_, k) => k !== i),
                      )
                    }
                  >
                    ×
                  </Act>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {values?.map(
        (v) =>
          v.fault && (
            <p key={v.name} className="fault" role="alert">
              {`${v.name}: ${v.fault.message}. ${v.fault.mend}.`}
            </p>
          ),
      )}
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
    if (!JSON.stringify([job.figures, job.pieces, job.frames, job.briefs]).includes(from)) return;
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
