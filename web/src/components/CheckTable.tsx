import type { Check, Tally } from "../api/types";
import { draft } from "../document/draft";
import { useDraft } from "../hooks/useDraft";
import { Act } from "../verbs/Act";

const SIGN = { met: "✓", off: "■", lost: "?", untied: "○" } as const;
const SAID = { met: "met", off: "off", lost: "not measurable", untied: "not tied" } as const;

/** How many figures stand how, in one line. */
export function TallyLine({ tally }: { tally: Tally }) {
  const parts = [
    tally.off > 0 && `${tally.off} off`,
    tally.lost > 0 && `${tally.lost} not measurable`,
    tally.untied > 0 && `${tally.untied} not tied`,
  ].filter(Boolean);
  const bad = tally.off + tally.lost > 0;
  return (
    <p className="tally" aria-live="polite">
      <b className={bad ? "stop" : tally.untied > 0 ? "warn" : "met"}>
        {tally.met} of {tally.all} met
      </b>
      {parts.length > 0 && ` · ${parts.join(" · ")}`}
    </p>
  );
}

/** What the drawing says beside what the model has, a row a figure. */
export function CheckTable({ checks, notes }: { checks: Check[]; notes: Map<string, string> }) {
  const picked = useDraft((d) => d.picked);
  const { setHover, pick } = draft.getState();
  return (
    <div className="list-scroll">
      <table className="cut-table checks" aria-label="figures of the drawing against the model">
        <thead>
          <tr>
            <th>figure</th>
            <th className="num">drawing</th>
            <th>allowed</th>
            <th className="num">model</th>
            <th>stands</th>
          </tr>
        </thead>
        <tbody>
          {checks.map((c) => (
            <tr
              key={`${c.line} ${c.what}`}
              aria-current={c.line === picked}
              onPointerEnter={() => setHover({ line: c.line, names: c.names })}
              onPointerLeave={() => setHover({ names: [] })}
            >
              <td>
                <Act
                  onClick={() => {
                    pick(c.line);
                    document.querySelector<HTMLElement>(`[data-line="${c.line}"]`)?.focus();
                  }}
                >
                  {c.line}
                </Act>
                {c.what && ` ${c.what}`}
              </td>
              <td className="num">{c.nominal}</td>
              <td title={c.by}>{c.allowed}</td>
              <td className="num">{c.measured}</td>
              <td>
                <span className={`sign ${c.verdict}`}>
                  {SIGN[c.verdict]} {SAID[c.verdict]}
                </span>{" "}
                {c.said || (c.verdict === "untied" && notes.get(c.line))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
