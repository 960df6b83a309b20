import { text } from "./client";
import type { Kept } from "./types";

/** Keeps a file on the server; its digest is its name from then on. */
export async function keepFile(file: Blob): Promise<Kept> {
  const got = await fetch("/api/files", { method: "POST", body: file });
  return JSON.parse(await text(got)) as Kept;
}
