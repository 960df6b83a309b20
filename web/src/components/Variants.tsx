import { useState } from "react";
import { answer, api, said } from "../api/client";
import type { Variant, VariantRow } from "../api/types";
import { writeJob } from "../document/bench";
import { draft } from "../document/draft";
import { useDraft } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { SettingList } from "../verbs/Settings";

/** Other values of the job's figures, and all of them side by side. */
export function Variants() {
  const variants = useDraft((d) => d.job?.variants) ?? [];
  const figures = useDraft((d) => d.job?.figures?.length ?? 0);
  const job = useDraft((d) => d.job);
  const piece = useDraft((d) => d.piece);
  const frame = useDraft((d) => d.frame);
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
      {rows && (
        <Compared rows={rows.rows} old={rows.of !== job} shown={frame || piece} variants={variants} />
      )}
    </>
  );
}

interface ComparedProps {
  rows: VariantRow[];
  /** The job was changed since. */
  old: boolean;
  /** Id of what stands on the bench. */
  shown: string;
  variants: Variant[];
}

function Compared({ rows, old, shown, variants }: ComparedProps) {
  const of = (r: VariantRow) => [...r.pieces, ...r.frames].find((p) => p.id === shown);
  const mark = rows[0] ? of(rows[0])?.mark : undefined;
  const take = (v: Variant | undefined) => {
    const { job } = draft.getState();
    const figures = (job?.figures ?? []).map((f) => {
      const own = v?.values?.find((x) => x.figure === f.name);
      return own ? { ...f, value: own.value } : f;
    });
    writeJob("/figures", figures);
  };
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
                {i > 0 && !r.trouble && (
                  <Act aria-label={`take the values of ${r.name}`} onClick={() => take(variants[i - 1])}>
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
