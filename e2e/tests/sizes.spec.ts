// Sizes that a hand keeps on the flat: two clicks, or the arrows and Enter.
import type { Locator } from "@playwright/test";
import { expect, figure, fresh, saved, test } from "./common";

const middle = async (of: Locator): Promise<[number, number]> => {
  const b = (await of.boundingBox())!;
  return [b.x + b.width / 2, b.y + b.height / 2];
};

test("two clicks keep a size; it follows the piece, stands on its drawing, and undo takes it back", async ({
  page,
}) => {
  await fresh(page);
  await page.keyboard.press("p");
  await expect(figure(page, "mass")).toBeVisible();
  await page.locator("#short-text").fill("hole 20 at 60 from west, 50 from south");
  await page.keyboard.press("Enter");
  const flat = page.locator("svg.flat");
  await expect(flat.locator(".hole")).toHaveCount(1);
  const begin = page.locator(".pane-head").getByRole("button", { name: "dimension", exact: true });
  // Begun and left by Escape: nothing is said.
  await begin.click();
  await expect(begin).toHaveAttribute("aria-pressed", "true");
  await page.keyboard.press("Escape");
  await expect(begin).toHaveAttribute("aria-pressed", "false");
  await begin.click();
  await page.mouse.click(...(await middle(flat.locator('[data-edge="start-1.west"]'))));
  await expect(page.getByRole("status").filter({ hasText: "Dimension from west" })).toBeAttached();
  // A panel is no end of it.
  await flat.locator("path.material").click({ position: { x: 12, y: 40 } });
  await expect(page.getByText("runs to an edge, a corner, a bend or a hole")).toBeVisible();
  await page.mouse.click(...(await middle(flat.locator(".hole"))));
  const kept = flat.locator('[data-kept="dimension-1"]');
  await expect(kept).toContainText("60.0");
  await expect(page.locator("[data-line=dimension-1]")).toContainText("to");
  // It follows: letter by letter.
  const x = page.locator("[data-line=punch-1] [data-path='/say/place/x/distance']");
  await x.fill("");
  await x.pressSequentially("72.5", { delay: 60 });
  await expect(kept).toContainText("72.5");
  await expect(x).toBeFocused();
  // By the keyboard: the hole under the arrows, then a corner.
  await flat.focus();
  await begin.click();
  await flat.focus();
  const said = page.locator("p.unseen[role=status]");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("Enter");
  await expect(said).toContainText("Dimension from");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await expect(flat.locator("[data-kept]")).toHaveCount(2);
  await page.getByLabel("undo", { exact: true }).click();
  await expect(flat.locator("[data-kept]")).toHaveCount(1);
  await saved(page);
  const [, job, piece] = page.url().match(/jobs\/([^/]+)\/pieces\/([^/?#]+)/)!;
  const svg = await (
    await page.request.get(`/api/jobs/${job}/papers/drawing-svg?piece=${piece}&paper=A4`)
  ).text();
  expect(svg.match(/\(72\.5\)/g)).toHaveLength(1);
  // What it ran to is gone: told at its field, and the piece stands.
  await page.locator("[data-line=punch-1]").focus();
  await page.keyboard.press("Delete");
  await expect(page.locator("[data-line=dimension-1]")).toContainText("no edge, corner, bend or hole");
  await expect(figure(page, "mass")).toBeVisible();
});
