import type { BriefState, FigureResult, Finding, LineFault } from "../api/types";
import type { BenchName } from "../document/bench";
import type { Made } from "../document/draft";
import { useDraft } from "./useDraft";

/** What the server says of what is on the bench. */
export interface Checked {
  id: string;
  figures: FigureResult[];
  findings: Finding[];
  faults: LineFault[];
}

/** What was worked out of it last, if it is of the one on the bench. */
export function useChecked(bench: BenchName): Checked | undefined {
  return useDraft((d) => {
    const view = d.result?.[bench];
    return view?.id === d[bench] ? (view ?? undefined) : undefined;
  });
}

/** How the drawings stand that show what is on the bench. */
export function briefsOf(d: Made, bench: BenchName): BriefState[] {
  return bench === "brief" ? [] : (d.result?.brief_states ?? []).filter((b) => b[bench] === d[bench]);
}
