import { readFile } from "node:fs/promises";
import type { Page } from "@playwright/test";
import { demoJob, expect, figure, saved, test } from "./common";

/** A new job with an empty frame on the bench. */
const freshFrame = async (page: Page) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New job" }).click();
  await page.getByRole("button", { name: "Start with a frame" }).click();
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
};
const say = async (page: Page, text: string) => {
  const lines = await page.locator(".recipe > [data-line]").count();
  await page.locator("#short-text").fill(text);
  await page.keyboard.press("Enter");
  await expect(page.locator(".recipe > [data-line]")).toHaveCount(lines + 1);
};
const row = (page: Page, mark: string) =>
  page
    .getByRole("table", { name: "cut list" })
    .locator("tbody tr")
    .filter({ has: page.locator(`input[value="${mark}"]`) });

test("a portal is built by keyboard; a joint is flipped and lengths follow; list and CSV agree", async ({
  page,
}) => {
  await freshFrame(page);
  await page.keyboard.press("n");
  await expect(page.locator("[data-line=node-1]")).toContainText("Node");
  // The keyboard stands in the new node's name; its values follow with Tab.
  await page.keyboard.press("Escape");
  await page.keyboard.press("/");
  await page.locator("#short-text").fill("node Q from");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").last()).toContainText("missing");
  for (const line of [
    "node B from A up 800",
    "node C from B east 1000",
    "node D from C down 800",
    "post A B",
    "rail B C",
    "post D C",
  ])
    await say(page, line);
  // Mitred at B and C: the rail 1000 + 60 from long point to long point, 45° at either end.
  const rail = row(page, "F-1/2");
  await expect(rail).toContainText("1060.0");
  await expect(rail).toContainText("45°");
  await expect(row(page, "F-1/1")).toContainText("830.0");
  await expect(row(page, "F-1/1").locator("td").nth(2)).toHaveText("2");
  // One click on the bubble at B: the post runs through there.
  await page.getByRole("button", { name: /^joint B: mitre/ }).click();
  await expect(page.getByRole("button", { name: /^joint B: post-1 runs through/ })).toBeVisible();
  await expect(page.locator("[data-line=joint-1]")).toContainText("Butt");
  await expect(row(page, "F-1/2").locator("td").nth(4)).toHaveText("1000.0");
  await expect(row(page, "F-1/2").locator("td").nth(5)).toHaveText("square");
  // And again: the rail runs through, the post ends under it.
  await page.getByRole("button", { name: /^joint B: post-1/ }).click();
  await expect(page.getByRole("button", { name: /^joint B: rail-1 runs through/ })).toBeVisible();
  await expect(row(page, "F-1/1").locator("td").nth(4)).toHaveText("770.0");
  await page.keyboard.press("Escape");
  await page.locator(".recipe > [data-line]").first().focus();
  await page.keyboard.press("Control+z");
  await expect(row(page, "F-1/2").locator("td").nth(4)).toHaveText("1000.0");
  // A name and a column of one's own.
  await page.getByRole("button", { name: "+ column" }).click();
  await page.getByLabel("part number of F-1/2").fill("PX-7");
  await page.keyboard.press("Enter");
  await saved(page);
  await page.getByRole("link", { name: "Papers" }).click();
  await page.getByRole("button", { name: "F-1", exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Saw list (CSV)" }).click(),
  ]);
  const csv = (await readFile(await download.path(), "utf8")).trim().split("\n");
  // Heading, three rows, a gap, and what job and revision the list is of.
  const gap = csv.findIndex((l) => l.replace(/"/g, "").trim() === "");
  expect(gap).toBe(4);
  expect(csv.slice(gap + 1).some((l) => l.startsWith("revision,"))).toBe(true);
  expect(csv[0]).toContain("part number");
  const told = csv.find((l) => l.startsWith("F-1/2,rail,"));
  expect(told).toContain(",1000.0,");
  expect(told).toMatch(/PX-7$/);
});

test("the press frame: mirrored pieces counted, bars proven, cautions, a row lights its members up", async ({
  page,
}) => {
  const id = await demoJob(page);
  await page.goto(`/jobs/${id}/frames`);
  await expect(figure(page, "mass")).toHaveText(/^1[89]\d\.\d\d kg$/);
  const posts = row(page, "F-1/1");
  await expect(posts.locator("td").nth(2)).toHaveText("4");
  await expect(posts.locator("td").nth(4)).toHaveText("1450.0");
  await expect(page.getByRole("table", { name: "welded first" })).toContainText("2 × F-1/1");
  await expect(page.locator(".findings")).toContainText("a qualified person must design");
  await posts.hover();
  await expect(posts).toHaveAttribute("aria-current", "true");
  // The brace's odd angle is rounded to the saw's step, and what that leaves is told.
  await expect(row(page, "F-1/6")).toContainText("49.5°");
  await expect(row(page, "F-1/6")).toContainText("gap");
  // Pin holes of the posts, told from their ends; welds of all copies in one row.
  await expect(posts.locator("small")).toHaveAttribute(
    "title",
    /left, both walls: 4 × Ø21 at 680\.0 · 790\.0/,
  );
  await page.getByRole("tab", { name: /^Welds \d+$/ }).click();
  const weld = page.getByRole("table", { name: "welds" }).locator("tbody tr").first();
  await expect(weld.locator("td").nth(6)).toHaveText("4");
  await page.getByRole("tab", { name: "Bars" }).click();
  const plan = page.getByRole("region", { name: "bars of SHS 80x80x4" });
  await expect(plan).toContainText("no plan buys less");
  await expect(plan.locator("polygon")).toHaveCount(9);
  // The frame is pulled apart by the slider; joints are hidden then.
  await expect(page.locator(".bubble")).toHaveCount(8);
  await page.getByRole("slider", { name: "pulled apart" }).focus();
  await page.keyboard.press("End");
  await expect(page.locator(".bubble")).toHaveCount(0);
});

test("members are drawn with the pencil on the working plane; nodes come in from a CSV", async ({
  page,
}) => {
  await freshFrame(page);
  await page.getByRole("button", { name: "pencil" }).click();
  await page.getByLabel("working plane").selectOption("front");
  const stage = (await page.locator(".stage").boundingBox())!;
  const at = (x: number, y: number) =>
    page.mouse.click(stage.x + stage.width * x, stage.y + stage.height * y);
  await at(0.4, 0.5);
  await expect(page.locator("[data-line=node-1]")).toBeVisible();
  await at(0.6, 0.5);
  await expect(page.locator("[data-line=rail-1]")).toContainText("along");
  await expect(page.getByRole("table", { name: "cut list" }).locator("tbody tr")).toHaveCount(1);
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await expect(page.getByLabel("working plane")).toHaveCount(0);
  await page.getByLabel("nodes from CSV").setInputFiles({
    name: "bay.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(
      "kind,name,x,y,z\nnode,P,0,900,0\nnode,R,700,900,0\nmember,brace,P R,48.3x3\nbeam,oops\n",
    ),
  });
  await expect(page.getByText("row 5: 'beam' is neither node nor member")).toBeVisible();
  await expect(page.getByRole("table", { name: "cut list" })).toContainText("CHS 48.3x3");
});

test("an arch on posts by typed lines: its length, its section as published, a larger picture, undo", async ({
  page,
}) => {
  await freshFrame(page);
  for (const line of [
    "node B from A up 600",
    "node C from B east 800",
    "node D from C down 600",
    "node M from B east 400 up 300",
  ]) {
    if (line.startsWith("node B")) await say(page, "node A 0 0 0");
    await say(page, line);
  }
  for (const line of ["post A B", "post D C", "rail from B M C, 48.3x3, arc", "sill A D L 60x40x5"])
    await say(page, line);
  // R = c²/8s + s/2 = 416.67 by chord and rise; the centreline is 2·R·asin(400/R).
  const sentence = page.locator("[data-line=rail-1]");
  await expect(sentence).toContainText("as one arc through them");
  const arc = page
    .getByRole("table", { name: "cut list" })
    .locator("tbody tr")
    .filter({ hasText: "CHS 48.3x3" });
  const centre = Number(await arc.locator("td").nth(8).textContent());
  const radius = 800 ** 2 / (8 * 300) + 150;
  expect(Math.abs(centre - 2 * radius * Math.asin(400 / radius))).toBeLessThan(0.06);
  // Straight legs instead, and back.
  await sentence.getByLabel("way").selectOption("false");
  await expect(arc.locator("td").nth(2)).toHaveText("2");
  await page.locator(".recipe > [data-line]").first().focus();
  await page.keyboard.press("Control+z");
  await expect(sentence).toContainText("as one arc through them");
  await expect(arc.locator("td").nth(2)).toHaveText("1");
  await page.getByRole("tab", { name: /^Sections \d+$/ }).click();
  const card = page.getByRole("region", { name: "SHS 60x60x3" });
  await expect(card.getByRole("row", { name: /^mass/ })).toContainText("kg/m");
  await expect(card.getByRole("row", { name: /^mass/ })).toContainText("%");
  await expect(page.getByRole("region", { name: "L 60x40x5" })).toContainText("centroid from the left");
  const stage = page.locator(".stage");
  const before = (await stage.boundingBox())!.height;
  await page.getByRole("button", { name: "larger picture" }).click();
  await expect(page.getByRole("region", { name: "L 60x40x5" })).toHaveCount(0);
  expect((await stage.boundingBox())!.height).toBeGreaterThan(before * 1.5);
  await page.getByRole("tab", { name: "Cut list" }).click();
  await expect(arc).toBeVisible();
});

test("a post on an arch with its foot: the plate moves the post; its skeleton comes in elsewhere", async ({
  page,
}) => {
  await freshFrame(page);
  for (const line of [
    "node A -600 0 1000",
    "node M 0 0 1300",
    "node B 600 0 1000",
    "rail A M B 48.3x3 arc",
    "node P on rail-1, 1/2 of the way",
    "node Q from P down 700",
    "post Q P 40x40x3",
  ])
    await say(page, line);
  const post = page
    .getByRole("table", { name: "cut list" })
    .locator("tbody tr")
    .filter({ hasText: "SHS 40x40x3" })
    .first();
  await expect(page.locator("[data-line=node-4]")).toContainText("on");
  // The top of the arch is M: the post ends at the tube under it, 24.15 below, and a foot of 8 takes 8 off.
  const length = async () => Number(await post.locator("td").nth(4).textContent());
  const before = await length();
  await say(page, "foot Q 120 x 100 thick 8 hole 11");
  await expect.poll(length).toBeCloseTo(before - 8, 1);
  const list = page.getByRole("table", { name: "cut list" });
  await expect(list).toContainText("plate 8");
  await expect(list).toContainText("120.0 × 100.0");
  const foot = page.locator(".recipe > [data-line]").last();
  await foot.getByLabel("thickness").fill("15");
  await expect.poll(length).toBeCloseTo(before - 15, 1);
  await expect(list).toContainText("plate 15");
  await page.locator(".recipe > [data-line]").first().focus();
  await page.keyboard.press("Control+z");
  await expect.poll(length).toBeCloseTo(before - 8, 1);
  // A part of the way that the arch has not is refused at its field, and the rest stands.
  const on = page.locator("[data-line=node-4]");
  await on.getByLabel(/^at(, |$)/).fill("3/2");
  await expect(on.getByLabel(/^at(, |$)/)).toHaveAttribute("aria-invalid", "true");
  await expect(list).toContainText("CHS 48.3x3");
  await on.getByLabel(/^at(, |$)/).fill("1/4");
  await expect(on.getByLabel(/^at(, |$)/)).not.toHaveAttribute("aria-invalid", "true");
  await saved(page);
  const arch = (frame: string) =>
    list
      .locator("tbody tr")
      .filter({ hasText: "CHS 48.3x3" })
      .filter({ has: page.locator(`input[value^="${frame}"]`) });
  const told = await arch("F-1").locator("td").nth(4).textContent();
  await page.getByRole("link", { name: "Papers" }).click();
  await page.getByRole("button", { name: "F-1", exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Skeleton (CSV)" }).click(),
  ]);
  const file = await readFile(await download.path());
  expect(file.toString()).toContain("arc");
  await page.getByRole("link", { name: "Frame", exact: true }).click();
  await page.getByRole("button", { name: "+ frame" }).click();
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
  await page
    .getByLabel("nodes from CSV")
    .setInputFiles({ name: "skeleton.csv", mimeType: "text/csv", buffer: file });
  await expect(arch("F-2").locator("td").nth(4)).toHaveText(told!);
});

test("a frame in inches: fractions in the list, own stock in the bars, a plan that follows it", async ({
  page,
}) => {
  await page.goto("/");
  const made = await page.request.post("/api/jobs", {
    data: {
      format: 1,
      title: "Bench in inches",
      number: "J-77",
      display: { length: "in", inches: "1/16" },
      frames: [
        {
          id: "f-1",
          mark: "B-1",
          name: "bench",
          quantity: "2",
          material: "s235",
          section: "HSS 2x2x1/8",
          lines: [
            { id: "n-1", say: { verb: "node", name: "A", x: "0", y: "0", z: "0" } },
            { id: "n-2", say: { verb: "node", name: "B", x: "4'", y: "0", z: "0" } },
            { id: "n-3", say: { verb: "node", name: "C", x: "4'", y: "2'", z: "0" } },
            { id: "n-4", say: { verb: "node", name: "D", x: "0", y: "2'", z: "0" } },
            {
              id: "rail-1",
              say: { verb: "members", name: "rail", path: ["A", "B", "C", "D"], closed: true },
            },
          ],
        },
      ],
    },
  });
  expect(made.ok()).toBe(true);
  await page.goto(`/jobs/${(await made.json()).id}/frames`);
  const list = page.getByRole("table", { name: "cut list" });
  // 48 and 24 between centrelines, 2 in square, mitred: 50 and 26 from long point to long point; two frames.
  for (const [length, quantity] of [
    ["50", "4"],
    ["26", "4"],
  ] as const) {
    const row = list
      .locator("tbody tr")
      .filter({ has: page.locator("td.strong").filter({ hasText: new RegExp(`^${length}(″|"|$)`) }) });
    await expect(row.locator("td").nth(2)).toHaveText(quantity);
    await expect(row.locator("td").nth(5)).toHaveText("45°");
  }
  await page.getByRole("tab", { name: "Bars" }).click();
  const plan = page.getByRole("region", { name: /bars of HSS 2x2x1\/8/ });
  await expect(plan).toContainText("Buy");
  // Bars of 5 ft only: each long rail takes one, two short ones share one.
  await page.getByRole("button", { name: "+ bar" }).click();
  await page.getByLabel("length, bar 1").fill("5ft");
  await expect(plan.locator("b").first()).toHaveText(/^6 ×/);
  // Too short for the long rails: they are told, the others are laid.
  await page.getByLabel("length, bar 1").fill("3ft");
  await expect(plan).toContainText("longer than any bar: 4 × B-1/1");
  await expect(plan.locator("b").first()).toHaveText(/^4 ×/);
});

test("a hopper from its picture: four plates, list and DXF; its sizes typed letter by letter", async ({
  page,
}) => {
  await freshFrame(page);
  await page.keyboard.press("o");
  await expect(page.locator("[data-line=hopper-1]")).toContainText("Hopper");
  const plates = page.getByRole("table", { name: "cut list" }).locator("tbody tr");
  // Level and in the middle: two of each, by Pythagoras.
  await expect(plates.nth(0)).toContainText("800.0 × 531.4");
  await expect(plates.nth(1)).toContainText("600.0 × 554.6");
  await expect(page.getByText(/in every corner 98.4° inside, a groove of 81.6° outside/)).toBeVisible();
  const high = page.getByLabel("height, hopper-1");
  await high.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("400 + 200", { delay: 60 });
  await expect(high).toBeFocused();
  await expect(plates.nth(0)).toContainText("626.4");
  // Its back rises: front and back are one each, the sides a pair.
  await page.getByLabel("height of one side, hopper-1").click();
  await page.keyboard.type("750", { delay: 60 });
  await expect(page.getByText(/south–east/)).toBeVisible();
  await expect(plates.nth(0).locator("td").nth(2)).toHaveText("1");
  // Flanges round its rim, with holes and a ring.
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await page.keyboard.press("e");
  const rim = page.locator("[data-line=rim-1]");
  await expect(rim).toContainText("Rim");
  for (const [field, text] of [
    ["holes, rim-1", "14"],
    ["holes a side, rim-1", "5"],
    ["counter-flange, rim-1", "4 + 4"],
  ] as const) {
    await page.getByLabel(field).click();
    await page.keyboard.type(text, { delay: 60 });
    await expect(page.getByLabel(field)).toBeFocused();
  }
  // Bent, the two sides are hands of one another.
  await expect(plates).toHaveCount(5);
  await expect(plates.nth(4).locator(`input[value="counter-flange"]`)).toBeVisible();
  await expect(plates.nth(4)).toContainText("plate 8");
  await saved(page);
  const id = page.url().split("/jobs/")[1]?.split("/")[0];
  await page.getByRole("link", { name: "Papers" }).click();
  await page.getByRole("button", { name: "F-1", exact: true }).click();
  const link = page.getByRole("link", { name: "DXF of its plates (zip)" });
  await expect(link).toBeVisible();
  const all = await page.request.get((await link.getAttribute("href")) ?? "");
  const zip = (await all.body()).toString("latin1");
  // Front, sides, back and the ring, each file once with its count.
  const names = new Set(zip.match(/F-1-P\d[^/]*?_x\d\.dxf/g));
  expect([...names].map((n) => n.slice(-6))).toEqual(Array(5).fill("x1.dxf"));
  const file = await page.request.get(
    `/api/jobs/${id}/papers/dxf?piece=${encodeURIComponent("frame-1.hopper-1.south")}`,
  );
  expect(file.ok()).toBe(true);
  const dxf = await file.text();
  expect(dxf).toContain("LWPOLYLINE");
  expect(dxf.match(/\nCIRCLE\r?\n/g)).toHaveLength(5);
});

test("ribs of a profile, typed letter by letter: their count, bars and spacers in the list", async ({
  page,
}) => {
  await page.goto("/");
  const made = await page.request.post("/api/jobs", {
    data: {
      format: 1,
      title: "Drying bench",
      number: "J-78",
      pieces: [
        {
          id: "rib",
          mark: "P-30",
          name: "rib",
          quantity: "0",
          material: "plywood",
          thickness: "18",
          lines: [
            { id: "start-1", say: { verb: "start_plate", width: "480", height: "420" } },
            { id: "round-1", say: { verb: "round", treatment: "radius", size: "60", corners: [] } },
          ],
        },
      ],
      frames: [
        {
          id: "f-1",
          mark: "F-1",
          name: "bench",
          quantity: "1",
          material: "s235",
          section: "SHS 40x40x3",
          lines: [],
        },
      ],
    },
  });
  expect(made.ok()).toBe(true);
  await page.goto(`/jobs/${(await made.json()).id}/frames/f-1`);
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
  const line = async (text: string) => {
    await page.locator("#short-text").click();
    await page.keyboard.type(text, { delay: 20 });
    await page.keyboard.press("Enter");
  };
  await line("ribs P-30, 24 off, over 1200");
  const rows = page.getByRole("table", { name: "cut list" }).locator("tbody tr");
  await expect(rows.nth(0)).toContainText("480.0 × 420.0");
  await expect(rows.nth(0).locator("td").nth(2)).toHaveText("24");
  await line(
    "through ribs-1: CHS 26.9x2.3, 90 from west, overhang 40, clearance 1, spacers CHS 33.7x2.6",
  );
  await expect(rows.filter({ hasText: "tube 33.7 × 2.6" }).locator("td").nth(2)).toHaveText("23");
  await expect(rows.nth(0)).toContainText("1280.0");
  await expect(page.getByText(/24 ribs 18 thick every 51.4 mm, 33.4 mm between/)).toBeVisible();
  // A rail in their backs; where the bar runs it is said that it cannot.
  await line("lap ribs-1: rail 60 x 18 into north, fit 0.3");
  await expect(rows.filter({ hasText: "1200.0 × 60.0" })).toContainText("plate 18");
  const lap = page.locator("[data-line=lap-1]");
  await lap.getByLabel("side of the profile, lap-1").selectOption("west");
  await expect(rows.filter({ hasText: "1200.0 × 60.0" })).toContainText("plate 18");
  await lap.getByLabel("depth, lap-1").click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("160", { delay: 60 });
  await expect(lap.getByText(/runs into a hole or a bar of rib 1/)).toBeVisible();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("50", { delay: 60 });
  await expect(rows.filter({ hasText: "1200.0 × 50.0" })).toContainText("plate 18");
  // Too many for their length: said at the line, and the rest stands.
  const count = page.getByLabel("ribs, ribs-1");
  await count.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("70", { delay: 60 });
  await expect(page.locator("[data-line=ribs-1]").getByText(/touch/)).toBeVisible();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("12", { delay: 60 });
  await expect(rows.filter({ hasText: "tube 33.7 × 2.6" }).locator("td").nth(2)).toHaveText("11");
  // The profile itself is in no list.
  await page.getByRole("link", { name: "Papers" }).click();
  await expect(page.getByRole("heading", { name: "Papers" })).toBeVisible();
  await expect(page.getByRole("row", { name: /P-30/ })).toHaveCount(0);
});
