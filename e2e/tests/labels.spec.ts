import type { Page } from "@playwright/test";
import { demoJob, expect, test } from "./common";

/** Texts and pins of the flat, as they stand on the screen. */
const boxes = (page: Page) =>
  page.evaluate(() => {
    const host = document.querySelector("svg.flat")!.getBoundingClientRect();
    return [
      ...document.querySelectorAll(
        "svg.flat .mark, svg.flat .pin, svg.flat .dim text, svg.flat .bend-text text",
      ),
    ]
      .map((e) => {
        const r = e.getBoundingClientRect();
        return {
          said: e.textContent,
          x: r.x,
          y: r.y,
          r: r.right,
          b: r.bottom,
          kind: e.getAttribute("class"),
        };
      })
      .filter((r) => r.r > host.x && r.x < host.right && r.b > host.y && r.y < host.bottom);
  });

/** Pairs that cover one another by more than the air round their letters. */
async function covered(page: Page) {
  const all = await boxes(page);
  const deep = (a: (typeof all)[0], b: (typeof all)[0]) =>
    Math.min(Math.min(a.r, b.r) - Math.max(a.x, b.x), Math.min(a.b, b.b) - Math.max(a.y, b.y));
  return all.flatMap((a, i) =>
    all.slice(i + 1).flatMap((b) => (deep(a, b) > 4 ? [`${a.said} on ${b.said}`] : [])),
  );
}

test("labels keep clear of one another at every nearness, and stay while one zooms", async ({ page }) => {
  const job = await demoJob(page);
  for (const piece of ["foot", "door", "box"]) {
    await page.goto(`/jobs/${job}/pieces/${piece}`);
    await page.locator("svg.flat .dim text").first().waitFor();
    const flat = (await page.locator("svg.flat").boundingBox())!;
    for (let step = 0; step < 4; step++) {
      await expect.poll(() => covered(page), { message: `${piece}, ${step} steps nearer` }).toEqual([]);
      await page.mouse.move(flat.x + flat.width * 0.45, flat.y + flat.height * 0.45);
      await page.mouse.wheel(0, -160);
    }
    expect((await boxes(page)).length).toBeGreaterThan(2);
  }
  // Each of the foot plate's five kinds of holes is told, or counted as having no room.
  await page.goto(`/jobs/${job}/pieces/foot`);
  await expect(page.locator("svg.flat .mark")).toHaveCount(5);
});
