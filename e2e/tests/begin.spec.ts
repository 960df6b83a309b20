// Begun from a picture: by hand, by keys alone, on a slow network, and undone.
import { readFile } from "node:fs/promises";
import { expect, figure, fresh, saved, test } from "./common";

test("from a new job to a DXF by the keyboard alone", async ({ page }) => {
  // Tab until what is wanted has the keyboard, as a hand would.
  const reach = async (name: RegExp, key = "Tab") => {
    for (let i = 0; i < 60; i++) {
      const at = page.locator(":focus");
      const words = (await at.count())
        ? await at.evaluate((e) => e.ariaLabel || e.textContent || "")
        : "";
      if (name.test(words)) return;
      await page.keyboard.press(key);
    }
    throw new Error(`${name} is not reached`);
  };
  await page.goto("/");
  await expect(page.getByRole("button", { name: "New job" })).toBeVisible();
  await reach(/^New job$/);
  await page.keyboard.press("Enter");
  await expect(page.getByText("A job begins with its drawings")).toBeVisible();
  await reach(/^Start with a piece$/);
  await page.keyboard.press("Enter");
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
  await page.keyboard.press("t");
  await expect(page.getByLabel("A, length")).toBeFocused();
  await page.keyboard.type("11in", { delay: 40 });
  await page.keyboard.press("Tab");
  await page.keyboard.type("150 + 20", { delay: 40 });
  await page.keyboard.press("Tab");
  await page.keyboard.type("40", { delay: 40 });
  await expect(figure(page, "formed_size")).toHaveText("279.4 × 170.0 × 40.0 mm");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("A, length")).toHaveCount(0);
  await expect(page.locator("[data-line=start-1]")).toBeFocused();
  await saved(page);
  await reach(/^Papers$/, "Shift+Tab");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Papers" })).toBeVisible();
  await reach(/^DXF/);
  const [file] = await Promise.all([page.waitForEvent("download"), page.keyboard.press("Enter")]);
  const dxf = await readFile(await file.path(), "utf8");
  expect(dxf).toContain("ENTITIES");
  expect(dxf.match(/LWPOLYLINE|LINE/g)!.length).toBeGreaterThan(4);
});

test("a box begun from its picture grows with its sizes, its lid with it; undo takes all of it back", async ({
  page,
}) => {
  await fresh(page);
  // Answers come late, and not in their order.
  let late = 900;
  await page.route("**/api/begin", async (route) => {
    late = late > 200 ? late - 250 : 900;
    await new Promise((done) => setTimeout(done, late));
    await route.continue();
  });
  await page.getByRole("button", { name: "Start with a box with a lid" }).click();
  const length = page.getByLabel("A, length");
  await expect(length).toBeFocused();
  await page.keyboard.type("312", { delay: 120 });
  await expect(length).toHaveValue("312");
  await expect(page.getByLabel("width, start-1")).toHaveValue("312");
  await expect(figure(page, "formed_size")).toContainText("312.0 ×");
  await expect(page.getByRole("tab", { name: /^P-102/ })).toBeVisible();
  // What is no size is told at its letter, and the lines stay.
  await page.getByLabel("C, height").fill("8x");
  await expect(page.locator("#begun [role=alert]")).toContainText("C:");
  await expect(page.getByLabel("height, start-1")).toHaveValue("80");
  await page.getByLabel("C, height").fill("90");
  await expect(page.getByLabel("height, start-1")).toHaveValue("90");
  // What was typed last is taken over though the card is left at once.
  await page.getByLabel("C, height").fill("95");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("height, start-1")).toHaveValue("95");
  await expect(length).toHaveCount(0);
  await page.getByRole("tab", { name: /^P-102/ }).click();
  await expect(page.getByLabel("width, start-1")).toHaveValue("312 + 2*0.5");
  for (let i = 0; i < 12 && (await page.getByRole("tab", { name: /^P-102/ }).count()); i++)
    await page.getByLabel("undo", { exact: true }).click();
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
});

test("a truss from its picture to its cut list; its bays are told anew", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New job" }).click();
  await page.getByRole("button", { name: "Start with a frame" }).click();
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
  await page.keyboard.press("u");
  await expect(page.getByLabel("A, bottom chord")).toBeFocused();
  await page.keyboard.type("4000", { delay: 40 });
  await page.getByLabel("D, bays").click();
  await page.keyboard.type("5", { delay: 40 });
  const list = page.getByRole("table", { name: "cut list" });
  // Two chords and a zigzag of ten.
  await expect(list.locator("tfoot, tbody").last()).toContainText("12");
  await expect(page.locator('[data-line="bottom"]')).toBeVisible();
  await expect(page.locator('[data-line="node-2"]').getByLabel(/east/)).toHaveValue("4000");
  await page.getByLabel("D, bays").fill("1");
  await expect(page.locator("#begun [role=alert]")).toContainText("D:");
  await page.getByRole("button", { name: "the sizes are right" }).click();
  await expect(page.getByLabel("D, bays")).toHaveCount(0);
  await expect(list.locator('input[value="chord"]')).toHaveCount(2);
});
