// A tablet held upright, by fingers.
import type { Page } from "@playwright/test";
import { demoJob, expect, test } from "./common";

test.use({ viewport: { width: 820, height: 1180 }, hasTouch: true });

/** What can be touched and is smaller than a finger; a joint's bubble reaches further than it looks. */
const small = (page: Page) =>
  page.evaluate(() => {
    const touched = "button, a[href], input, select, textarea, summary, [role=tab], [role=button]";
    return [...document.querySelectorAll<HTMLElement>(touched)]
      .filter(
        (e) => e.checkVisibility({ visibilityProperty: true }) && !e.matches(".bubble, [href='#main']"),
      )
      .map((e) => ({ e, r: e.getBoundingClientRect() }))
      .filter(({ r }) => r.width > 1 && r.bottom > 0 && r.top < innerHeight)
      .filter(({ r }) => r.height < 43.5 || r.width < 43.5)
      .map(({ e, r }) => `${e.tagName} ${e.textContent || e.ariaLabel} ${r.width}×${r.height}`);
  });

test("everything is as large as a finger; two fingers bring the flat nearer about their middle", async ({
  page,
}) => {
  const job = await demoJob(page);
  for (const path of ["pieces/box", "frames/frame-1", "papers", "briefs"]) {
    await page.goto(`/jobs/${job}/${path}`);
    await expect(page.getByRole("main")).toBeVisible();
    await expect.poll(() => small(page), { message: path }).toEqual([]);
    const wide = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(wide, `${path} is no wider than the tablet`).toBeLessThanOrEqual(820);
  }
  await page.goto(`/jobs/${job}/pieces/foot`);
  const outline = page.locator("svg.flat .outline");
  await outline.waitFor();
  const was = (await outline.boundingBox())!;
  const [x, y] = [was.x + was.width / 2, was.y + was.height / 2];
  const touch = await page.context().newCDPSession(page);
  const send = (type: "touchStart" | "touchMove" | "touchEnd", apart: number) =>
    touch.send("Input.dispatchTouchEvent", {
      type,
      touchPoints:
        type === "touchEnd"
          ? []
          : [
              { x: x - apart, y, id: 1 },
              { x: x + apart, y, id: 2 },
            ],
    });
  await send("touchStart", 30);
  for (const apart of [35, 45, 60]) await send("touchMove", apart);
  await send("touchEnd", 60);
  await expect(async () => {
    const is = (await outline.boundingBox())!;
    expect(is.width / was.width).toBeGreaterThan(1.6);
    expect(Math.abs(is.x + is.width / 2 - x)).toBeLessThan(8);
  }).toPass();
  // The page itself did not move under the fingers.
  expect(await page.evaluate(() => [window.scrollY, window.visualViewport?.scale])).toEqual([0, 1]);
});
