// The tour of the bench: every step does something on the real piece, Escape takes it back, leaving restores.
import { demoJob, expect, figure, test } from "./common";

test("the tour drives the bench, each step undone by Escape; left midway the piece is as it was", async ({
  page,
}) => {
  const id = await demoJob(page);
  await page.goto(`/jobs/${id}/briefs`);
  await page.getByRole("button", { name: "take the tour" }).click();
  const tour = page.locator(".tour");
  // By its words: a working that is open hides all else from the roles.
  const next = () => tour.locator("button", { hasText: "next" }).click();
  const lines = page.locator(".recipe > [data-line]");
  await expect(tour).toContainText("1 of 12");
  await expect(tour).toContainText("The drawing says");
  await expect(lines).toHaveCount(2);
  const flat = figure(page, "flat_length");
  const was = await flat.textContent();
  await next();
  // What the tour says is what the bench shows.
  await expect(tour).toContainText(`Its flat is ${was}`);
  await next();
  await expect(page.getByRole("article", { name: "working of Flat length" })).toBeVisible();
  await next();
  await expect(page.getByRole("article", { name: /^working/ })).toHaveCount(0);
  await next();
  await expect(flat).not.toHaveText(was!);
  await expect(tour).toContainText(`with R6 the flat is ${await flat.textContent()}`);
  await page.keyboard.press("Escape");
  await expect(flat).toHaveText(was!);
  await next();
  await next();
  await expect(flat).toHaveText(was!);
  await next();
  await expect(lines).toHaveCount(3);
  await next();
  const warned = page.locator(".findings li", { hasText: "bend" });
  await expect(warned.first()).toBeVisible();
  const troubles = await warned.count();
  await next();
  await expect(warned).toHaveCount(troubles - 1);
  await page.keyboard.press("Escape");
  await expect(warned).toHaveCount(troubles);
  await next();
  await next();
  await expect(lines).toHaveCount(4);
  await expect(figure(page, "pierces")).toHaveText("4");
  await next();
  await expect(tour).toContainText(`Mass ${await figure(page, "mass").textContent()}`);
  await tour.getByRole("button", { name: "leave" }).click();
  await expect(tour).toHaveCount(0);
  await expect(lines).toHaveCount(2);
  await expect(flat).toHaveText(was!);
  await expect(page.getByText("the piece is as it was")).toBeVisible();
  // What a hand changes on the way stays.
  await page.getByRole("button", { name: "take the tour" }).click();
  for (let i = 0; i < 4; i++) await next();
  await page.getByLabel("thickness").fill("2.5");
  await tour.getByRole("button", { name: "leave" }).click();
  await expect(page.getByText("changed by hand")).toBeVisible();
  await expect(page.getByLabel("thickness")).toHaveValue("2.5");
});
