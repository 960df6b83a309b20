import { Button, Dialog } from "@mui/material";
import { useState } from "react";
import { useKeys } from "./useKeys";

const KEYS: [string, string][] = [
  ["P · S", "start with a plate, a strip (in an empty recipe)"],
  ["H · L · B", "punch a hole, a slot, a rectangle"],
  ["R · E · M", "round corners, repeat, mirror"],
  ["/", "type a line as short text"],
  ["↑ ↓", "from line to line"],
  ["Enter · Esc", "into a line's first value, and back to the line"],
  ["Tab", "from value to value"],
  ["Alt ↑ · Alt ↓", "move the line"],
  ["Space", "switch the line off or on"],
  ["D · Delete", "copy the line, take it out"],
  ["Ctrl Z · Ctrl Shift Z", "undo, do again"],
  ["?", "this list"],
];

/** The keys of the bench, on one card. */
export function Keys() {
  const [open, setOpen] = useState(false);
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
            {KEYS.map(([key, does]) => (
              <tr key={key}>
                <td>
                  <kbd>{key}</kbd>
                </td>
                <td>{does}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Dialog>
    </>
  );
}
