// An outline told side by side: what fits is shown while figures are missing, and what contradicts is told.
import { expect, figure, fresh, saved, test } from "./common";

test("a lug is told side by side until it is one outline, and contradicted", async ({ page }) => {
  await fresh(page);
  await page.keyboard.press("/");
  const type = async (line: string) => {
    await page.keyboard.type(line, { delay: 15 });
    await page.keyboard.press("Enter");
  };
  await type("contour line 60 east, line, arc left R20, line, where symmetric about a");
  const line = page.locator("[data-line=start-1]");
  await expect(line).toContainText("one figure is missing, such as the length of b");
  const family = page.getByLabel("several outlines that fit");
  await expect(family.locator("path.other").nth(1)).toBeVisible();
  await expect(family.locator(".side-letters text")).toHaveText(["a", "b", "c", "d"]);
  await expect(figure(page, "mass")).toBeHidden();

  // The distance of its eye from its base settles it; what was open shows what it came to.
  await line.getByRole("button", { name: "+ a distance" }).click();
  await expect(figure(page, "mass")).toHaveText("0.109 kg");
  const length = line.getByLabel("length of b, start-1");
  await expect(length).toHaveAttribute("placeholder", "83.1");
  await expect(line.getByLabel("angle of c, start-1")).toHaveAttribute("placeholder", "166°");

  // Typed letter by letter, one figure too many: the keyboard stays, and what contradicts is named.
  await length.click();
  await page.keyboard.type("90", { delay: 60 });
  await expect(length).toBeFocused();
  await expect(length).toHaveValue("90");
  await expect(line).toContainText("contradict one another");
  await expect(line).toContainText("the length of b");
  for (let i = 0; i < 2; i++) await page.keyboard.press("Backspace");
  await expect(figure(page, "mass")).toHaveText("0.109 kg");

  // A bore on the middle of its arc, offered where one walks to the arc and presses Enter.
  await page.locator("svg.flat").focus();
  const status = page.locator(".unseen[role=status]");
  for (let i = 0; i < 12 && (await status.textContent()) !== "edge c"; i++) {
    await page.keyboard.press("ArrowRight");
  }
  await expect(status).toHaveText("edge c");
  await page.keyboard.press("Enter");
  await page.getByRole("menuitem", { name: "Punch a round hole on the middle of c" }).click();
  await expect(page.locator("[data-line=punch-1]")).toContainText("on the middle of");
  await expect(figure(page, "pierces")).toHaveText("2");

  // A side is put in between, and taken out again.
  await line.getByRole("button", { name: "more for line b" }).click();
  await page.getByRole("menuitem", { name: "add a line after it" }).click();
  await expect(line.locator("[data-element]")).toHaveCount(5);
  await page.keyboard.press("ControlOrMeta+z");
  await expect(line.locator("[data-element]")).toHaveCount(4);
  await expect(figure(page, "pierces")).toHaveText("2");
  await saved(page);
});
