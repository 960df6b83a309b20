import { useQuery } from "@tanstack/react-query";
import { answer, api } from "../api/client";
import type { Job } from "../api/types";

/** The shop book's materials. */
export function useBook() {
  return useQuery({
    queryKey: ["book"],
    queryFn: async () => answer(await api.GET("/api/book")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** The book's materials and the job's own, for a choice. */
export function materialOptions(
  book: { id: string; name: string }[] | undefined,
  job: Job | null | undefined,
): [string, string][] {
  return [...(job?.materials ?? []), ...(book ?? [])].map((m) => [m.id, m.name || m.id]);
}
