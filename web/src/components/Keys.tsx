import { Button, Dialog, FormControlLabel, Switch } from "@mui/material";
import { memo, useState } from "react";
import type { BenchName } from "../document/bench";
import { plainKeys, setPlainKeys, useKeys } from "../hooks/useKeys";
import { beginningsOf } from "../verbs/Beginnings";
import { useVerbs, type VerbView } from "../verbs/useVerbs";

const KEYS: [string, string][] = [
  ["/", "type a line"],
  ["↑ ↓", "from line to line"],
  ["Enter · Esc", "into a line's first value, and back to the line"],
  ["Tab", "from value to value"],
  ["Alt ↑ · Alt ↓", "move the line"],
  ["Space", "switch the line off or on"],
  ["D · Delete", "copy the line, take it out"],
  ["Alt G", "begin a group with the line; space folds it"],
  ["Alt N · Alt R", "name the line, write a remark"],
  ["Ctrl C · Ctrl V", "copy the line as text, put in lines below it"],
  ["Ctrl Z · Ctrl Shift Z", "undo, do again"],
  ["S", "the list of the job: find, sort, choose several"],
  ["Ctrl K", "find anything, and do it"],
  ["?", "this list"],
];

type Key = { key: string; name: string };

/** The keys of the verbs, as they tell them: those that do alike together. */
const verbKeys = (verbs: VerbView[]): Key[][] =>
  [...new Set(verbs.map((v) => v.role))]
    .filter((role) => role !== "start")
    .map((role) => verbs.filter((v) => v.role === role).flatMap((v) => v.starts))
    .filter((keys) => keys.length > 0);

/** Each key beside what it begins. */
function VerbKeys({ keys, before }: { keys: Key[]; before?: string }) {
  return (
    <tr>
      <td colSpan={2}>
        {before}
        {keys.map((k) => (
          <span key={k.key}>
            <kbd>{k.key.toUpperCase()}</kbd> {k.name}
          </span>
        ))}
      </td>
    </tr>
  );
}

/** The keys of the bench, on one card. */
export const Keys = memo(function Keys({ bench }: { bench: BenchName }) {
  const verbs = useVerbs();
  const first = beginningsOf(bench, verbs);
  const [open, setOpen] = useState(false);
  const [plain, setPlain] = useState(plainKeys);
  useKeys((key) => {
    if (key === "?") setOpen(true);
    return key === "?";
  });
  return (
    <>
      <Button onClick={() => setOpen(true)}>keys</Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        slotProps={{ paper: { "aria-label": "keys of the bench" } }}
      >
        <table className="keys">
          <tbody>
            {first.length > 0 && <VerbKeys keys={first} before="in an empty recipe, start with " />}
            {verbKeys(verbs?.[bench] ?? []).map((keys) => (
              <VerbKeys key={keys[0]?.key} keys={keys} />
            ))}
            {KEYS.map(([key, does]) => (
              <tr key={key}>
                <td>
                  {key.split(" · ").map((k) => (
                    <kbd key={k}>{k}</kbd>
                  ))}
                </td>
                <td>{does}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <FormControlLabel
          className="keys-switch"
          label="letters and signs act by themselves"
          control={
            <Switch
              checked={plain}
              onChange={(_, on) => {
                setPlainKeys(on);
                setPlain(on);
              }}
            />
          }
        />
      </Dialog>
    </>
  );
});
