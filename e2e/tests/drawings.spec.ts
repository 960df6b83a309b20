// Drawings of other programs: seen before anything is taken, mended, brought in, and revised.
import type { Page } from "@playwright/test";
import { expect, figure, fresh, saved, test } from "./common";

const line = (layer: string, ...[x0, y0, x1, y1]: number[]) =>
  `0\nLINE\n8\n${layer}\n10\n${x0}\n20\n${y0}\n11\n${x1}\n21\n${y1}\n`;
const circle = (x: number, y: number, r: number) => `0\nCIRCLE\n8\nHOLES\n10\n${x}\n20\n${y}\n40\n${r}\n`;
const file = (name: string, units: number, entities: string) => ({
  name,
  mimeType: "image/vnd.dxf",
  buffer: Buffer.from(
    `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n${units}\n0\nENDSEC\n` +
      `0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`,
  ),
});
/** 180 × 110 with a gap of 0.8 in its left side, a side drawn twice in part, a bend line, notes. */
const plate =
  line("CUT", 0, 0, 180, 0) +
  line("CUT", 180, 0, 180, 110) +
  line("CUT", 180, 110, 0, 110) +
  line("CUT", 0, 110, 0, 0.8) +
  line("CUT", 100, 0, 40, 0) +
  line("BEND", 150, 0, 150, 110) +
  line("NOTES", 0, -20, 180, -20);
const holes = circle(20, 20, 4.5) + circle(160, 20, 4.5) + circle(20, 90, 4.5);

/** Picks a file as a person does; the page asks for it. */
const bring = async (page: Page, button: RegExp, drawn: ReturnType<typeof file>) => {
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: button }).click(),
  ]);
  await chooser.setFiles(drawn);
};

test("a drawing with a gap is seen, mended and made into a job; its unit is asked", async ({ page }) => {
  await page.goto("/");
  await bring(page, /Bring in a job or drawing/, file("stand.dxf", 0, plate + holes));
  const told = page.getByRole("region", { name: "stand.dxf" });
  const make = told.getByRole("button", { name: /Make the job/ });
  await expect(told.getByText("The file names no unit. What are its numbers?")).toBeVisible();
  await expect(told.getByText("would be a large part in inches")).toBeVisible();
  await expect(make).toBeDisabled();
  await told.getByRole("button", { name: "millimetres: 180 × 130 mm" }).click();
  await expect(told.getByRole("alert")).toContainText("at 0, 0.8 on layer CUT a gap of 0.8 mm is open");
  await expect(make).toBeDisabled();
  // Letter by letter, and a value that is none says so.
  const closes = told.getByLabel("gaps up to so many mm close by themselves");
  await closes.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("x", { delay: 30 });
  await expect(told.getByText("Give a length from 0 to 20 mm.")).toBeVisible();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("0.05", { delay: 30 });
  await page.keyboard.press("Enter");
  // The gap in the picture is closed by the keyboard.
  const gap = told.getByRole("button", { name: "close the gap of 0.8 mm on layer CUT, at 0, 0" });
  await gap.focus();
  await page.keyboard.press("Enter");
  await expect(told.getByText("1 gap closed by hand")).toBeVisible();
  await expect(told.getByText("strokes that lie partly over one another")).toBeVisible();
  await expect(told.getByText("180.0 × 110.0, 3 cuts, 1 bend line")).toBeVisible();
  await expect(told.getByText("1 stroke on layer NOTES, which marks and does not cut")).toBeVisible();
  // A contour is left out by a click on it, and taken again.
  await told.getByRole("button", { name: "leave out ⌀9.0" }).first().click();
  await expect(told.getByText("180.0 × 110.0, 2 cuts, 1 bend line")).toBeVisible();
  await told.getByRole("button", { name: "take ⌀9.0" }).click();
  await expect(told.getByText("180.0 × 110.0, 3 cuts, 1 bend line")).toBeVisible();
  await make.click();
  await expect(figure(page, "flat_length")).toHaveText("180.0 mm");
  await expect(figure(page, "bends")).toHaveText("1");
  await expect(figure(page, "pierces")).toHaveText("4");
});

test("a page of SVG becomes a piece at the bench; its revision shows what moved", async ({ page }) => {
  await fresh(page);
  const svg = (cx: number, r: number, more = "") => ({
    name: "guard.svg",
    mimeType: "image/svg+xml",
    buffer: Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="60mm" viewBox="0 0 120 60">` +
        `<rect width="120" height="60" rx="8"/><circle cx="20" cy="30" r="5"/>` +
        `<circle cx="${cx}" cy="30" r="${r}"/>${more}</svg>`,
    ),
  });
  await bring(page, /bring a drawing in/, svg(90, 6));
  await page.getByRole("button", { name: "Make the piece" }).click();
  await expect(figure(page, "flat_length")).toHaveText("120.0 mm");
  await saved(page);
  // A hand moves the first hole; the drawing office moves and widens the second, and adds one.
  const first = page.locator('[data-line="punch-2"]').getByLabel("diameter");
  await first.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("11", { delay: 30 });
  await saved(page);
  await bring(page, /revised drawing/, svg(95, 6.5, '<circle cx="60" cy="45" r="3"/>'));
  await page.getByRole("button", { name: "See what moved" }).click();
  const moved = page.getByRole("region", { name: "what moved in guard.svg" });
  await expect(moved.getByText("hole ⌀12.0 → hole ⌀13.0, moved 5.0 east")).toBeVisible();
  await expect(moved.getByText("hole ⌀6.0 is new")).toBeVisible();
  await expect(moved.getByText("1 cut is as it was.")).toBeVisible();
  await moved.getByRole("button", { name: "Take it over" }).click();
  await expect(figure(page, "pierces")).toHaveText("4");
  await expect(first).toHaveValue("11");
  await page.getByRole("button", { name: "undo" }).click();
  await expect(figure(page, "pierces")).toHaveText("3");
});
