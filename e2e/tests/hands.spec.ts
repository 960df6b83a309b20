// What hands do at the bench: the profile's menus, moving and copying lines, folding, zooming, papers.
import type { Page } from "@playwright/test";
import { demoJob, expect, figure, test } from "./common";

const strip = {
  format: 1,
  title: "hands",
  number: "J-H",
  pieces: [
    {
      id: "a",
      mark: "P-1",
      name: "angle",
      quantity: "1",
      material: "s235",
      thickness: "2",
      radius: "2",
      lines: [
        {
          id: "start-1",
          say: {
            verb: "start_strip",
            width: "40",
            profile: [
              { kind: "leg", id: "a", length: "40" },
              { kind: "bend", id: "1", angle: "90" },
              { kind: "leg", id: "b", length: "60" },
            ],
          },
        },
        {
          id: "punch-1",
          say: {
            verb: "punch",
            shape: { kind: "round", diameter: "6" },
            place: {
              on: "flat",
              x: { from: "west", distance: "15" },
              y: { from: "centre", distance: "" },
            },
          },
        },
        { id: "round-1", say: { verb: "round", treatment: "radius", size: "5" } },
      ],
    },
  ],
};

const open = async (page: Page) => {
  const id = (await (await page.request.post("/api/jobs", { data: strip })).json()).id as string;
  await page.goto(`/jobs/${id}/pieces/a`);
  await expect(figure(page, "flat_length")).toHaveText("96.2 mm");
  return id;
};

test("a bend and a leg are added and taken out of a profile; directions turn the sum", async ({
  page,
}) => {
  await open(page);
  await page.getByRole("button", { name: "more for leg b" }).click();
  await page.getByRole("menuitem", { name: "add a bend and a leg after it" }).click();
  // 40 + 60 + 40 less two deductions of 3.837.
  await expect(figure(page, "flat_length")).toHaveText("132.3 mm");
  await expect(figure(page, "angle_sum")).toHaveText("180°, parallel");
  await page.getByLabel("direction of bend 2").selectOption("down");
  await expect(figure(page, "angle_sum")).toHaveText("0°, parallel");
  await expect(page.locator(".flat .bend-line.down")).toHaveCount(1);
  await page.getByRole("button", { name: "more for leg c" }).click();
  await page.getByRole("menuitem", { name: "take it out" }).click();
  await expect(figure(page, "flat_length")).toHaveText("96.2 mm");
  await page.getByLabel(/^bend rule$/).selectOption("k_factor");
  // Odd is told, impossible refused.
  await page.getByLabel(/^K-factor(, |$)/).fill("0.7");
  await expect(page.locator(".findings")).toContainText("K = 0.7, outside the inner half of the sheet");
  await page.getByLabel(/^K-factor(, |$)/).fill("0.9");
  await expect(page.locator(".fault").first()).toContainText(
    "the neutral line of a bend lies in the sheet",
  );
});

test("lines are moved, copied, switched and taken out by key, and undone", async ({ page }) => {
  await open(page);
  const ids = () =>
    page.locator(".line").evaluateAll((l) => l.map((x) => (x as HTMLElement).dataset.line));
  await page.locator("[data-line=punch-1]").focus();
  await page.keyboard.press("d");
  expect(await ids()).toEqual(["start-1", "punch-1", "punch-2", "round-1"]);
  await page.locator("[data-line=punch-2]").focus();
  await page.keyboard.press("Alt+ArrowDown");
  expect(await ids()).toEqual(["start-1", "punch-1", "round-1", "punch-2"]);
  await page.locator("[data-line=punch-2]").focus();
  await page.keyboard.press("Delete");
  expect(await ids()).toEqual(["start-1", "punch-1", "round-1"]);
  await page.locator("[data-line=round-1]").focus();
  await page.keyboard.press(" ");
  await expect(page.locator("[data-line=round-1]")).toHaveClass(/off/);
  await expect(page.locator(".findings").getByText("4 corners are left sharp")).toBeVisible();
  for (let i = 0; i < 4; i++) await page.keyboard.press("Control+z");
  expect(await ids()).toEqual(["start-1", "punch-1", "round-1"]);
  await expect(page.locator("[data-line=round-1]")).not.toHaveClass(/off/);
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog")).toContainText("switch the line off or on");
});

test("the fold is moved by key, the flat is zoomed and fitted again", async ({ page }) => {
  await open(page);
  const slider = page.getByRole("slider");
  await slider.focus();
  await page.keyboard.press("Home");
  await expect(slider).toHaveAttribute("aria-valuenow", "0");
  await page.keyboard.press("End");
  await expect(slider).toHaveAttribute("aria-valuenow", "1");
  const scale = () => page.locator("svg.flat > g").first().getAttribute("transform");
  const fitted = await scale();
  const box = (await page.locator("svg.flat").boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.wheel(0, -400);
  await expect.poll(scale).not.toBe(fitted);
  // Away from the piece, which offers lines where it is clicked.
  await page.mouse.wheel(0, 1600);
  await page.mouse.dblclick(box.x + 20, box.y + box.height - 12);
  await expect.poll(scale).toBe(fitted);
});

test("a clicked face of the formed piece is offered a hole where it was clicked", async ({ page }) => {
  await open(page);
  await page.getByRole("button", { name: "from above" }).click();
  const stage = (await page.locator(".stage").boundingBox())!;
  // From above, the leg that lies still fills the middle of the view.
  await page.mouse.click(stage.x + stage.width / 2 + 60, stage.y + stage.height / 2 + 60);
  await page.getByRole("menuitem", { name: /Punch a round hole here/ }).click();
  await expect(page.locator("[data-line=punch-2]")).toContainText("leg a");
  await expect(figure(page, "pierces")).toHaveText("3");
});

test("papers show what they give, on the paper that is picked", async ({ page }) => {
  const id = await open(page);
  await page.goto(`/jobs/${id}/papers`);
  await expect(page.getByRole("table", { name: "cut list" })).toContainText("96.2 × 40.0");
  const shown = page.locator(".sheet img");
  const drawn = async () => decodeURIComponent((await shown.getAttribute("src"))!);
  await expect(shown).toBeVisible();
  expect(await drawn()).toContain('width="');
  await page.getByRole("tab", { name: "Template, first page" }).click();
  await expect.poll(drawn).toMatch(/width="(210mm" height="297mm|297mm" height="210mm)"/);
  await page.getByLabel("paper size").selectOption("Letter");
  await expect.poll(drawn).toMatch(/width="(215.9mm" height="279.4mm|279.4mm" height="215.9mm)"/);
  expect(await drawn()).toContain("100 mm across, 100 mm down");
  await expect(page.getByRole("link", { name: "1:1 template (PDF)" })).toHaveAttribute(
    "href",
    /paper=Letter/,
  );
  const csv = await (await page.request.get(`/api/jobs/${id}/papers/cutlist`)).text();
  expect(csv.split("\n")[1]).toBe(
    "P-1,angle,1,S235 steel,2,96.2 × 40.0,96.2,40.0,0.0038 m²,2,,,,,1,0,0.0596,0.0596,282.6,0",
  );
});

test("lines are put under a name that folds them; going to one of them unfolds it", async ({ page }) => {
  const id = await demoJob(page);
  await page.goto(`/jobs/${id}/pieces/box`);
  const line = (name: string) => page.locator(`[data-line=${name}]`);
  await line("punch-2").focus();
  await page.keyboard.press("Alt+g");
  const name = page.getByLabel("name of the group of punch-2");
  await expect(name).toBeFocused();
  await page.keyboard.type("Second row", { delay: 50 });
  await expect(name).toHaveValue("Second row");
  await page.keyboard.press("Escape");
  const head = page.locator("[data-group=punch-2]");
  await expect(head).toBeFocused();
  await expect(head).toContainText("7 lines");
  await page.keyboard.press("Space");
  await expect(line("mirror-2")).toHaveCount(0);
  await page.keyboard.press("ArrowUp");
  await expect(line("mirror-1")).toBeFocused();
  await page.keyboard.press("ArrowDown");
  await expect(head).toBeFocused();
  await expect(page.locator(".saving")).toHaveText("saved");
  await page.reload();
  await expect(name).toHaveValue("Second row");
  await expect(line("mirror-2")).toHaveCount(0);
  // A hole of a folded line, clicked on the flat.
  await page.getByRole("application").focus();
  const hole = page.locator("svg.flat .hole").last();
  const b = (await hole.boundingBox())!;
  await page.mouse.click(b.x + b.width / 2, b.y + b.height / 2);
  await page.keyboard.press("Escape");
  await expect(line("mirror-2")).toHaveCount(1);
});
