import { Alert, Button } from "@mui/material";
import { useState } from "react";
import { said } from "../api/client";
import { draft } from "../document/draft";
import type { Change, Clash, differences, Part } from "../document/merge";
import { useDraft } from "../hooks/useDraft";

const nameOf = (p: Part) => `${p.kind}:${p.id}`;

/**
 * Somebody else saved while this was changed, in the same places: both sides by piece and line, and a choice
 * for each.
 */
export function Conflict() {
  const conflict = useDraft((d) => d.conflict);
  const [theirs, setTheirs] = useState<ReadonlySet<string>>(new Set());
  const [trouble, setTrouble] = useState("");
  const [going, setGoing] = useState(false);
  if (!conflict) return null;
  const { clashes, taken } = conflict.compared;
  const turn = (part: Part, on: boolean) => {
    const next = new Set(theirs);
    if (on) next.add(nameOf(part));
    else next.delete(nameOf(part));
    setTheirs(next);
  };
  const go = async () => {
    setGoing(true);
    setTrouble("");
    try {
      await draft.getState().saver?.resolve((p) => (theirs.has(nameOf(p)) ? "theirs" : "mine"));
      setTheirs(new Set());
    } catch (e) {
      setTrouble(said(e));
    }
    setGoing(false);
  };
  return (
    <Alert severity="warning" className="conflict" role="alert">
      <p>
        <b>Saved elsewhere as revision {conflict.revision} while you changed the same.</b> Choose for
        each; both stay in the history.
        {taken.length > 0 &&
          ` Changed there only, and taken over: ${taken.map((p) => p.label).join(", ")}.`}
      </p>
      {clashes.map((c) => (
        <SideBySide
          key={nameOf(c.part)}
          clash={c}
          theirs={theirs.has(nameOf(c.part))}
          turn={(on) => turn(c.part, on)}
        />
      ))}
      {trouble && <p className="fault">{trouble}</p>}
      <Button variant="contained" disabled={going} onClick={() => void go()}>
        go on so
      </Button>
    </Alert>
  );
}

function SideBySide({ clash, theirs, turn }: { clash: Clash; theirs: boolean; turn(on: boolean): void }) {
  const places = [...new Set([...clash.mine, ...clash.theirs].map((c) => c.at))];
  const find = (list: Change[], at: string) => list.find((c) => c.at === at);
  return (
    <table className="versions" aria-label={`both versions of ${clash.part.label}`}>
      <thead>
        <tr>
          <th>{clash.part.label}</th>
          <th>as it was</th>
          <th aria-selected={!theirs}>
            <label>
              <input
                type="radio"
                name={nameOf(clash.part)}
                checked={!theirs}
                onChange={() => turn(false)}
              />{" "}
              mine
            </label>
          </th>
          <th aria-selected={theirs}>
            <label>
              <input
                type="radio"
                name={nameOf(clash.part)}
                checked={theirs}
                onChange={() => turn(true)}
              />{" "}
              theirs
            </label>
          </th>
        </tr>
      </thead>
      <tbody>
        {places.map((at) => {
          const [m, t] = [find(clash.mine, at), find(clash.theirs, at)];
          const before = (m ?? t)?.before ?? "";
          return (
            <tr key={at}>
              <td>{at}</td>
              <td>{before}</td>
              <td className={m ? "changed" : ""}>{m ? m.after : before}</td>
              <td className={t ? "changed" : ""}>{t ? t.after : before}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** What differs between two states, in a few lines. */
export function Differences({ list }: { list: ReturnType<typeof differences> }) {
  return (
    <ul className="differences">
      {list.slice(0, 8).map(({ part, changes }) => (
        <li key={nameOf(part)}>
          <b>{part.label}</b>: {changes.map((c) => `${c.at} ${c.before} → ${c.after}`).join("; ")}
        </li>
      ))}
      {list.length > 8 && <li>and {list.length - 8} more</li>}
    </ul>
  );
}
