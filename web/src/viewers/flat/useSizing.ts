/** A size between two things of the flat that are clicked one after the other: a line of the piece. */

import { useEffect } from "react";
import { addSay } from "../../document/bench";
import { draft } from "../../document/draft";
import { useDraft } from "../../hooks/useDraft";
import type { Item } from "./items";

/** Begins or ends the picking. */
export const flipSizing = () => draft.setState((d) => ({ sizing: d.sizing === null ? "" : null }));

export interface Sizing {
  on: boolean;
  /** What is to be done next. */
  hint: string;
  /** Takes what was clicked; false where nothing is being picked. */
  take(it: Item): boolean;
}

export function useSizing(said: (name: string) => string): Sizing {
  const from = useDraft((d) => d.sizing);
  useEffect(() => {
    if (from === null) return;
    const leave = (e: KeyboardEvent) => {
      if (e.key !== "Escape") return;
      draft.setState({ sizing: null });
      e.stopPropagation();
    };
    window.addEventListener("keydown", leave, true);
    return () => window.removeEventListener("keydown", leave, true);
  }, [from]);
  const take = (it: Item) => {
    const first = draft.getState().sizing;
    if (first === null) return false;
    if (it.what === "panel")
      draft.setState({ word: "a dimension runs to an edge, a corner, a bend or a hole of the panel" });
    else if (first === "") draft.setState({ sizing: it.name });
    else if (first === it.name) draft.setState({ word: "that is the same place: click another" });
    else {
      draft.setState({ sizing: null });
      addSay("piece", { verb: "dimension", from: first, to: it.name }, "dimension");
    }
    return true;
  };
  const hint =
    from === ""
      ? "Dimension: click what it runs from · Esc leaves"
      : `Dimension from ${said(from ?? "")}: click what it runs to · Esc leaves`;
  return { on: from !== null, hint, take };
}
