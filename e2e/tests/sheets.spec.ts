// The drawing beside its figures: kept, turned, paged, its figures pinned to where they stand on it.
import { demoJob, expect, saved, test } from "./common";

test("a PDF is kept beside a brief, a figure is pinned on it and stays through turning and the text", async ({
  page,
}) => {
  const id = await demoJob(page);
  const pdf = await (await page.request.get(`/api/jobs/${id}/papers/template?piece=P-101`)).body();
  await page.goto(`/jobs/${id}/briefs/brief-2`);
  await page.getByRole("tab", { name: "Drawing" }).click();
  await expect(page.getByText("Keep the drawing beside its figures")).toBeVisible();
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "Bring the drawing in" }).click(),
  ]);
  await chooser.setFiles({ name: "stand.pdf", mimeType: "application/pdf", buffer: pdf });
  const sheet = page.getByRole("application", { name: /^stand\.pdf/ });
  await expect(sheet.locator("image")).toBeVisible();
  await expect(page.getByText("page 1 of 2")).toBeVisible();
  // Nothing picked: a click pins nothing.
  const box = (await sheet.locator("image").boundingBox())!;
  await page.mouse.click(box.x + box.width * 0.25, box.y + box.height * 0.3);
  await expect(sheet.getByRole("button")).toHaveCount(0);
  await page.locator(".checks tbody tr").first().getByRole("button").first().click();
  await page.mouse.click(box.x + box.width * 0.25, box.y + box.height * 0.3);
  const pin = sheet.getByRole("button", { name: "size-1, met" });
  await expect(pin).toBeVisible();
  // The drawing stands still under the hand, whatever is said beside it.
  expect(await sheet.locator("image").boundingBox()).toEqual(box);
  // Turned by a quarter with the clock: what lay left of the middle and above it lies above it and right.
  await page.getByRole("button", { name: "turn", exact: true }).click();
  await expect(async () => {
    const [turned, at] = [
      (await sheet.locator("image").boundingBox())!,
      (await pin.locator("circle").boundingBox())!,
    ];
    expect((at.x + 4 - turned.x) / turned.width).toBeCloseTo(0.7, 1);
    expect((at.y + 4 - turned.y) / turned.height).toBeCloseTo(0.25, 1);
  }).toPass({ timeout: 10_000 });
  // A figure changed in the text keeps its pin.
  await page.getByRole("button", { name: "as text" }).click();
  const text = page.getByLabel("brief as text");
  await expect(text).toHaveValue(/1\/32/);
  await text.fill((await text.inputValue()).replace("1/32", "1/16"));
  await page.getByRole("button", { name: "Take over" }).click();
  await expect(pin).toBeVisible();
  await page.getByRole("button", { name: "undo" }).click();
  await page.getByRole("button", { name: "undo" }).click();
  await page.getByRole("button", { name: "undo" }).click();
  await expect(pin).toHaveCount(0);
  await saved(page);
  await page.reload();
  await page.getByRole("tab", { name: "Drawing" }).click();
  await expect(sheet.locator("image")).toBeVisible();
});
