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

const ROLES = ["bend", "node", "member", "cut", "other"];

type Key = { key: string; name: string };

const row = (of: Key[], before = ""): [string, string][] =>
  of.length > 0
    ? [[of.map((s) => s.key.toUpperCase()).join(" · "), before + of.map((s) => s.name).join(", ")]]
    : [];

/** The keys of the verbs, as they tell them. */
const verbKeys = (verbs: VerbView[]): [string, string][] =>
  ROLES.flatMap((role) => row(verbs.filter((v) => v.role === role).flatMap((v) => v.starts)));

/** The keys of the bench, on one card. */
export const Keys = memo(function Keys({ bench }: { bench: BenchName }) {
  const verbs = useVerbs();
  const first = row(beginningsOf(bench, verbs), "in an empty recipe, start with: ");
  const [open, setOpen] = useState(false);
  const [plain, setPlain] = useState(plainKeys);
  useKeys((key) => {
    if (key === "?") setOpen(true);
    return key === "?";
  });
  return (
    <>
      <Button onClick={() => setOpen(true)}>keys</Button>
      <Dialog open={open} onClose={() => setOpen(false)} aria-label="keys of the bench">
        <table className="keys">
          <tbody>
            {[...first, ...verbKeys(verbs?.[bench] ?? []), ...KEYS].map(([key, does]) => (
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
