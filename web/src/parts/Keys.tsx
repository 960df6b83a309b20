import { Button, Dialog } from "@mui/material";
import { useState } from "react";
import { useKeys } from "./useKeys";

const KEYS: [string, string][] = [
  ["P · S · C · T · O · N", "in an empty recipe: start with a plate, strip, channel, tray, rolled shell, cone"],
  ["F · C · N", "fold an edge, close corners, bend along a line"],
  ["X · J · T · V", "hem, joggle, tab, notch"],
  ["H · L · B · K · G", "punch a hole, a slot, a rectangle, a keyhole; fill with holes"],
  ["I · U", "press a rib, a louvre"],
  ["R · E · W · Y · M", "round corners; repeat in a row, a ring, along a path; mirror"],
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
