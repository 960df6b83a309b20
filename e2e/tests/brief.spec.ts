// What the drawing says, typed as it stands on it, tied to the model, and broken by an edit.
import { demo, demoJob, expect, fresh, saved, test } from "./common";

test("a drawing's figures are typed, tied, broken by an edit and told at every station", async ({
  page,
}) => {
  await fresh(page);
  await page.keyboard.press("/");
  for (const line of ["plate 260 x 140", "hole ⌀14 at 30 from west, 25 from south", "hole ⌀40"]) {
    await page.keyboard.type(line, { delay: 5 });
    await page.keyboard.press("Enter");
  }
  await expect(page.locator(".line")).toHaveCount(3);
  await page.getByRole("link", { name: "Brief" }).click();
  await expect(page.getByText("A job begins with its drawings")).toBeVisible();
  await page.getByRole("button", { name: "+ brief" }).click();
  await expect(page.getByText("Nothing is written down yet")).toBeVisible();
  await page.keyboard.press("/");
  const figures = [
    "overall length 260 ±0.5",
    "overall width 140",
    "thickness 3",
    "hole A ⌀14",
    "hole A from left 30",
    "1 × hole B ⌀40",
  ];
  for (const line of figures) {
    await page.keyboard.type(line, { delay: 20 });
    await page.keyboard.press("Enter");
  }
  await expect(page.locator(".line")).toHaveCount(6);
  const tally = page.locator(".tally");
  await expect(tally).toContainText("not tied");
  await page.getByRole("button", { name: /tie what is clear/ }).click();
  await expect(tally).toContainText("8 of 8 met");
  await expect(page.getByRole("link", { name: /Brief 8\/8/ })).toBeVisible();

  // Values that nobody checks are found: the height that the first hole stands at.
  await page.getByRole("button", { name: "what is not checked?" }).click();
  await expect(page.locator(".unchecked")).toContainText("25 in punch-1");
  await expect(page.locator(".unchecked")).not.toContainText("260");

  // A figure that the proposals cannot know is tied by pointing.
  await page.keyboard.press("/");
  await page.keyboard.type("gap A to 82.7", { delay: 20 });
  await page.keyboard.press("Enter");
  await page.locator("[data-line=span-2]").focus();
  await page.locator('.flat [aria-label="hole punch-2"], .flat .hole').last().click();
  await expect(page.getByRole("row", { name: /gap A to punch-2.*met/ })).toBeVisible();

  // What the caliper says is typed down the list: its departure, in or out, by whom.
  await page.getByLabel("measured by", { exact: true }).click();
  await page.keyboard.type("A. Hand", { delay: 20 });
  await page.getByLabel("measured on the first piece: overall length 260 ± 0.5").click();
  await page.keyboard.type("260.4", { delay: 40 });
  await page.keyboard.press("Enter");
  await page.keyboard.type("139.1", { delay: 40 });
  await expect(page.getByRole("row", { name: /overall length/ })).toContainText("+0.4 mm");
  await expect(page.getByRole("row", { name: /overall width/ }).locator(".out")).toHaveText("−0.9 mm");
  await expect(tally).toContainText("2 measured, 1 out");
  await page.keyboard.press("Backspace");
  await page.keyboard.type("8", { delay: 40 });
  await expect(tally).toContainText("2 measured");
  await expect(tally).not.toContainText("out");

  await page.getByRole("link", { name: "Pieces" }).click();
  await page.getByLabel("width, start-1").fill("262");
  await expect(page.getByRole("link", { name: /Brief ■/ })).toBeVisible();
  const broken = page.locator(".broken");
  await expect(broken).toContainText("overall length 260 ± 0.5");
  await expect(broken).toContainText("2 mm too long, 1.5 mm beyond what is allowed");
  await expect(page.locator(".piece-head .found")).toContainText("of the drawing off");
  await page.keyboard.press("Control+z");
  await expect(broken).toHaveCount(0);
  await saved(page);
  await page.reload();
  await expect(page.getByRole("link", { name: /Brief \d+\/9/ })).toBeVisible();
});

test("a figure that is not understood says what it could be, and its letters stay", async ({ page }) => {
  await fresh(page);
  await page.getByRole("link", { name: "Brief" }).click();
  await page.getByRole("button", { name: "+ brief" }).click();
  await expect(page.getByText("Nothing is written down yet")).toBeVisible();
  await page.keyboard.press("/");
  await page.keyboard.type("overal width 260", { delay: 10 });
  await page.keyboard.press("Enter");
  await expect(page.locator(".line")).toHaveCount(0);
  await expect(page.getByText(/no line starts with 'overal'/)).toBeVisible();
  await expect(page.locator("#short-text")).toHaveValue("overal width 260");
});

test("a figure of a frame is tied by clicks on its nodes", async ({ page }) => {
  const job = await demo(page, "stand");
  await page.goto(`/jobs/${job}/briefs/brief-4`);
  await expect(page.locator("[data-node=A]")).toBeVisible();
  await page.keyboard.press("/");
  await page.locator("#short-text").focus();
  await page.keyboard.type("from to 1500", { delay: 15 });
  await page.keyboard.press("Enter");
  await page.locator("[data-line=span-4]").focus();
  for (const node of ["A", "T"]) {
    const at = (await page.locator(`[data-node=${node}]`).boundingBox())!;
    await page.mouse.click(at.x + at.width / 2, at.y + at.height / 2);
  }
  await expect(page.getByRole("row", { name: /from A to T 1500 .* met/ })).toHaveCount(2);
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("row", { name: /from A to T 1500 .* met/ })).toHaveCount(1);
});

test("an edge over bends is tied on the leg where it was pointed at; a view heads its figures", async ({
  page,
}) => {
  const job = await demoJob(page);
  await page.goto(`/jobs/${job}/briefs/brief-1`);
  // The tally stands in the head before the bench is there and hears keys.
  await expect(page.getByLabel("type a line")).toBeVisible();
  await page.keyboard.press("/");
  await expect(page.getByLabel("type a line")).toBeFocused();
  for (const line of ["section a-a", "length 83"]) {
    await page.keyboard.type(line, { delay: 20 });
    await page.keyboard.press("Enter");
  }
  const line = page.locator(".line").last();
  await expect(line).toContainText("Length");
  await line.focus();
  // Near its east end the north side is that of leg c.
  const boxes = await page
    .locator('.flat [data-edge="start-1.north"]')
    .evaluateAll((all) => all.map((e) => e.getBoundingClientRect().toJSON()));
  const side = boxes.sort((p, q) => q.width - p.width)[0]!;
  await page.mouse.click(side.x + side.width - 30, side.y + side.height / 2);
  await expect(line).toContainText("edge leg c north");
  const table = page.getByRole("table", { name: "figures of the drawing against the model" });
  await expect(table.getByRole("columnheader", { name: "section A-A" })).toBeVisible();
  await expect(table.getByRole("row", { name: /start-1\.c\.north 83/ })).toContainText("too");
});
