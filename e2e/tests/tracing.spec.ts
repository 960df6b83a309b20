// A part out of a photograph: measured, laid over, mirrored, said as an outline, cut.
import { join } from "node:path";
import type { Page } from "@playwright/test";
import DxfParser from "dxf-parser";
import { expect, figure, fresh, saved, test } from "./common";

const PHOTO = join(import.meta.dirname, "../../demo/pump-gasket.jpg");
// As demo/photograph.py has it: millimetres from the middle, y down, 12 pixels each, turned by 7°.
const pixel = (x: number, y: number): [number, number] => {
  const t = (7 * Math.PI) / 180;
  return [742 + 12 * (Math.cos(t) * x - Math.sin(t) * y), 561 + 12 * (Math.sin(t) * x + Math.cos(t) * y)];
};
const round = (cx: number, r: number, deg: number) => {
  const t = (deg * Math.PI) / 180;
  return pixel(cx + r * Math.cos(t), -r * Math.sin(t));
};
const LEAN = (Math.asin(18 / 38) * 180) / Math.PI;

let stood: { x: number; y: number; width: number; height: number } | undefined;
/** Clicks where a hand would, a little beside the edge. */
const click = async (page: Page, ...at: [number, number][]) => {
  const box = (await page.locator(".trace-picture image").boundingBox())!;
  // The picture stands still under the hand, whatever is said beside it.
  stood ??= box;
  expect(box).toEqual(stood);
  for (const [i, [x, y]] of at.entries()) {
    const [sx, sy] = [box.x + (x / 1500) * box.width, box.y + (y / 1100) * box.height];
    await page.mouse.click(sx + [0.8, -1, 0.5][i % 3]!, sy + [-0.6, 0.9, 1][i % 3]!);
  }
};
/** A place of a flank between the rim and an ear. */
const flank = (side: 1 | -1, share: number): [number, number] => {
  const n = ((90 - LEAN) * Math.PI) / 180;
  const at = (cx: number, r: number) => [cx + r * Math.cos(n), -r * Math.sin(n)];
  const [a, b] = [at(38, 12), at(0, 30)];
  return pixel(side * (a[0]! + (b[0]! - a[0]!) * share), a[1]! + (b[1]! - a[1]!) * share);
};

test("the sample photograph is traced by half, said as an outline and taken away as a DXF", async ({
  page,
}) => {
  await fresh(page);
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "trace a picture" }).click(),
  ]);
  await chooser.setFiles(PHOTO);
  const panel = page.getByRole("region", { name: "tracing of pump-gasket.jpg" });
  await expect(panel.locator("image")).toBeVisible();
  await expect(panel.getByText("Not yet: nothing tells how large it is")).toBeVisible();
  const say = panel.getByRole("button", { name: "Say it as the outline" });
  await expect(say).toBeDisabled();
  // Across the bore, by the key; its value takes the keyboard.
  await panel.getByRole("application").focus();
  await page.keyboard.press("m");
  await click(page, round(0, 18, 0), round(0, 18, 180));
  await expect(panel.getByLabel("reading 1", { exact: true })).toBeFocused();
  await page.keyboard.type("36", { delay: 40 });
  await expect(panel.getByText(/a pixel is 0\.083\d* mm/)).toBeVisible();
  await panel.getByRole("button", { name: "Mirror axis" }).click();
  await click(page, pixel(-45, 0), pixel(45, 0));
  await panel.getByRole("button", { name: /^Arc/ }).click();
  await click(page, round(38, 12, 8), round(38, 12, 30), round(38, 12, 90 - LEAN - 8));
  await panel.getByRole("button", { name: /^Line/ }).click();
  await click(page, flank(1, 0.12), flank(1, 0.88));
  await panel.getByRole("button", { name: /^Arc/ }).click();
  await click(page, round(0, 30, 90 - LEAN + 8), round(0, 30, 90), round(0, 30, 90 + LEAN - 8));
  await expect(panel.getByText(/R30\.0\d* mm|R29\.9\d* mm/)).toBeVisible();
  await panel.getByRole("button", { name: /^Line/ }).click();
  await click(page, flank(-1, 0.88), flank(-1, 0.12));
  await panel.getByRole("button", { name: /^Arc/ }).click();
  await click(page, round(-38, 12, 90 + LEAN + 8), round(-38, 12, 150), round(-38, 12, 172));
  await panel.getByRole("button", { name: /^Circle/ }).click();
  await click(page, round(0, 18, 20), round(0, 18, 130), round(0, 18, 250));
  await click(page, round(38, 5.5, 20), round(38, 5.5, 130), round(38, 5.5, 250));
  await click(page, round(-38, 5.5, 20), round(-38, 5.5, 130), round(-38, 5.5, 250));
  // Undone and done again by the keyboard: one step an element.
  await expect(panel.getByText("An outline and 3 holes")).toBeVisible();
  await page.keyboard.press("ControlOrMeta+z");
  await expect(panel.getByText("An outline and 2 holes")).toBeVisible();
  await page.keyboard.press("ControlOrMeta+Shift+z");
  await expect(panel.getByText("An outline and 3 holes")).toBeVisible();
  await say.click();
  await expect(figure(page, "pierces")).toHaveText("4");
  await expect(figure(page, "flat_length")).toHaveText("100.0 mm");
  await expect(figure(page, "flat_width")).toHaveText("60.0 mm");
  await saved(page);
  const [, job, piece] = page.url().match(/jobs\/([^/]+)\/pieces\/([^/]+)/)!;
  const dxf = new DxfParser().parseSync(
    await (await page.request.get(`/api/jobs/${job}/papers/dxf?piece=${piece}`)).text(),
  )!;
  const radii = dxf.entities
    .filter((e) => e.type === "CIRCLE")
    .map((e) => (e as unknown as { radius: number }).radius)
    .sort((a, b) => a - b);
  expect(radii).toEqual([5.5, 5.5, 18]);
  // The tracing stays with the piece.
  await page.getByRole("button", { name: "the tracing" }).click();
  await expect(panel.getByText("An outline and 3 holes")).toBeVisible();
});
