// Transitions: a film pyramid from its picture to its 1:1 template, typed letter by letter.
import { expect, figure, fresh, saved, test } from "./common";

test("a pyramid from its picture, a flap typed to one of its edges, out as a 1:1 PDF", async ({
  page,
}) => {
  await fresh(page);
  const id = page.url().match(/jobs\/([^/?]+)/)![1]!;
  // The server answers late and unevenly.
  let late = 40;
  await page.route("**/api/jobs/*/evaluate*", async (route) => {
    late = (late * 7) % 300;
    await new Promise((done) => setTimeout(done, late));
    await route.continue();
  });
  await page.getByRole("button", { name: "Start with a pyramid" }).click();
  for (const [label, text] of [
    ["A, width", "80"],
    ["B, depth", "60"],
    ["C, height", "100"],
  ] as const) {
    await page.getByLabel(label).press("ControlOrMeta+a");
    await page.getByLabel(label).pressSequentially(text, { delay: 30 });
  }
  await page.getByLabel("C, height").press("Enter");
  await expect(figure(page, "creases")).toHaveText("4");
  const typed = page.getByLabel("type a line");
  await typed.pressSequentially("flap east-left, 8, bent 100°", { delay: 25 });
  await typed.press("Enter");
  await expect(page.locator("[data-line=flap-1]")).toBeVisible();
  await expect(figure(page, "creases")).toHaveText("5");
  // An edge that is not there is said at its line, with those that are.
  await typed.pressSequentially("flap east-side, 8", { delay: 25 });
  await typed.press("Enter");
  await expect(page.locator("[data-line=flap-2]")).toContainText("no edge is called");
  await page.getByLabel("undo", { exact: true }).click();
  await expect(page.locator("[data-line=flap-2]")).toHaveCount(0);
  await saved(page);
  await page.goto(`/jobs/${id}/papers`);
  await page.getByRole("tab", { name: "Template, first page" }).click();
  const drawn = async () => decodeURIComponent((await page.locator(".sheet img").getAttribute("src"))!);
  await expect.poll(drawn).toContain("Up is a valley, down a mountain.");
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "1:1 template (PDF)" }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/template.*\.pdf$/);
});
