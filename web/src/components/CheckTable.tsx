import type { Check, Tally } from "../api/types";
import { draft } from "../document/draft";
import { useDraft } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { Taken } from "./Taken";

const SIGN = { met: "✓", off: "■", lost: "?", untied: "○" } as const;

/** Brings the first figure that stands so into sight. */
const show = (verdict: Check["verdict"]) =>
  document.querySelector(`.checks [data-verdict="${verdict}"]`)?.scrollIntoView({ block: "center" });

/** How many figures stand how, in one line; each number leads to the first of them. */
export function TallyLine({ tally, checks }: { tally: Tally; checks: Check[] }) {
  const stands = (["off", "lost", "untied"] as const).flatMap(
    (v) => checks.find((c) => c.verdict === v) ?? [],
  );
  const bad = tally.off + tally.lost > 0;
  return (
    <div className="tally" aria-live="polite">
      <b className={bad ? "stop" : tally.untied > 0 ? "warn" : "met"}>
        {tally.met} of {tally.all} met
      </b>{" "}
      {stands.map(({ verdict, stands }) => (
        <Act key={verdict} onClick={() => show(verdict)}>{`${tally[verdict]} ${stands}`}</Act>
      ))}
      {tally.taken > 0 && (
        <>
          {`${tally.taken} measured`}
          {tally.out > 0 && <b className="stop">{`, ${tally.out} out`}</b>}
        </>
      )}
    </div>
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
            <th className="num">first piece</th>
            <th className="num">last piece</th>
          </tr>
        </thead>
        <tbody>
          {checks.flatMap((c, i) => [
            c.view !== (checks[i - 1]?.view ?? "") && (
              <tr key={`${c.line} view`} className="of-view">
                <th colSpan={7} scope="colgroup">
                  {c.view || "no view"}
                </th>
              </tr>
            ),
            <tr
              key={`${c.line} ${c.what}`}
              data-verdict={c.verdict}
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
                  {c.figure}
                </Act>
                {c.what && ` ${c.what}`}
              </td>
              <td className="num">{c.nominal}</td>
              <td title={c.by}>{c.allowed}</td>
              <td className="num">{c.measured}</td>
              <td>
                <span className={`sign ${c.verdict}`}>
                  {SIGN[c.verdict]} {c.stands}
                </span>{" "}
                {c.said || (c.verdict === "untied" && notes.get(c.line))}
              </td>
              {(["first", "last"] as const).map((piece) => (
                <Taken key={piece} check={c} piece={piece} />
              ))}
            </tr>,
          ])}
        </tbody>
      </table>
    </div>
  );
}
