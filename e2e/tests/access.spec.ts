import { demo, expect, fresh, test } from "./common";

/** What holds the focus: tag, and the name that a reader of the screen says. */
const held = (page: import("@playwright/test").Page) =>
  page.evaluate(() => {
    const e = document.activeElement as HTMLElement | null;
    return e && e !== document.body
      ? `${e.tagName.toLowerCase()} ${e.getAttribute("aria-label") ?? e.textContent?.trim().slice(0, 40)}`
      : "";
  });

test("each page says what it is, has one main part and one heading, and its head can be passed by", async ({
  page,
}) => {
  const job = await demo(page, "stand");
  for (const [path, title] of [
    ["briefs/brief-1", /^D-101 .* · Brief · .* · Steelk$/],
    ["pieces/stand", /^P-101 .* · Pieces · .* · Steelk$/],
    ["frames", /^F-1 .* · Frame · .* · Steelk$/],
    ["papers", /^Papers · .* · Steelk$/],
  ] as const) {
    await page.goto(`/jobs/${job}/${path}`);
    await expect(page.getByRole("main")).toHaveCount(1);
    await expect(page.getByRole("heading", { level: 1 })).toHaveCount(1);
    await expect(page).toHaveTitle(title);
    await page.keyboard.press("Tab");
    expect(await held(page)).toBe("a past the head of the page");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("main")).toBeFocused();
  }
  await page.goto("/");
  await expect(page.getByRole("main")).toHaveCount(1);
  await expect(page.getByRole("heading", { level: 1 })).toHaveCount(1);
});

test("letters that act can be switched off, and stay so", async ({ page }) => {
  await fresh(page);
  await page.getByRole("button", { name: "keys", exact: true }).click();
  await page.getByRole("switch", { name: "letters and signs act by themselves" }).click();
  await page.keyboard.press("Escape");
  await page.reload();
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
  await page.getByRole("main").focus();
  await page.keyboard.press("p");
  await page.keyboard.press("/");
  await page.waitForTimeout(300);
  await expect(page.locator("[data-line=start-1]")).toHaveCount(0);
  await expect(page.locator("#short-text")).not.toBeFocused();
  await page.getByRole("button", { name: "keys", exact: true }).click();
  await page.getByRole("switch", { name: "letters and signs act by themselves" }).click();
  await page.keyboard.press("Escape");
  await page.getByRole("main").focus();
  await page.keyboard.press("p");
  await expect(page.locator("[data-line=start-1]")).toBeVisible();
  // The bench of frames has the most: each key stands beside its name, and all fit across the card.
  await page.getByRole("link", { name: "Frame" }).click();
  await page.getByRole("button", { name: "keys", exact: true }).click();
  const card = page.getByRole("dialog", { name: "keys of the bench" });
  await expect(card.getByText(/^E flanges of an opening$/)).toBeVisible();
  expect(await card.evaluate((c) => c.scrollWidth <= c.clientWidth)).toBe(true);
});
