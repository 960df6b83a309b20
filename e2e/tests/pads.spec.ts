// A plate with a block on it, and a bar that was drawn from the side: said, listed, taken away.
import DxfParser from "dxf-parser";
import { expect, figure, fresh, saved, test } from "./common";

test("a block is laid on a plate and cut as a piece of its own; a bar's side view becomes a strip", async ({
  page,
}) => {
  await fresh(page);
  const typed = page.getByLabel("type a line");
  const say = async (text: string) => {
    await typed.click();
    await page.keyboard.type(text, { delay: 15 });
    await page.keyboard.press("Enter");
  };
  await say("plate 300 x 180");
  await expect(figure(page, "flat_length")).toHaveText("300.0 mm");
  await say("pad rectangle 150 x 40, 18 thick of oak, 0 clear of north");
  await expect(page.locator(".line")).toHaveCount(2);
  // 300 × 180 × 3 of steel, 150 × 40 × 18 of oak.
  await expect(figure(page, "mass")).toHaveText("1.272 kg");
  await expect(figure(page, "mass_with_pads")).toHaveText("1.347 kg");
  // Off the plate it is told so, and is not counted.
  const up = page.getByLabel("distance up, pad-1");
  await up.fill("-200");
  await expect(page.locator(".findings")).toContainText("pad-1 lies on no sheet");
  await expect(figure(page, "mass_with_pads")).toHaveCount(0);
  await up.fill("0");
  await expect(figure(page, "mass_with_pads")).toHaveText("1.347 kg");
  // A bar drawn from the side.
  await page.getByRole("button", { name: "+ piece" }).click();
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
  await page.getByLabel("thickness").fill("40");
  await say(
    "contour line 120 east, arc left R65 90°, line 80 north, line 10 west, line 80 south, " +
      "arc right R55 90°, line 120 west, close",
  );
  await expect(page.locator(".findings")).toContainText("a bar 10.0 × 40.0 mm, bent once");
  await page.getByRole("button", { name: "make it a bent strip" }).click();
  await expect(page.getByLabel("thickness")).toHaveValue("10");
  await expect(page.locator(".line").first()).toContainText("Start with a strip");
  await expect(figure(page, "formed_size")).toHaveText("185.0 × 40.0 × 145.0 mm");
  await saved(page);
  const [, job] = page.url().match(/jobs\/([^/]+)\//)!;
  await page.getByRole("link", { name: "Papers" }).click();
  const row = page.getByRole("row", { name: /P-101\/B1/ });
  await expect(row).toContainText("Oak");
  await expect(row).toContainText("150.0 × 40.0");
  await row.getByRole("button", { name: "P-101/B1" }).click();
  const text = await page.request.get(`/api/jobs/${job}/papers/dxf?piece=P-101/B1`);
  const dxf = new DxfParser().parseSync(await text.text())!;
  const shape = dxf.entities.find((e) => e.layer === "CUT") as unknown as {
    vertices: { x: number; y: number }[];
  };
  const span = (of: "x" | "y") => {
    const all = shape.vertices.map((v) => v[of]);
    return Math.max(...all) - Math.min(...all);
  };
  expect([span("x"), span("y")].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([150, 40]);
});
