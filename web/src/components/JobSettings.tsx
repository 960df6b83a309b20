import { useRef } from "react";
import { answer, api } from "../api/client";
import { draft } from "../document/draft";
import { set as put } from "../document/pointer";
import { useDraft } from "../hooks/useDraft";
import { BendBook } from "./BendBook";
import { Materials } from "./Materials";

/** Faults that are about pieces and frames beside one another, always in sight. */
export function JobFaults() {
  const faults = useDraft((d) => d.result?.faults);
  return (faults ?? [])
    .filter((f) => f.path.startsWith("/pieces") || f.path.startsWith("/frames"))
    .map((f) => (
      <p key={f.path} className="fault">
        <b>Stop.</b> {f.message}. <i>{f.mend}.</i>
      </p>
    ));
}

/** The name of a figure. Its uses take a new name when it is typed out, in the same step. */
function FigureName({ i, name }: { i: number; name: string }) {
  const before = useRef(name);
  const write = (value: string) =>
    draft.getState().edit(`job:/figures/${i}/name`, (j) => put(j, `/figures/${i}/name`, value));
  const done = async () => {
    const [from, to] = [before.current, name];
    before.current = name;
    const { job } = draft.getState();
    // A name that is another figure's is a fault of its own; its uses are left as they are.
    if (
      !job ||
      from === to ||
      from === "" ||
      to === "" ||
      job.figures?.filter((f) => f.name === to).length !== 1
    )
      return;
    if (!JSON.stringify([job.figures, job.pieces, job.frames]).includes(from)) return;
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

/** Settings and named figures of the whole job. */
export function JobSettings() {
  const job = useDraft((d) => d.job);
  const values = useDraft((d) => d.result?.figures);
  const faults = useDraft((d) => d.result?.faults) ?? [];
  if (!job) return null;
  const write = (path: string, value: unknown, typed = false) =>
    draft.getState().edit(typed ? `job:${path}` : "", (j) => put(j, path, value));
  const figures = job.figures ?? [];
  return (
    <details className="job-settings">
      <summary>Job figures and settings</summary>
      <p>
        Lengths in{" "}
        <select
          className="choice"
          aria-label="unit of the job"
          value={job.display?.length ?? "mm"}
          onChange={(e) => write("/display/length", e.target.value)}
        >
          <option value="mm">mm</option>
          <option value="in">inches</option>
        </select>{" "}
        {job.display?.length === "in" && (
          <select
            className="choice"
            aria-label="inches shown"
            value={job.display.inches ?? "decimal"}
            onChange={(e) => write("/display/inches", e.target.value)}
          >
            {["decimal", "1/16", "1/32", "1/64"].map((v) => (
              <option key={v}>{v}</option>
            ))}
          </select>
        )}
        ; bends by{" "}
        <select
          className="choice"
          aria-label="bend school of the job"
          value={job.bend_rule?.school ?? "din6935"}
          onChange={(e) => write("/bend_rule", { school: e.target.value })}
        >
          <option value="din6935">DIN 6935</option>
          <option value="k_factor">K-factor</option>
          <option value="handbook90">handbook 90°</option>
          <option value="table">bend table</option>
          <option value="test_bend">test bend</option>
        </select>{" "}
        {job.bend_rule?.school === "k_factor" && (
          <input
            className="val"
            aria-label="K-factor of the job"
            placeholder="usual"
            value={job.bend_rule.k ?? ""}
            onChange={(e) => write("/bend_rule/k", e.target.value, true)}
          />
        )}
      </p>
      <table>
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
                    onChange={(e) => write(`/figures/${i}/value`, e.target.value, true)}
                  />
                </td>
                <td className="num">{v?.text}</td>
                <td>
                  <button
                    type="button"
                    className="chip"
                    aria-label={`take out ${f.name}`}
                    onClick={() =>
                      write(
                        "/figures",
                        figures.filter((_, k) => k !== i),
                      )
                    }
                  >
                    ×
                  </button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {values?.map(
        (v) =>
          v.fault && (
            <p key={v.name} className="fault">{`${v.name}: ${v.fault.message}. ${v.fault.mend}.`}</p>
          ),
      )}
      <button
        type="button"
        className="chip"
        onClick={() => write("/figures/-", { name: `size${figures.length + 1}`, value: "10" })}
      >
        + figure
      </button>
      <p>
        Sheets on the rack:{" "}
        {(job.stock ?? []).map((s, i) => (
          <span key={i} className="stock">
            <input
              className="val"
              aria-label={`sheet ${i + 1} length`}
              value={s.length}
              onChange={(e) => write(`/stock/${i}/length`, e.target.value, true)}
            />{" "}
            ×{" "}
            <input
              className="val"
              aria-label={`sheet ${i + 1} width`}
              value={s.width}
              onChange={(e) => write(`/stock/${i}/width`, e.target.value, true)}
            />{" "}
            <button
              type="button"
              className="chip"
              aria-label={`take out sheet ${i + 1}`}
              onClick={() =>
                write(
                  "/stock",
                  job.stock?.filter((_, k) => k !== i),
                )
              }
            >
              ×
            </button>{" "}
          </span>
        ))}
        <button
          type="button"
          className="chip"
          onClick={() => write("/stock/-", { length: "2500mm", width: "1250mm" })}
        >
          + sheet
        </button>
      </p>
      <BendBook job={job} />
      <Materials job={job} />
      {faults.map((f, i) => (
        <p key={i} className="fault">{`${f.path}: ${f.message}. ${f.mend}.`}</p>
      ))}
    </details>
  );
}
