import { useState } from "react";
import { answer, api, said } from "../api/client";
import type { VariantRow } from "../api/types";
import { applyJob } from "../document/bench";
import { useDocument } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { SettingList } from "../verbs/Settings";

/** Other values of the job's figures, and all of them side by side. */
export function Variants() {
  const variants = useDocument((d) => d.job?.variants) ?? [];
  const figures = useDocument((d) => d.job?.figures?.length ?? 0);
  const job = useDocument((d) => d.job);
  const piece = useDocument((d) => d.piece);
  const frame = useDocument((d) => d.frame);
  const [rows, setRows] = useState<{ of: typeof job; rows: VariantRow[] } | null>(null);
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const compare = async () => {
    if (!job) return;
    setBusy(true);
    try {
      setRows({ of: job, rows: answer(await api.POST("/api/variants", { body: { job } })).rows });
      setTrouble("");
    } catch (e) {
      setTrouble(said(e));
    } finally {
      setBusy(false);
    }
  };
  if (figures === 0)
    return <p className="hint">A variant gives the job's figures other values: add a figure first.</p>;
  return (
    <>
      <SettingList tag="variant" />
      {variants.length > 0 && (
        <Act disabled={busy} onClick={() => void compare()}>
          {busy ? "is being worked out…" : "compare them"}
        </Act>
      )}
      {trouble && (
        <p className="fault" role="alert">
          {trouble}
        </p>
      )}
      {rows && <Compared rows={rows.rows} old={rows.of !== job} shown={frame || piece} />}
    </>
  );
}

interface ComparedProps {
  rows: VariantRow[];
  /** The job was changed since. */
  old: boolean;
  /** Id of what stands on the bench. */
  shown: string;
}

function Compared({ rows, old, shown }: ComparedProps) {
  const of = (r: VariantRow) => [...r.pieces, ...r.frames].find((p) => p.id === shown);
  const mark = rows[0] ? of(rows[0])?.mark : undefined;
  return (
    <table className={`variants${old ? " old" : ""}`} aria-label="variants side by side">
      <caption>
        {mark ? `${mark} in every variant` : "Every variant"}
        {old && ", as the job was before its last change"}
      </caption>
      <thead>
        <tr>
          <th>variant</th>
          <th>flat</th>
          <th className="num">mass</th>
          <th>findings</th>
          <th>drawings</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {rows.map((r, i) => {
          const part = of(r);
          return (
            <tr key={`${i} ${r.name}`}>
              <th scope="row">{i === 0 ? "as it stands" : r.name || "no name"}</th>
              {r.trouble && !part ? (
                <td colSpan={5} className="stop">
                  {r.trouble}
                </td>
              ) : part ? (
                <>
                  <td className="num">{part.made ? part.size : r.trouble || "cannot be made"}</td>
                  <td className="num">{part.mass}</td>
                  <td>
                    {part.stops > 0 && <span className="stop">■ {part.stops} </span>}
                    {part.warns > 0 && `▲ ${part.warns}`}
                    {part.stops + part.warns === 0 && "none"}
                  </td>
                </>
              ) : (
                <td colSpan={3} />
              )}
              {(part || !r.trouble) && <td>{r.tally.all > 0 ? `${r.tally.met}/${r.tally.all}` : "—"}</td>}
              <td>
                {r.take.length > 0 && !old && (
                  <Act aria-label={`take the values of ${r.name}`} onClick={() => applyJob(r.take)}>
                    take
                  </Act>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
