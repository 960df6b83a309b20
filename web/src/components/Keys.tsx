import { Button, Dialog, FormControlLabel, Switch } from "@mui/material";
import { memo, useState } from "react";
import type { BenchName } from "../document/bench";
import { plainKeys, setPlainKeys, useKeys } from "../hooks/useKeys";
import { useVerbs, type VerbView } from "../verbs/useVerbs";

const KEYS: [string, string][] = [
  ["/", "type a line"],
  ["↑ ↓", "from line to line"],
  ["Enter · Esc", "into a line's first value, and back to the line"],
  ["Tab", "from value to value"],
  ["Alt ↑ · Alt ↓", "move the line"],
  ["Space", "switch the line off or on"],
  ["D · Delete", "copy the line, take it out"],
  ["Alt N · Alt R", "name the line, write a remark"],
  ["Ctrl C · Ctrl V", "copy the line as text, put in lines below it"],
  ["Ctrl Z · Ctrl Shift Z", "undo, do again"],
  ["?", "this list"],
];

const ROLES: [string, string][] = [
  ["start", "in an empty recipe, start with: "],
  ["bend", ""],
  ["node", ""],
  ["member", ""],
  ["cut", ""],
  ["other", ""],
];

/** The keys of the verbs, as they tell them. */
function verbKeys(verbs: VerbView[]): [string, string][] {
  return ROLES.flatMap(([role, before]) => {
    const starts = verbs.filter((v) => v.role === role).flatMap((v) => v.starts);
    return starts.length > 0
      ? [
          [
            starts.map((s) => s.key.toUpperCase()).join(" · "),
            before + starts.map((s) => s.name).join(", "),
          ] as [string, string],
        ]
      : [];
  });
}

/** The keys of the bench, on one card. */
export const Keys = memo(function Keys({ bench }: { bench: BenchName }) {
  const verbs = useVerbs()?.[bench] ?? [];
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
            {[...verbKeys(verbs), ...KEYS].map(([key, does]) => (
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
