import { useQuery } from "@tanstack/react-query";
import { answer, api } from "../api/client";
import type { components } from "../api/schema";

type S = components["schemas"];
export type PartView = S["PartView"];
export type Of<P extends PartView["part"]> = Extract<PartView, { part: P }>;
export type VerbView = S["VerbView"];
export type Kind = S["Kind"];
export type Verbs = S["Verbs"];
/** What a piece or a frame may begin with. */
export type Beginning = S["BeginningView"];
/** What a line says, as it is stored. */
export type Said = { verb: string } & Record<string, unknown>;

let known: Verbs | undefined;

/** The verbs, once the page has them. */
export const knownVerbs = (): Verbs | undefined => known;

/** Every verb with its sentence, as the core tells them. */
export function useVerbs(): Verbs | undefined {
  return useQuery({
    queryKey: ["verbs"],
    queryFn: async () => {
      known = answer(await api.GET("/api/verbs"));
      return known;
    },
    staleTime: Number.POSITIVE_INFINITY,
    // Nothing can be said without them: asked for until they come.
    retry: true,
  }).data;
}

/** A setting of the job, or the head of a piece or frame, as the core tells it. */
export function useSetting(tag: string): S["SettingView"] | undefined {
  return useVerbs()?.settings.find((s) => s.tag === tag);
}

/** What stands for `$edge`, `$cut` and the like in a line that is offered. */
export type Fill = Record<string, string | string[] | object | undefined>;

/** A line as it is offered, with what there is put in its place; names that nothing has are left out. */
export function filled(say: unknown, fill: Fill): Said {
  const put = (v: unknown): unknown => {
    if (typeof v === "string" && v.startsWith("$")) return fill[v.slice(1)];
    if (Array.isArray(v)) return v.flatMap((x) => put(x) ?? []);
    if (v && typeof v === "object")
      return Object.fromEntries(Object.entries(v).map(([k, x]) => [k, put(x) ?? ""]));
    return v;
  };
  return put(say) as Said;
}

/** What the ids of a line are numbered from. */
export function stemOfSay(verbs: VerbView[] | undefined, say: Said): string {
  return verbs?.find((v) => v.tag === say.verb)?.stem || String(say.name || say.verb);
}
