import DxfParser from "dxf-parser";
import { demo, expect, figure, fresh, test } from "./common";

test("four sides of a plate are folded by clicking edges; a tip is pulled; the flat follows", async ({
  page,
}) => {
  await fresh(page);
  await page.keyboard.press("p");
  await expect(figure(page, "flat_length")).toHaveText("260.0 mm");
  await page.keyboard.press("Escape");
  let n = 0;
  for (const side of ["north", "east", "south", "west"]) {
    const edge = (await page.locator(`.flat .side[data-edge="start-1.${side}"]`).boundingBox())!;
    // A third along: the middle of an edge may carry a label.
    await page.mouse.click(edge.x + edge.width / 3, edge.y + edge.height / 3);
    await page.getByRole("menuitem", { name: `Fold ${side} up` }).click();
    await expect(page.locator(`[data-line=fold-${++n}]`)).toContainText("Fold");
    await page.keyboard.press("Escape");
    await expect(figure(page, "bends")).toHaveText(String(n));
  }
  // DIN 6935, t 3, r 3: BA = π/2·(3 + 0.65·1.5); each side adds 40 − 6 − 6 + BA to the plate.
  const each = 40 - 12 + (Math.PI / 2) * (3 + 0.975);
  await expect(figure(page, "flat_length")).toHaveText(`${(260 + 2 * each).toFixed(1)} mm`);
  await expect(figure(page, "flat_width")).toHaveText(`${(140 + 2 * each).toFixed(1)} mm`);
  await expect(figure(page, "formed_size")).toHaveText("260.0 × 140.0 × 40.0 mm");
  // Pull the north tip outwards: its length grows, and the flat by as much.
  const tip = page.locator('.flat .side[data-edge="fold-1.north.tip"]');
  const box = (await tip.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 25, { steps: 5 });
  await page.mouse.up();
  const length = page.locator("[data-line=fold-1]").getByLabel(/^length(, |$)/);
  await expect(length).not.toHaveValue("40");
  const told = Number(await length.inputValue());
  expect(told).toBeGreaterThan(45);
  await expect(figure(page, "flat_width")).toHaveText(`${(140 + 2 * each + told - 40).toFixed(1)} mm`);
  await page.keyboard.press("Control+z");
  await expect(length).toHaveValue("40");
  await expect(page.getByRole("menu")).toHaveCount(0);
});

test("a rolled shell is filled with holes and made light: out of the view, not of the figures", async ({
  page,
}) => {
  await fresh(page);
  await page.keyboard.press("o");
  await expect(figure(page, "flat_length")).toBeVisible();
  await page.keyboard.press("Escape");
  const flat = (await page.locator("svg.flat .material").boundingBox())!;
  await page.mouse.click(flat.x + flat.width * 0.3, flat.y + flat.height * 0.5);
  await page.getByRole("menuitem", { name: "Fill it with holes" }).click();
  const line = page.locator("[data-line=fill-1]");
  await expect(line).toContainText("whole holes only");
  await expect(page.locator("svg.flat .hole").first()).toBeVisible();
  const pierces = await figure(page, "pierces").textContent();
  const mass = await figure(page, "mass").textContent();
  expect(Number(pierces)).toBeGreaterThan(300);
  await line.getByLabel("drawn or light").selectOption("true");
  await expect(page.locator("svg.flat .hole")).toHaveCount(0);
  await expect(page.getByText("holes of a light pattern are not drawn")).toBeVisible();
  await expect(figure(page, "pierces")).toHaveText(pierces!);
  await expect(figure(page, "mass")).toHaveText(mass!);
  await expect(page.locator(".saving")).toHaveText("saved");
  const [, id] = page
    .url()
    .match(/jobs\/([^/]+)\/pieces\/([^/]+)/)!
    .slice(0, 3) as [string, string];
  const piece = page.url().split("/").pop()!;
  const dxf = new DxfParser().parseSync(
    await (await page.request.get(`/api/jobs/${id}/papers/dxf?piece=${piece}`)).text(),
  )!;
  expect(dxf.entities.filter((e) => e.layer === "CUT").length).toBe(Number(pierces));
});

test("the schools are compared on one bend, and the piece changes by what they say", async ({ page }) => {
  await demo(page, "stand");
  await expect(figure(page, "flat_length")).toHaveText(/mm/);
  const before = Number.parseFloat((await figure(page, "flat_length").textContent())!);
  await page.getByRole("tab", { name: "Bends 2" }).first().click();
  const schools = page.getByRole("table", { name: "schools compared" });
  await expect(schools.locator("tr.used")).toContainText("DIN 6935");
  await expect(schools).toContainText("the bend table has no row");
  const handbook = schools.locator("tr", { hasText: "handbook" });
  const change = Number.parseFloat(
    (await handbook.locator("td").last().textContent())!.replace("−", "-"),
  );
  expect(Math.abs(change)).toBeGreaterThan(0.05);
  await page.getByLabel(/^bend rule$/).selectOption("handbook90");
  await expect(schools.locator("tr.used")).toContainText("handbook");
  // Two like bends; printed to 0.1.
  await expect
    .poll(async () =>
      Math.abs(
        Number.parseFloat((await figure(page, "flat_length").textContent())!) - before - 2 * change,
      ),
    )
    .toBeLessThan(0.11);
  await page.keyboard.press("Control+z");
  await expect(schools.locator("tr.used")).toContainText("DIN 6935");
});

test("the order of bends is moved by hand; a strike is a finding; a test bend becomes the rule", async ({
  page,
}) => {
  const id = await demo(page, "trough");
  await page
    .getByRole("tab", { name: /^Bends 4/ })
    .first()
    .click();
  const sheet = page.getByRole("table", { name: "bend sheet" });
  await expect(sheet.locator("tbody tr").first()).toContainText("lip");
  await expect(page.getByText(/strikes? the/)).toHaveCount(0);
  const pdf = await page.request.get(`/api/jobs/${id}/papers/bend-sheet?piece=trough`);
  expect((await pdf.body()).subarray(0, 4).toString()).toBe("%PDF");
  for (let i = 0; i < 2; i++) await page.getByRole("button", { name: "west-bend earlier" }).click();
  for (let i = 0; i < 2; i++) await page.getByRole("button", { name: "east-bend earlier" }).click();
  await expect(sheet.locator("tbody tr").first()).toContainText("bend");
  await expect(page.locator(".findings")).toContainText(/strikes? the/);
  await page.getByRole("button", { name: "order as proposed" }).click();
  await expect(page.locator(".findings")).not.toContainText(/strikes? the/);
  // A strip of 100 bent to 53.2 and 50.4 at R2 in 2 mm: BD 3.6 on each of four bends.
  await page.getByText("Job figures and settings").click();
  await page.getByText("Bend table, test bends and brake").click();
  await page.getByRole("button", { name: "+ test bend" }).click();
  await page.getByLabel("material, test-1").selectOption("1.4301");
  for (const [label, value] of [
    ["thickness", "2"],
    ["length of strip 1", "100"],
    ["first leg of strip 1", "53.2"],
    ["second leg of strip 1", "50.4"],
  ]) {
    await page.getByLabel(`${label}, test-1`).fill(value!);
  }
  await page.getByLabel(/^bend rule$/).selectOption("test_bend");
  await expect(figure(page, "flat_length")).toHaveText(
    `${(400 + 2 * 180 + 2 * 20 - 4 * 3.6).toFixed(1)} mm`,
  );
  await page.getByLabel(/^bend rule$/).selectOption("");
  await page.getByRole("button", { name: "take out test-1" }).click();
  await expect(page.locator(".saving")).toHaveText("saved");
});

test("a deep box is bent with a tall punch; a short one strikes; every step says what hands do", async ({
  page,
}) => {
  await demo(page, "box");
  await page
    .getByRole("tab", { name: /^Bends 8/ })
    .first()
    .click();
  await expect(page.locator(".order-said")).toHaveText("nothing is struck in this order.");
  const sheet = page.getByRole("table", { name: "bend sheet" });
  await sheet.locator("tbody tr").last().click();
  const one = page.getByRole("article", { name: /^bend / });
  await expect(one.getByRole("img", { name: /between its tools/ })).toBeVisible();
  await expect(one.getByRole("list")).toContainText("at the stop");
  await expect(one.getByRole("list")).toContainText("without it stay");
  await expect(one.getByRole("list")).toContainText("springback by the machine");
  await page.getByText("Job figures and settings").click();
  await page.getByText("Bend table, test bends and brake").click();
  const height = page.getByLabel(/^punch height/);
  await height.click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("160", { delay: 120 });
  await expect(height).toBeFocused();
  await expect(height).toHaveValue("160");
  // Of 160, not of the 1 and the 16 that were typed on the way: those strike at every bend.
  await expect(page.locator(".order-said")).toHaveText(
    "no order is free of strikes: in the best 2 bends strike (every order was looked at).",
  );
  await expect(page.locator(".findings")).toContainText("strike the beam");
  await sheet.locator("tbody tr", { hasText: "!" }).first().click();
  await expect(one.locator(".fault").first()).toContainText("strike the beam");
  // The told punch again. Letters that follow one another within a second are one step of undo; where the
  // machine stood still between two of them they are two.
  for (let i = 0; i < 3 && (await height.inputValue()) !== "270"; i++)
    await page.keyboard.press("Control+z");
  await expect(height).toHaveValue("270");
  await expect(page.locator(".order-said")).toHaveText("nothing is struck in this order.");
  // Played, and left in the middle.
  await page.getByRole("button", { name: "fold it bend by bend" }).click();
  await expect(page.getByRole("button", { name: "stop folding" })).toBeVisible();
  await page.getByRole("tab", { name: /^P-101/ }).click();
  await expect(page.getByRole("button", { name: "fold it bend by bend" })).toBeVisible();
  await expect(page.locator(".saving")).toHaveText("saved");
});

test("an order that is not proven is searched for further, and the search is stopped", async ({
  page,
}) => {
  await fresh(page);
  const line = page.getByPlaceholder(/type a line/);
  await line.click();
  const zigzag = " up 45 30 down 45 30".repeat(7);
  await line.fill(
    `strip 80 up 90 60 up 90 80 up 90 57 down 90 40 down 90 40 up 90 40 up 90 40${zigzag} wide 300`,
  );
  await page.keyboard.press("Enter");
  await page
    .getByRole("tab", { name: /^Bends 21/ })
    .first()
    .click();
  await expect(page.locator(".order-said")).toContainText("not proven");
  await page.getByRole("button", { name: "search on" }).click();
  await expect(page.getByRole("progressbar", { name: "how far the search is" })).toBeVisible();
  await page.getByRole("button", { name: "stop searching" }).click();
  await expect(page.getByText("The search was stopped; the order stays")).toBeVisible();
  await expect(page.getByRole("button", { name: "search on" })).toBeVisible();
});
