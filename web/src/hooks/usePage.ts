import { useEffect } from "react";
import { useDraft } from "./useDraft";

/** The window says what stands on it: `P-101 stand, Pieces, job`. */
export function usePage(station: string, what = ""): void {
  const title = useDraft((d) => d.job?.title ?? "");
  useEffect(() => {
    document.title = [what.slice(0, 60), station, title.slice(0, 60), "Steelk"]
      .filter(Boolean)
      .join(" · ");
  }, [station, what, title]);
}
