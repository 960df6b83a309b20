import { useEffect, useRef } from "react";

const FIELDS = "input, select, textarea";

/**
 * Listens to the keyboard for the whole screen. `act` gets the key as it is written (`h`, `/`, `?`), with `mod+` before it where Ctrl or ⌘
 * is held, and says whether it used it. Plain keys stay with a field, a menu or a card that is open.
 */
export function useKeys(act: (key: string) => boolean): void {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      const mod = e.ctrlKey || e.metaKey;
      const busy = (e.target instanceof Element && e.target.matches(FIELDS)) || document.querySelector(".MuiModal-root") !== null;
      if (e.altKey || (busy && !mod)) return;
      const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
      if (latest.current(mod ? `mod+${e.shiftKey ? "shift+" : ""}${key}` : key)) e.preventDefault();
    };
    document.addEventListener("keydown", down);
    return () => document.removeEventListener("keydown", down);
  }, []);
}
