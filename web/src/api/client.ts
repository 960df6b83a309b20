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
    /** Seconds after which it may be asked again. */
    readonly retryAfter?: number,
    /** The field that it concerns. */
    readonly field?: string,
    /** What is wrong, without the mend. */
    readonly title?: string,
  ) {
    super(message);
  }
}

function refusal(status: number, p: Partial<Problem> | undefined): Refusal {
  const text = p?.title ? `${p.title}. To mend it: ${p.detail}` : `The server answered ${status}`;
  return new Refusal(
    text,
    status,
    p?.current ?? undefined,
    p?.retry_after ?? undefined,
    p?.field ?? undefined,
    p?.title,
  );
}

/** The data of an answer, or its problem thrown. */
export function answer<T>(got: { data?: T; error?: unknown; response: Response }): T {
  if (got.data !== undefined && got.response.ok) return got.data;
  if (got.response.ok) return undefined as T;
  throw refusal(got.response.status, got.error as Partial<Problem> | undefined);
}

/** The text of an answer, or its problem thrown. */
export async function text(r: Response): Promise<string> {
  const body = await r.text();
  if (r.ok) return body;
  try {
    throw refusal(r.status, JSON.parse(body));
  } catch (e) {
    throw e instanceof Refusal ? e : refusal(r.status, undefined);
  }
}

/** What went wrong, for a person. */
export function said(e: unknown): string {
  return e instanceof Refusal ? e.message : "The server does not answer";
}

/** Address of a paper of a saved job, at a revision. */
export function paperUrl(job: string, kind: string, query: Record<string, string> = {}): string {
  const q = new URLSearchParams(query).toString();
  return `/api/jobs/${encodeURIComponent(job)}/papers/${kind}${q ? `?${q}` : ""}`;
}
