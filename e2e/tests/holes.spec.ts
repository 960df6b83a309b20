// A plate with every kind of hole, typed as a drawing names them, taken to the drill and to the cutter.
import { readFile } from "node:fs/promises";
import type { Page } from "@playwright/test";
import DxfParser from "dxf-parser";
import { expect, figure, fresh, saved, test } from "./common";

const taken = async (page: Page, name: RegExp) => {
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name }).click(),
  ]);
  return readFile(await download.path(), "utf8");
};

test("five kinds of holes are typed, put right, and go to a hole table and a DXF", async ({ page }) => {
  await fresh(page);
  await page.keyboard.press("/");
  const type = async (line: string) => {
    await page.keyboard.type(line, { delay: 15 });
    await page.keyboard.press("Enter");
  };
  await type("plate 200 x 120");
  await expect(page.locator("[data-line=start-1]")).toBeVisible();
  await page.getByLabel("thickness").fill("16");
  await page.keyboard.press("Escape");
  await page.keyboard.press("/");
  // What a thread may be is offered while it is typed, each with its tap drill.
  await page.keyboard.type("tapped hole M", { delay: 15 });
  const fine = page.getByRole("option", { name: "M10x1", exact: true });
  await expect(fine).toHaveAttribute("title", "tap drill 9 mm");
  await page.keyboard.type("8, 9 deep, from the back, 30 from west, 30 from south", { delay: 15 });
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-line=drill-1]")).toContainText("from the back");
  await type("countersunk hole for M6, 100 from west, 30 from south");
  await type("counterbored hole for M8, 170 from west, 30 from south");
  await type("blind hole ⌀10, 6 deep, flat bottom, 60 from west, 90 from south");
  await type("hole for M10, loose fit, 140 from west, 90 from south");
  await expect(page.locator("[data-line^=drill]")).toHaveCount(5);
  // Three of them go through beside the outline; of the mass every cone and bore is taken off.
  await expect(figure(page, "pierces")).toHaveText("4");
  await expect(page.locator(".flat .bore.back")).toHaveCount(1);
  const before = await figure(page, "mass").textContent();

  // Too deep for its sheet: told with what is wrong, and put right in its sentence.
  const deep = page.getByLabel("depth, drill-4");
  await deep.fill("16");
  await expect(page.locator(".findings")).toContainText(
    "drill-4 is drilled 16 deep in sheet 16.0 mm thick",
  );
  await deep.fill("6");
  await expect(page.locator(".findings")).not.toContainText("drill-4");
  await expect(figure(page, "mass")).toHaveText(before!);
  // A thread that no table has is refused at its field.
  await page.getByLabel("thread, drill-1", { exact: true }).fill("M7");
  await expect(page.getByLabel("thread, drill-1", { exact: true })).toHaveAttribute(
    "aria-invalid",
    "true",
  );
  await expect(page.locator("main")).toContainText("no table here has a thread 'M7'");
  await page.getByLabel("thread, drill-1", { exact: true }).fill("M8");
  await expect(page.locator("main")).not.toContainText("no table here");
  await expect(figure(page, "mass")).toHaveText(before!);

  // The formed view shows them: a drilled hole is pointed at by its name.
  await page.locator("svg.flat").focus();
  await page.keyboard.press("End");
  await expect(page.locator(".unseen[role=status]")).toContainText("blind hole ⌀10 × 6, flat bottom");

  // A gap between two holes' edges: asked for by its chip, which takes the keyboard; in line with the other.
  await page.locator("#short-text").click();
  await type("hole ⌀6");
  const beside = page.locator("[data-line=punch-1]");
  await beside.getByRole("button", { name: "+ gap to a hole" }).click();
  await page.keyboard.type("8", { delay: 15 });
  await beside.getByLabel("another hole, punch-1", { exact: true }).selectOption("drill-1");
  await expect(figure(page, "pierces")).toHaveText("5");

  await saved(page);
  await page.getByRole("link", { name: "Papers" }).click();
  const rows = (await taken(page, /^Holes \(CSV\)/)).trim().split(/\r?\n/);
  expect(rows).toHaveLength(7);
  expect(rows[1]).toContain("A1,30,30,tapped hole,M8 × 9,back,9");
  // 30, half of the tap drill 6.8, the gap, and half of 6; the line typed last stands under the picked one.
  expect(rows[2]).toContain("B1,44.4,30,cut,⌀6,front");
  expect(rows[3]).toContain("C1,100,30,countersunk hole,⌀6.6 csk ⌀13.44 × 90°,front,through");
  const dxf = new DxfParser().parseSync(await taken(page, /^DXF/))!;
  const circles = dxf.entities.filter((e) => e.type === "CIRCLE") as unknown as {
    layer: string;
    radius: number;
  }[];
  const on = (layer: string) =>
    circles
      .filter((c) => c.layer === layer)
      .map((c) => Math.round(c.radius * 2000) / 1000)
      .sort();
  expect(on("CUT")).toEqual([12, 6, 6.6, 9]);
  expect(on("TAP_BACK")).toEqual([8]);
  expect(on("DRILL_BACK")).toEqual([6.8]);
  expect(on("DRILL_FRONT")).toEqual([10]);
  expect(on("CSK_FRONT")).toEqual([13.44]);
  expect(on("CBORE_FRONT")).toEqual([15]);
  await expect(page.getByRole("link", { name: /Hole sheet/ }).first()).toBeVisible();
});
