import { answer, api } from "../../api/client";
import type { DrawingOptions, DrawingView, Revised, TakenDrawing } from "../../api/types";

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
