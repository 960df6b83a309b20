// Ends and edges that are worked: bars twisted, rounded off and pressed flat; a hopper mitred through its
// thickness with angles round it. Typed letter by letter on a slow and uneven network.
import type { Page } from "@playwright/test";
import { begun, expect, saved, test } from "./common";

async function type(page: Page, lines: string[]) {
  const typed = page.getByLabel("type a line");
  for (const line of lines) {
    await typed.pressSequentially(line, { delay: 12 });
    await typed.press("Enter");
    await expect(typed).toHaveValue("");
  }
}

test("ends of bars: a strap twisted and rounded by its key, a tube pressed flat, a radius too large", async ({
  page,
}) => {
  const id = await begun(page, "Start with a bent bar");
  await page.getByLabel("C, third leg").press("Enter");
  const list = page.getByRole("table", { name: "cut list" });
  await type(page, [
    'bent bar called "strap", FLAT 30x6: 80, twist 90° over 100, 80',
    "hole ⌀11 on bent-2, 15 from its start, left face, both walls",
  ]);
  const strap = list.getByRole("row").filter({ hasText: "FLAT 30x6" }).first();
  await expect(strap).toContainText("260.0");
  await expect(strap).toContainText("twisted 90° over 100.0");
  await page.locator("[data-line=bent-2]").click({ position: { x: 3, y: 3 } });
  await page.keyboard.press("5");
  const round = page.locator("[data-line=round-1]");
  await expect(round).toContainText("Round off");
  await expect(strap).toContainText("full round R15.0");
  // Wider than the bar is said at its field; the bar stays as it was, and the caret where it is.
  const radius = page.getByLabel("radius of corners, round-1");
  await radius.click();
  await page.keyboard.type("16", { delay: 60 });
  await expect(radius).toBeFocused();
  await expect(round).toContainText("write 15.0 mm or less");
  await expect(strap).not.toContainText("R15.0");
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("6", { delay: 60 });
  await expect(strap).toContainText("corners R6.0");
  await type(page, [
    "node A 0, 400, 0",
    "node B 600, 400, 0",
    "brace A B, CHS 33.7x2.6",
    "flatten brace-1 at both ends, 50 flat, over 40",
  ]);
  await expect(list.getByRole("row").filter({ hasText: "CHS" }).first()).toContainText("flat 50.0");
  await expect(page.getByText(/comes out 50.0 mm wide and 5.2 mm thick/)).toBeVisible();
  await saved(page);
  const paper = await page.request.get(`/api/jobs/${id}/papers/bar-svg?frame=F-1&piece=F-1/2`);
  const drawn = await paper.text();
  expect(drawn).toContain("start corners R6.0");
  expect(drawn).toContain("twisted 90° over 100.0");
});

test("a hopper mitred through its thickness, angles round it, a leg that runs into a side", async ({
  page,
}) => {
  const id = await begun(page, "Start with a hopper");
  await page.keyboard.press("Escape");
  const line = page.locator("[data-line=hopper-1]");
  await expect(line).toContainText("Hopper");
  await line
    .getByLabel("in the corners, hopper-1", { exact: true })
    .selectOption({ label: "mitred through the thickness" });
  await expect(page.getByText(/each edge bevelled \d+(\.\d+)?° off square/)).toBeVisible();
  await type(page, ["stiffen hopper-1 at 60, of L 150x75x9"]);
  const stiffener = page.locator("[data-line=stiffener-1]");
  await expect(stiffener).toContainText("runs into the");
  await page.getByLabel("undo", { exact: true }).click();
  await type(page, ["stiffen hopper-1 at 150, of L 40x40x4, leg down"]);
  const bars = page
    .getByRole("table", { name: "cut list" })
    .getByRole("row")
    .filter({ hasText: "L 40x40x4" });
  // Two and two, and their total.
  await expect(bars).toHaveCount(3);
  await expect(bars.first()).toContainText("45°");
  // Flanges round it, and a hexagon by its key, its sides changed letter by letter.
  await type(page, ["rim hopper-1 top, 70 wide, mitred 2, holes 9, 4 a side"]);
  await expect(page.locator("[data-line=rim-1]")).not.toContainText("mitred, and");
  await line.click({ position: { x: 3, y: 3 } });
  await page.keyboard.press("7");
  const hexagon = page.locator("[data-line=transition-1]");
  await expect(hexagon).toContainText("Transition");
  await expect(page.getByRole("row", { name: /transition side 6 plate 4/ })).toBeVisible();
  const wide = hexagon.getByLabel("across flats").first();
  await wide.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("1in*30", { delay: 60 });
  await expect(wide).toBeFocused();
  // Flanges by their key are of the line that made the last openings; welded on, they lie flat.
  await hexagon.click({ position: { x: 3, y: 3 } });
  await page.keyboard.press("e");
  const flange = page.locator("[data-line=rim-2]");
  await expect(flange.getByLabel("hopper or transition")).toHaveValue("transition-1");
  const welded = flange.getByLabel("weld-on flange");
  await welded.click();
  await page.keyboard.type("6", { delay: 60 });
  await expect(welded).toBeFocused();
  await expect(page.getByRole("row", { name: /weld-on flange 1 plate 6/ })).toBeVisible();
  await flange.getByLabel("flats cut").selectOption({ label: "flats as strips" });
  await expect(page.getByRole("row", { name: /weld-on flange 6 plate 6/ })).toBeVisible();
  // By their keys gussets stand under the last flanges, and angles lie on them.
  await flange.click({ position: { x: 3, y: 3 } });
  await page.keyboard.press("8");
  await expect(page.locator("[data-line=gussets-1]").getByLabel("line of the flanges")).toHaveValue(
    "rim-2",
  );
  await expect(page.getByRole("row", { name: /flange gusset 12 plate 5/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await flange.click({ position: { x: 3, y: 3 } });
  await page.keyboard.press("9");
  await expect(page.getByRole("row", { name: /flange angle 6 L 50x50x5/ })).toBeVisible();
  // Sides are offered by their names as they are typed.
  await page.keyboard.press("Escape");
  await flange.click({ position: { x: 3, y: 3 } });
  await page.keyboard.press("/");
  await page.keyboard.type("rim transition-1 top on fa", { delay: 60 });
  await page.getByRole("option", { name: "face-2" }).click();
  await page.keyboard.type(", 40 wide", { delay: 60 });
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-line=rim-3]").getByLabel("sides").first()).toHaveValue("face-2");
  await saved(page);
  const all = await page.request.get(
    `/api/jobs/${id}/papers/dxf?piece=${encodeURIComponent("frame-1.hopper-1.south")}`,
  );
  expect(await all.text()).toContain("bevel ");
});
