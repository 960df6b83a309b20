import createClient from "openapi-fetch";
import type { paths } from "./schema";
import type { Problem } from "./types";

/** The typed client of the server's API. */
export const api = createClient<paths>({ baseUrl: "" });

/** An answer that is not what was asked for, in words a person can act on. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly current?: number,
  ) {
    super(message);
  }
}

/** The data of an answer, or its problem thrown. */
export function answer<T>(got: { data?: T; error?: unknown; response: Response }): T {
  if (got.data !== undefined && got.response.ok) return got.data;
  const p = got.error as Partial<Problem> | undefined;
  const text = p?.title ? `${p.title}. To mend it: ${p.detail}` : `The server answered ${got.response.status}`;
  throw new Refusal(text, got.response.status, p?.current ?? undefined);
}

/** Address of a paper of a saved job. */
export function paperUrl(job: string, kind: string, query: Record<string, string> = {}): string {
  const q = new URLSearchParams(query).toString();
  return `/api/jobs/${encodeURIComponent(job)}/papers/${kind}${q ? `?${q}` : ""}`;
}
