/** A size between two things of the flat that are clicked one after the other: a line of the piece. */

import { useEffect } from "react";
import { addSay } from "../../document/bench";
import { draft } from "../../document/draft";
import { set } from "../../document/pointer";
import { useDraft } from "../../hooks/useDraft";
import { thingFields } from "../../verbs/tie";
import { type Said, useVerbs, type VerbView } from "../../verbs/useVerbs";
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

/** The line whose sentence runs between two spots. */
function add(names: [string, string], verbs: VerbView[] | undefined): void {
  for (const v of verbs ?? []) {
    const [from, to] = thingFields(v.sentence, "spot");
    if (!from || !to) continue;
    const say = names.reduce((s, n, i) => set(s, (i === 0 ? from : to).path, n), { verb: v.tag } as Said);
    addSay("piece", say, v.stem);
    return;
  }
}

export function useSizing(said: (name: string) => string): Sizing {
  const from = useDraft((d) => d.sizing);
  const verbs = useVerbs()?.piece;
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
      add([first, it.name], verbs);
    }
    return true;
  };
  const hint =
    from === ""
      ? "Dimension: click what it runs from · Esc leaves"
      : `Dimension from ${said(from ?? "")}: click what it runs to · Esc leaves`;
  return { on: from !== null, hint, take };
}
