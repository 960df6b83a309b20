// No page violates WCAG 2.2 AA, light or dark, at the desk or on a tablet.
import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { demo, expect, figure, fresh, test } from "./common";

const TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"];

const violations = async (page: Page) => {
  // Nothing of ours is framed, so it is asked in the page itself, and what passes is not described.
  const found = await new AxeBuilder({ page })
    .options({ resultTypes: ["violations"] })
    .withTags(TAGS)
    .setLegacyMode()
    .analyze();
  return found.violations.map(
    (v) =>
      `${v.id}: ${v.nodes
        .map((n) => `${n.target} ${n.failureSummary}`)
        .slice(0, 3)
        .join(" | ")}`,
  );
};

/** Each page as somebody comes upon it, with what is open on it. */
const PAGES: [string, (page: Page) => Promise<unknown>][] = [
  ["rack", (page) => page.goto("/")],
  [
    "archive",
    async (page) => {
      await page.goto("/");
      await page.getByRole("button", { name: "Archive", exact: true }).click();
    },
  ],
  ["an empty piece", fresh],
  ["a piece", (page) => demo(page, "stand")],
  [
    "a piece in the dark",
    async (page) => {
      await demo(page, "box");
      await page.getByRole("button", { name: "switch to dark" }).click();
    },
  ],
  [
    "bends",
    async (page) => {
      await demo(page, "trough");
      await page.getByRole("tab", { name: /^Bends/ }).click();
    },
  ],
  [
    "settings",
    async (page) => {
      await demo(page, "box");
      await page.getByText("Job figures and settings").click();
      for (const part of ["Bend table, test bends", "Materials of the shop", "Sections of the shop"])
        await page.getByText(part).click();
      for (const add of ["+ test bend", "+ row", "+ material", "+ section"])
        await page.getByRole("button", { name: add, exact: true }).click();
      // What was added pushed the summary half out of sight.
      await page
        .getByText("Job figures and settings")
        .evaluate((e) => e.scrollIntoView({ block: "start" }));
    },
  ],
  [
    "a drawing before it is taken",
    async (page) => {
      await page.goto("/");
      const line = (a: number[], b: number[]) =>
        `0\nLINE\n8\nCUT\n10\n${a[0]}\n20\n${a[1]}\n11\n${b[0]}\n21\n${b[1]}\n`;
      const sides =
        line([0, 0], [9, 0]) + line([9, 0], [9, 5]) + line([9, 5], [0, 5]) + line([0, 5], [0, 1]);
      const circle = "0\nCIRCLE\n8\n0\n10\n5\n20\n3\n40\n1\n";
      const text = `0\nSECTION\n2\nENTITIES\n${sides}${circle}0\nENDSEC\n0\nEOF\n`;
      const file = { name: "a.dxf", mimeType: "image/vnd.dxf", buffer: Buffer.from(text) };
      await page.getByLabel("file to bring in").setInputFiles(file);
      await expect(page.getByText("What are its numbers?")).toBeVisible();
    },
  ],
  [
    "a picture that is traced",
    async (page) => {
      await demo(page, "gasket");
      await page.getByRole("button", { name: "the tracing" }).click();
      await expect(page.getByText("nowhere further than")).toBeVisible();
      await page.getByRole("button", { name: /^Arc/ }).click();
    },
  ],
  [
    "the drawing of a brief",
    async (page) => {
      const job = await demo(page, "stand");
      await page.goto(`/jobs/${job}/briefs/brief-2`);
      await page.getByRole("tab", { name: "Drawing" }).click();
      const pdf = await (await page.request.get(`/api/jobs/${job}/papers/template?piece=P-101`)).body();
      const file = { name: "stand.pdf", mimeType: "application/pdf", buffer: pdf };
      await page.getByLabel("drawing to keep beside the brief").setInputFiles(file);
      await expect(page.locator(".paper-page image")).toBeVisible();
      await page.locator(".checks tbody tr").first().getByRole("button").first().click();
      await page.locator(".paper-page").click();
      await expect(page.locator(".pin-of")).toBeVisible();
    },
  ],
  [
    "a piece as text, with a fault",
    async (page) => {
      await demo(page, "stand");
      await page.getByRole("button", { name: "as text" }).click();
      await page.getByLabel("piece as text").press("Control+End");
      await page.keyboard.type("\n  punch nothing");
      await expect(page.getByRole("alert").first()).toBeVisible();
    },
  ],
  [
    "a working",
    async (page) => {
      await demo(page, "hat");
      await page.locator("[data-figure=flat_length]").click();
    },
  ],
  [
    "keys and history",
    async (page) => {
      await demo(page, "stand");
      await page.getByRole("button", { name: "History" }).click();
      await expect(page.getByRole("heading", { name: "History" })).toBeVisible();
    },
  ],
  [
    "a brief",
    async (page) => {
      const job = await demo(page, "stand");
      await page.goto(`/jobs/${job}/briefs/brief-2`);
      await page.getByRole("button", { name: "what is not checked?" }).click();
      await expect(page.locator(".unchecked ul")).toBeVisible();
    },
  ],
  [
    "a brief of a frame",
    async (page) => {
      const job = await demo(page, "stand");
      await page.goto(`/jobs/${job}/briefs/brief-4`);
      await expect(page.locator("[data-node]").first()).toBeVisible();
    },
  ],
  [
    "a frame",
    async (page) => {
      const job = await demo(page, "stand");
      await page.goto(`/jobs/${job}/frames`);
      await expect(figure(page, "mass")).toBeVisible();
    },
  ],
  [
    "bars",
    async (page) => {
      const job = await demo(page, "stand");
      await page.goto(`/jobs/${job}/frames`);
      await page.getByRole("tab", { name: "Bars" }).click();
      await expect(page.locator(".bar-plan").first()).toBeVisible();
    },
  ],
  [
    "sections and welds",
    async (page) => {
      const job = await demo(page, "stand");
      await page.goto(`/jobs/${job}/frames`);
      await page.getByRole("tab", { name: /^Sections/ }).click();
      await expect(page.locator(".section-card").first()).toBeVisible();
    },
  ],
  [
    "papers",
    async (page) => {
      const job = await demo(page, "stand");
      await page.goto(`/jobs/${job}/papers`);
      await expect(page.locator(".sheet img")).toBeVisible();
    },
  ],
];

for (const [name, open] of PAGES) {
  test(`no violation of WCAG 2.2 AA: ${name}`, async ({ page }) => {
    await open(page);
    await page.waitForTimeout(400);
    expect(await violations(page)).toEqual([]);
    // On a tablet, upright.
    await page.setViewportSize({ width: 820, height: 1180 });
    await page.waitForTimeout(300);
    expect(await violations(page), "on a tablet").toEqual([]);
  });
}
