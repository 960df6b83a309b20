import { useEffect } from "react";
import type { Evaluated } from "../api/types";
import { draft } from "../document/draft";
import { useDraft } from "./useDraft";

/** The cut list of the job. The server is asked for it as long as something shows it. */
export function useCutList(): NonNullable<Evaluated["cut_list"]> | undefined {
  useEffect(() => {
    const show = (by: number) => draft.setState((d) => ({ lists: d.lists + by }));
    show(1);
    return () => show(-1);
  }, []);
  return useDraft((d) => d.result?.cut_list ?? undefined);
}
