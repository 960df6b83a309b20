// Named figures with a range, moved by hand; variants side by side and taken away as one archive.
import { execFileSync } from "node:child_process";
import { demo, expect, figure, saved, test } from "./common";

test("a figure is bounded, moved, and varied; every variant goes into one archive", async ({ page }) => {
  await demo(page, "box");
  await page.getByText("Job figures and settings").click();
  const row = page.locator(".figures-of-job > li", { has: page.getByLabel("value of box_w") });
  await expect(row.getByRole("button", { name: "moves 2 values" })).toBeVisible();
  // A bound is asked for by its chip, which takes the keyboard.
  await row.getByRole("button", { name: "+ from" }).click();
  await page.keyboard.type("200", { delay: 30 });
  await row.getByRole("button", { name: "+ up to" }).click();
  await page.keyboard.type("500", { delay: 30 });
  const before = await figure(page, "mass").textContent();
  const slider = row.getByRole("slider", { name: "move box_w" });
  await slider.focus();
  await page.keyboard.press("ArrowRight");
  await expect(row.getByLabel("value of box_w")).toHaveValue("305");
  await expect(figure(page, "mass")).not.toHaveText(before!);
  const own = row.getByLabel("value of box_w");
  await own.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("600", { delay: 30 });
  await expect(row).toContainText("600 is above its most, 500");
  await page.keyboard.press("Backspace");
  await page.keyboard.press("Backspace");
  await page.keyboard.press("Backspace");
  await page.keyboard.type("300", { delay: 30 });
  await expect(figure(page, "mass")).toHaveText(before!);
  // As an angle it is refused where it is typed and where it is used.
  await row.getByLabel("kind, box_w").selectOption("angle");
  await expect(row).toContainText("P-109 start-1 cannot take it: an angle stands where a length belongs");
  await row.getByLabel("kind, box_w").selectOption("length");
  await expect(row).not.toContainText("cannot take it");

  await page.getByRole("button", { name: "+ variant", exact: true }).click();
  await page.getByLabel("name, variant 1").fill("wide");
  await page.getByRole("button", { name: "+ a figure, variant 1" }).click();
  await page.getByLabel("figure, variant 1", { exact: true }).selectOption("box_w");
  const value = page.getByLabel("value, variant 1", { exact: true });
  await value.click();
  await page.keyboard.type("420", { delay: 30 });
  await page.getByRole("button", { name: "compare them" }).click();
  const table = page.getByRole("table", { name: "variants side by side" });
  await expect(table.getByRole("row", { name: /wide/ })).toContainText("736.5 × 716.5 mm");
  await expect(table.getByRole("row", { name: /as it stands/ })).toContainText("616.5 × 716.5 mm");
  // Taken and undone: one step each.
  await page.getByRole("button", { name: "take the values of wide" }).click();
  await expect(own).toHaveValue("420");
  await page.getByRole("button", { name: "undo" }).click();
  await expect(own).toHaveValue("300");
  await saved(page);
  await page.getByRole("link", { name: "Papers" }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "All variants (zip)" }).click(),
  ]);
  const names = execFileSync("python3", ["-m", "zipfile", "-l", await download.path()]).toString();
  expect(names).toMatch(/wide\/.*P-109.*\.dxf/);
  expect(names).toMatch(/wide\/.*cut-list\.csv/);
  expect(names).not.toContain("not-made");
});
