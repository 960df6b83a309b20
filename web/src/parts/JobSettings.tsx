import { set as put } from "../draft/pointer";
import { useDraft } from "../draft/store";
import { BendBook } from "./BendBook";

/** Settings and named figures of the whole job. */
export function JobSettings() {
  const job = useDraft((d) => d.job);
  const values = useDraft((d) => d.result?.figures);
  const faults = useDraft((d) => d.result?.faults) ?? [];
  if (!job) return null;
  const write = (path: string, value: unknown) => useDraft.getState().edit(`job:${path}`, (j) => put(j, path, value));
  const figures = job.figures ?? [];
  return (
    <details className="job-settings">
      <summary>Job figures and settings</summary>
      <p>
        Lengths in{" "}
        <select className="choice" aria-label="unit of the job" value={job.display?.length ?? "mm"} onChange={(e) => write("/display/length", e.target.value)}>
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
            onChange={(e) => write("/bend_rule/k", e.target.value)}
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
                  <input
                    className="val words"
                    aria-label={`name of figure ${i + 1}`}
                    value={f.name}
                    onChange={(e) => write(`/figures/${i}/name`, e.target.value)}
                  />
                </td>
                <td>
                  ={" "}
                  <input
                    className="val words"
                    aria-label={`value of ${f.name}`}
                    aria-invalid={v?.fault ? true : undefined}
                    value={f.value}
                    onChange={(e) => write(`/figures/${i}/value`, e.target.value)}
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
      {values?.map((v) => v.fault && <p key={v.name} className="fault">{`${v.name}: ${v.fault.message}. ${v.fault.mend}.`}</p>)}
      <button type="button" className="chip" onClick={() => write("/figures/-", { name: `size${figures.length + 1}`, value: "10" })}>
        + figure
      </button>
      <p>
        Sheets on the rack:{" "}
        {(job.stock ?? []).map((s, i) => (
          <span key={i} className="stock">
            <input className="val" aria-label={`sheet ${i + 1} length`} value={s.length} onChange={(e) => write(`/stock/${i}/length`, e.target.value)} /> ×{" "}
            <input className="val" aria-label={`sheet ${i + 1} width`} value={s.width} onChange={(e) => write(`/stock/${i}/width`, e.target.value)} />{" "}
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
        <button type="button" className="chip" onClick={() => write("/stock/-", { length: "2500mm", width: "1250mm" })}>
          + sheet
        </button>
      </p>
      <BendBook job={job} />
      {faults.map((f, i) => (
        <p key={i} className="fault">{`${f.path}: ${f.message}. ${f.mend}.`}</p>
      ))}
    </details>
  );
}
