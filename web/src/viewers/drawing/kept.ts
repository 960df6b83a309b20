import { answer, api, text } from "../../api/client";
import type { DrawingOptions, DrawingView, Kept, Revised, TakenDrawing } from "../../api/types";

/** Keeps a file on the server; its digest is its name from then on. */
export async function keepFile(file: Blob): Promise<Kept> {
  const got = await fetch("/api/files", { method: "POST", body: file });
  return JSON.parse(await text(got)) as Kept;
}

/** A drawing as it would be taken. */
export async function preview(
  file: string,
  options: DrawingOptions,
  signal: AbortSignal,
): Promise<DrawingView> {
  return answer(await api.POST("/api/drawings", { body: { file, options }, signal }));
}

/** The chosen parts as recipes. */
export async function take(
  file: string,
  name: string,
  options: DrawingOptions,
  parts: number[],
): Promise<TakenDrawing> {
  return answer(await api.POST("/api/drawings/take", { body: { file, name, options, parts } }));
}

/** What a revised drawing changes of a piece. */
export async function revision(body: {
  piece: unknown;
  display: unknown;
  file: string;
  name: string;
  options: DrawingOptions;
  part: number;
}): Promise<Revised> {
  return answer(await api.POST("/api/drawings/revised", { body: body as never }));
}
