import { readFile } from "node:fs/promises";
import DxfParser from "dxf-parser";
import { demo, expect, figure, fresh, saved, test } from "./common";

test("a leg of the stand is changed: views, size and mass follow, undo brings them back", async ({
  page,
}) => {
  await demo(page, "stand");
  await expect(figure(page, "flat_length")).toHaveText("419.1 mm");
  const before = await page.locator(".flat .outline").getAttribute("d");
  await page.getByLabel("length of leg b").fill("270");
  await expect(figure(page, "flat_length")).toHaveText("429.1 mm");
  await expect(page.locator(".flat .dim text", { hasText: "429.1" })).toBeVisible();
  expect(await page.locator(".flat .outline").getAttribute("d")).not.toBe(before);
  await saved(page);
  await page.reload();
  await expect(figure(page, "flat_length")).toHaveText("429.1 mm");
  await page.getByLabel("length of leg b").fill("260");
  await expect(figure(page, "flat_length")).toHaveText("419.1 mm");
  await page.keyboard.press("Control+z");
  await expect(figure(page, "flat_length")).toHaveText("429.1 mm");
  await page.keyboard.press("Control+Shift+z");
  await expect(figure(page, "flat_length")).toHaveText("419.1 mm");
  await saved(page);
});

test("a piece is built from nothing by keyboard alone", async ({ page }) => {
  await fresh(page);
  await page.keyboard.press("a");
  await expect(figure(page, "flat_length")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByLabel("length of leg a").focus();
  await page.keyboard.type("40");
  // Tab goes from value to value; a bend's own radius is left as the piece's.
  await page.getByLabel("length of leg b").focus();
  await page.keyboard.type("60");
  await page.getByLabel("thickness").focus();
  await page.keyboard.type("2");
  await page.getByLabel("inside radius").focus();
  await page.keyboard.type("2");
  // DIN 6935: 40 + 60 − 3.837.
  await expect(figure(page, "flat_length")).toHaveText("96.2 mm");
  await page.keyboard.press("Escape");
  await page.locator("[data-line=start-1]").focus();
  await page.keyboard.press("h");
  await expect(page.getByLabel("diameter, punch-3")).toBeFocused();
  await page.keyboard.type("6");
  await expect(figure(page, "pierces")).toHaveText("4");
  await page.keyboard.press("Escape");
  await page.keyboard.press(" ");
  await expect(figure(page, "pierces")).toHaveText("3");
  await page.keyboard.press("ArrowUp");
  await expect(page.locator("[data-line=start-1]")).toBeFocused();
  await page.keyboard.press("/");
  await page.keyboard.type("slot 10 x 5 at 20 from west, 8 from south");
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-line=punch-4]")).toBeVisible();
  await expect(figure(page, "pierces")).toHaveText("4");
});

test("a plate is built by mouse: clicked panel, clicked hole, clicked corner, and a mend", async ({
  page,
}) => {
  await fresh(page);
  await page.getByRole("button", { name: /Start with a plate/ }).click();
  await expect(figure(page, "area").or(figure(page, "mass"))).toBeVisible();
  const flat = page.locator("svg.flat .material");
  const box = (await flat.boundingBox())!;
  await page.mouse.click(box.x + box.width * 0.15, box.y + box.height * 0.8);
  await page.getByRole("menuitem", { name: /Punch a round hole here/ }).click();
  await expect(page.locator("[data-line=punch-1]")).toContainText("from");
  await expect(figure(page, "pierces")).toHaveText("2");
  await page.locator("svg.flat .hole").first().click();
  await page.getByRole("menuitem", { name: /Repeat punch-1 to the east/ }).click();
  await page.locator("[data-line=repeat-1]").getByLabel("count").fill("4");
  await expect(figure(page, "pierces")).toHaveText("5");
  await page.locator("svg.flat .corner").first().click();
  await page.getByRole("menuitem", { name: /^Chamfer corner/ }).click();
  await expect(page.locator("[data-line=round-1]")).toContainText("Chamfer");
  await page.getByRole("button", { name: /round them R/ }).click();
  await expect(page.locator("[data-line=round-2]")).toBeVisible();
  await expect(page.getByText("corners are left sharp")).toHaveCount(0);
});

test("a value that cannot be read says why in its line, and the rest stands", async ({ page }) => {
  await demo(page, "base");
  const size = page.locator("[data-line=punch-1]").getByLabel("diameter");
  await size.fill("bolt + 90deg");
  await expect(page.locator("[data-line=punch-1] .fault")).toContainText(
    "an angle stands where a length belongs",
  );
  await expect(page.locator("[data-line=punch-1] .fault mark")).toHaveText("bolt + 90deg");
  await size.fill("9 + boltt");
  await expect(page.locator("[data-line=punch-1] .fault mark")).toHaveText("boltt");
  await expect(figure(page, "flat_length")).toHaveText("260.0 mm");
  await size.fill("bolt + 2");
  await expect(page.locator("[data-line=punch-1] .fault")).toHaveCount(0);
  await saved(page);
});

test("the working of the flat length can be followed down to the allowance", async ({ page }) => {
  await demo(page, "hat");
  await page.locator("[data-figure=flat_length]").click();
  const slip = page.getByRole("article");
  await expect(slip).toContainText("25 + 40 + 60 + 40 + 25 − (2.654 + 2.654 + 2.654 + 2.654) = 179.383");
  await slip.getByRole("button", { name: "how?" }).first().click();
  await expect(slip).toContainText("2·3 − 3.346 = 2.654");
  await slip.getByRole("button", { name: "how?" }).first().click();
  await expect(slip).toContainText("90·π/180·(1.5 + 0.42·1.5) = 3.3458");
});

test("the DXF is taken away and holds the flat in millimetres", async ({ page }) => {
  const id = await demo(page, "stand");
  await page.goto(`/jobs/${id}/papers`);
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "DXF for the cutter" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("P-101_S235-steel_4mm_x4.dxf");
  const dxf = new DxfParser().parseSync(await readFile((await download.path())!, "utf8"))!;
  expect(dxf.header.$INSUNITS).toBe(4);
  const on = (layer: string) => dxf.entities.filter((e) => e.layer === layer);
  // A slot of 14 crosses the first bend of the 60 wide strip: two parts of 23.
  const parts = on("BEND_UP")
    .map((e) => ("vertices" in e ? (e.vertices as { y: number }[]).map((v) => v.y) : []))
    .map(([a, b]) => Math.abs(a! - b!));
  expect(parts).toEqual([23, 23]);
  expect(on("BEND_DOWN").length).toBe(1);
  const xs = on("CUT").flatMap((e) =>
    "vertices" in e ? (e.vertices as { x: number }[]).map((v) => v.x) : [],
  );
  // DIN 6935 by hand: t 4, r 5, 75° twice; k = 0.65 + 0.5·lg(5/4), BD = 2·9·tan 37.5° − α·(5 + k·2).
  const bd =
    18 * Math.tan(Math.PI * (37.5 / 180)) -
    ((75 * Math.PI) / 180) * (5 + (0.65 + 0.5 * Math.log10(1.25)) * 2);
  expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(90 + 260 + 80 - 2 * bd, 6);
  expect(on("CUT").filter((e) => e.type === "CIRCLE").length).toBe(2);
  const pdf = await page.request.get(`/api/jobs/${id}/papers/template?piece=stand&paper=A3`);
  expect((await pdf.body()).subarray(0, 4).toString()).toBe("%PDF");
  await expect(page.locator(".sheet img")).toBeVisible();
});

test("the folding on the screen is the folding of the core", async ({ page }) => {
  const id = await demo(page, "stand");
  const job = (await (await page.request.get(`/api/jobs/${id}`)).json()).job;
  const got = await (await page.request.post("/api/evaluate", { data: { job, piece: "stand" } })).json();
  const { formed, frames } = await import("../../web/src/viewers/formed/fold.ts");
  const { mesh: unpacked } = await import("../../web/src/evaluation/decode.ts");
  // A cone is in no sample piece: the part of one is added to the draft that is evaluated, not to the job.
  const cone = { verb: "start_cone", wide: "300", narrow: "120", height: "200", angle: "240" };
  job.pieces.push({
    id: "cone",
    mark: "C",
    name: "cone",
    quantity: "1",
    material: "s235",
    thickness: "2",
    lines: [{ id: "start-1", say: cone }],
  });
  // A cone is told by its size on its end: its axis leans by half the angle at the tip. Chords of its narrow
  // rim reach a twentieth of a mm in.
  const half = Math.atan2(90, 200);
  const upright = (p: number[]) => [
    p[1]!,
    p[2]! * Math.cos(half) - p[0]! * Math.sin(half),
    p[0]! * Math.cos(half) + p[2]! * Math.sin(half),
  ];
  for (const name of ["stand", "cradle", "box", "tray", "cone"]) {
    const piece =
      name === "stand"
        ? got.piece
        : (await (await page.request.post("/api/evaluate", { data: { job, piece: name } })).json()).piece;
    const mesh = unpacked(piece.mesh);
    const at = frames(
      piece.zones,
      piece.zones.map(() => 1),
      piece.thickness,
    );
    const [low, high] = [
      [1e9, 1e9, 1e9],
      [-1e9, -1e9, -1e9],
    ];
    for (let i = 0; i < mesh.zones.length; i++) {
      for (const z of [0, piece.thickness]) {
        const zone = mesh.zones[i]!;
        const there = formed(
          piece.zones[zone],
          at[zone]!,
          1,
          piece.thickness,
          mesh.points[2 * i]!,
          mesh.points[2 * i + 1]!,
          z,
        );
        const p = name === "cone" ? upright(there) : there;
        p.forEach((v, k) => {
          low[k] = Math.min(low[k]!, v);
          high[k] = Math.max(high[k]!, v);
        });
      }
    }
    const value = (key: string) => piece.figures.find((f: { key: string }) => f.key === key).value;
    for (const [k, key] of ["formed_x", "formed_y", "formed_z"].entries())
      expect(high[k]! - low[k]!).toBeCloseTo(value(key), name === "cone" ? 1 : 2);
  }
});

test("jobs are copied and archived, and come back", async ({ page }) => {
  await page.goto("/");
  const ticket = page.locator(".ticket", { hasText: "J-014" }).first();
  await ticket.getByRole("button", { name: "copy" }).click();
  const copy = page.locator(".ticket", { hasText: "(copy)" });
  await expect(copy).toHaveCount(1);
  await copy.getByRole("button", { name: "archive" }).click();
  await expect(copy).toHaveCount(0);
  await page.getByRole("button", { name: "put it back" }).click();
  await expect(copy).toHaveCount(1);
});
