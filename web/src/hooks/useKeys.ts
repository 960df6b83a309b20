import { useEffect, useRef } from "react";

/** What has keys of its own. */
const FIELDS = ["input", "select", "textarea", "button", "a[href]", "summary"]
  .concat(["button", "tab", "menuitem", "slider", "application"].map((role) => `[role=${role}]`))
  .join();
/** Fields whose text is not the job's until it is sent: the browser undoes what is typed there. */
const OWN_TEXT = "[data-own-text]";

const OFF = "steelk.keys";

/**
 * Whether plain letters and signs act; they can be switched off for who speaks to the page, or strays onto
 * keys.
 */
export const plainKeys = () => localStorage.getItem(OFF) !== "off";

export function setPlainKeys(on: boolean): void {
  localStorage.setItem(OFF, on ? "on" : "off");
}

/**
 * Listens to the keyboard for the whole screen. `act` gets the key as it is written (`h`, `/`, `?`), with
 * `mod+` before it where Ctrl or ⌘ is held, and says whether it used it. Plain keys stay with what has keys
 * of its own, and with a menu or a card that is open; a key that is held acts once.
 */
export function useKeys(act: (key: string) => boolean): void {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      // Letters that an input method is still composing are not ours.
      if (e.isComposing || e.keyCode === 229) return;
      const mod = e.ctrlKey || e.metaKey;
      const at = e.target instanceof Element ? e.target : null;
      const busy = at?.closest(FIELDS) || document.querySelector(".MuiModal-root") !== null;
      if (e.altKey || (busy && !mod) || (mod && at?.matches(OWN_TEXT))) return;
      if (!mod && e.key.length === 1 && !plainKeys()) return;
      const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
      const name = mod ? `mod+${e.shiftKey ? "shift+" : ""}${key}` : key;
      // Undo may be held; what adds something may not.
      if (e.repeat && !mod) return;
      if (latest.current(name)) e.preventDefault();
    };
    document.addEventListener("keydown", down);
    return () => document.removeEventListener("keydown", down);
  }, []);
}
