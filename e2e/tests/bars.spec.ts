// Bent bars: from the picture to the bender's table and the paper, typed letter by letter.
import { begun, expect, saved, test } from "./common";

test("a bent bar from its picture: its bends, a leg typed anew, a bend that cannot be, its paper", async ({
  page,
}) => {
  const id = await begun(page, "Start with a bent bar");
  for (const [label, text] of [
    ["A, first leg", "240"],
    ["B, second leg", "140"],
    ["C, third leg", "240"],
  ] as const) {
    await page.getByLabel(label).press("ControlOrMeta+a");
    await page.getByLabel(label).pressSequentially(text, { delay: 30 });
  }
  await page.getByLabel("C, third leg").press("Enter");
  const list = page.getByRole("table", { name: "cut list" });
  // 200 and 60 and 200 between bends of R40: two quarters of 62.83.
  await expect(list).toContainText("585.7");
  await list.getByRole("button", { name: "bends" }).click();
  const bends = page.getByRole("table", { name: /bends of/ });
  await expect(bends.getByRole("row").nth(2)).toContainText("60.0");
  await expect(bends.getByRole("row").nth(2)).toContainText("322.8");
  await expect(page.getByRole("table", { name: /corners of/ })).toContainText("R40.0");
  // A line of its own, letter by letter; a bend that runs along the bar is said at its line.
  const typed = page.getByLabel("type a line");
  await typed.pressSequentially('bent bar called "hook", up, ROUND 12: 150, bend 180° R30 up, 40', {
    delay: 15,
  });
  await typed.press("Enter");
  const hook = page.locator("[data-line=bent-2]");
  await expect(hook).toContainText("runs that way already");
  await page.getByLabel("undo", { exact: true }).click();
  await expect(hook).toHaveCount(0);
  await typed.pressSequentially('bent bar called "hook", up, ROUND 12: 150, bend 180° R30 east, 40', {
    delay: 15,
  });
  await typed.press("Enter");
  await expect(list).toContainText("284.2");
  const last = hook.getByLabel("length of a leg, bent-2").last();
  await last.press("ControlOrMeta+a");
  await last.pressSequentially("60", { delay: 40 });
  await expect(list).toContainText("304.2");
  await saved(page);
  const paper = await page.request.get(`/api/jobs/${id}/papers/bar-svg?frame=F-1&piece=F-1/2`);
  const drawn = await paper.text();
  expect(drawn).toContain("mark at");
  expect(drawn).toContain("180°");
});
