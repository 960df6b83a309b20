// A job through its life: brought in, edited in two windows, brought back, measured in inches.
import type { Page } from "@playwright/test";
import { expect, figure, fresh, saved, test } from "./common";

const plate = (title: string, width = "200") => ({
  format: 1,
  title,
  figures: [{ name: "bolt", value: "9" }],
  pieces: [
    {
      id: "a",
      mark: "P-1",
      name: "plate",
      quantity: "2",
      material: "s235",
      thickness: "3",
      lines: [
        { id: "start-1", say: { verb: "start_plate", width, height: "100" } },
        {
          id: "punch-1",
          say: {
            verb: "punch",
            shape: { kind: "round", diameter: "bolt" },
            place: {
              on: "flat",
              x: { from: "west", distance: "20" },
              y: { from: "south", distance: "20" },
            },
          },
        },
      ],
    },
  ],
});

const filed = async (page: Page, title: string): Promise<string> => {
  const made = await page.request.post("/api/jobs", { data: plate(title) });
  const id = (await made.json()).id as string;
  await page.goto(`/jobs/${id}/pieces/a`);
  await expect(figure(page, "flat_length")).toHaveText("200.0 mm");
  return id;
};

test("two windows on one job: the later one is told, and nothing is lost", async ({ page, context }) => {
  const id = await filed(page, "two windows");
  const other = await context.newPage();
  await other.goto(`/jobs/${id}/pieces/a`);
  await expect(figure(other, "flat_length")).toHaveText("200.0 mm");
  await other.getByLabel("width").fill("210");
  await saved(other);
  await page.getByLabel("height").fill("120");
  await expect(page.locator(".saving")).toHaveText("saved elsewhere");
  await expect(page.getByRole("alert").first()).toContainText("Saved elsewhere as revision 2");
  await page.getByRole("button", { name: "go on so" }).click();
  await saved(page);
  const revisions = await (await page.request.get(`/api/jobs/${id}/revisions`)).json();
  expect(revisions.total).toBe(3);
  const theirs = await (await page.request.get(`/api/jobs/${id}/revisions/2`)).json();
  expect(theirs.job.pieces[0].lines[0].say.width).toBe("210");
});

test("history says what changed and brings a revision back", async ({ page }) => {
  await filed(page, "history");
  await page.getByLabel("width").fill("250");
  await saved(page);
  await page.getByRole("button", { name: "History" }).click();
  const history = page.getByRole("region", { name: "history" });
  await expect(history).toContainText("P-1: 200.0 × 100.0 mm → 250.0 × 100.0 mm");
  // A revision that does not come is said not to have come.
  await page.route("**/revisions/1", (route) => route.abort());
  await history.getByRole("button", { name: "bring back" }).click();
  await expect(history.getByRole("alert")).toContainText("Revision 1 could not be brought back");
  await expect(figure(page, "flat_length")).toHaveText("250.0 mm");
  await page.unroute("**/revisions/1");
  await history.getByRole("button", { name: "bring back" }).click();
  await expect(figure(page, "flat_length")).toHaveText("200.0 mm");
  await saved(page);
  await page.getByRole("button", { name: "History" }).click();
  await expect(history).toContainText("brought back revision 1");
});

test("a job figure moves what names it; a circle is named", async ({ page }) => {
  await filed(page, "figures");
  await page.getByText("Job figures and settings").click();
  const cut = await figure(page, "cut_length").textContent();
  await page.getByLabel("value of bolt").fill("12");
  await expect(figure(page, "cut_length")).not.toHaveText(cut!);
  await expect(figure(page, "cut_length")).toHaveText(`${(600 + 12 * Math.PI).toFixed(1)} mm`);
  await page.getByLabel("value of bolt").fill("bolt + 1");
  await expect(page.locator(".job-settings .fault")).toContainText("leads back to itself");
  await expect(page.locator("[data-line=punch-1] .fault")).toContainText("leads back to itself");
  await expect(figure(page, "flat_length")).toHaveText("200.0 mm");
});

test("a piece is shown in inches without changing what was said", async ({ page }) => {
  await filed(page, "inches");
  await page.getByLabel("width").fill("203.2mm");
  await page.getByLabel(/^unit$/).selectOption("in");
  await page.getByLabel(/^fractions$/).selectOption("1/64");
  await page.getByLabel("height").fill("5 1/2");
  await page.getByLabel("thickness").fill("1/4");
  await expect(figure(page, "flat_length")).toHaveText('8"');
  await expect(figure(page, "flat_width")).toHaveText('5 1/2"');
  await expect(page.getByLabel("width")).toHaveValue("203.2mm");
  await expect(figure(page, "mass")).toContainText("lb");
});

test("a gauge is read by its material", async ({ page }) => {
  await filed(page, "gauges");
  await page.getByLabel("thickness").fill("16 ga");
  await page.locator("[data-figure=mass]").click();
  await expect(page.getByRole("article")).toContainText("1.52 mm");
  await page.keyboard.press("Escape");
  await page.getByLabel("material").selectOption("5052-h32");
  await page.locator("[data-figure=mass]").click();
  await page.getByRole("article").getByRole("button", { name: "how?" }).last().click();
  await expect(page.getByRole("article")).toContainText("Brown & Sharpe");
});

test("what is hovered is lit on both sides, and the views keep the light and dark theme", async ({
  page,
}) => {
  await filed(page, "hover");
  await page.locator("svg.flat .hole").hover();
  await expect(page.locator("[data-line=punch-1]")).toHaveClass(/lit/);
  await page.locator("[data-line=punch-1]").hover({ position: { x: 4, y: 4 } });
  await expect(page.locator("svg.flat .hole")).toHaveClass(/lit/);
  await page.getByRole("button", { name: "switch to dark" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-mode", "dark");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-mode", "dark");
  await expect(figure(page, "flat_length")).toHaveText("200.0 mm");
});

test("a fault that no sentence shows is in sight; those of shut settings are counted", async ({
  page,
}) => {
  await fresh(page);
  await page.getByLabel("job title").fill("x".repeat(400));
  await expect(page.locator(".said .fault")).toContainText("the title is 400 characters long");
  await page.getByText("Job figures and settings").click();
  await page.getByRole("button", { name: "+ figure" }).click();
  await page.getByLabel("value of size1").fill("none/0");
  await page.getByLabel("length, sheet 1").fill("long");
  await page.locator(".job-settings > summary").click();
  await expect(page.locator(".job-settings > summary")).toContainText("2 to mend");
});
