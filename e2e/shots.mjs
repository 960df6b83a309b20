// docs/screenshots from the demo data, one for each main view.
import { withDemo } from "./serve.mjs";

await withDemo(7997, async (page, base, job) => {
  const shot = async (name, url, ready, act) => {
    await page.goto(url);
    await page.locator(ready).first().waitFor();
    await page.waitForTimeout(1200);
    await act?.();
    await page.waitForTimeout(400);
    await page.screenshot({ path: `../docs/screenshots/${name}.png` });
  };
  await shot("rack", base, ".ticket img");
  await shot("brief", `${job}/briefs/brief-2`, ".checks", async () => {
    await page.getByRole("button", { name: "what is not checked?" }).click();
    await page.locator(".unchecked ul").waitFor();
  });
  await shot("bench", `${job}/pieces/stand`, "[data-figure=mass]");
  await shot("working", `${job}/pieces/hat`, "[data-figure=mass]", () =>
    page.locator("[data-figure=flat_length]").click(),
  );
  await shot("folding", `${job}/pieces/cradle`, "[data-figure=mass]", async () => {
    await page.getByRole("slider").focus();
    await page.keyboard.press("Home");
    for (let i = 0; i < 150; i++) await page.keyboard.press("ArrowRight");
  });
  await shot("holes", `${job}/pieces/foot`, "[data-figure=mass]");
  await shot("enclosure", `${job}/pieces/box`, "[data-figure=mass]");
  await shot("text", `${job}/pieces/box`, "[data-figure=mass]", async () => {
    await page.getByRole("button", { name: "as text" }).click();
    await page.getByLabel("piece as text").waitFor();
    await page.waitForTimeout(500);
  });
  await shot("settings", `${job}/pieces/box`, "[data-figure=mass]", async () => {
    await page.getByText("Job figures and settings").click();
    for (const part of ["Bend table, test bends", "Materials of the shop"])
      await page.getByText(part).click();
    await page.locator(".job-settings").evaluate((e) => e.scrollIntoView({ block: "start" }));
  });
  await shot("bends", `${job}/pieces/trough`, "[data-figure=mass]", () =>
    page.getByRole("tab", { name: /^Bends/ }).click(),
  );
  await shot("tray", `${job}/pieces/tray`, "[data-figure=mass]");
  await shot("drum", `${job}/pieces/drum`, "[data-figure=mass]");
  await shot("door", `${job}/pieces/door`, "[data-figure=mass]");
  await shot("frame", `${job}/frames/frame-1`, "[data-figure=mass]", () =>
    page.locator(".cut-table tbody tr").nth(5).hover(),
  );
  await shot("bars", `${job}/frames/frame-1`, "[data-figure=mass]", async () => {
    await page.getByRole("tab", { name: "Bars" }).click();
    await page.locator(".bar-plan").first().waitFor();
  });
  await shot("sections", `${job}/frames/frame-1`, "[data-figure=mass]", async () => {
    await page.getByRole("tab", { name: /^Sections \d/ }).click();
    await page.locator(".section-card").first().waitFor();
  });
  await shot("frame-papers", `${job}/papers`, ".sheet img", async () => {
    await page.getByRole("button", { name: "F-1", exact: true }).click();
    await page.locator(".sheet.page img").waitFor();
    await page.locator(".sheet.page").scrollIntoViewIfNeeded();
  });
  await shot("inches-dark", `${job}/pieces/motor`, "[data-figure=mass]", async () => {
    await page.getByRole("button", { name: "switch to dark" }).click();
    await page.locator(".flat .hole").last().hover();
  });
  await page.evaluate(() => localStorage.clear());
  await shot("papers", `${job}/papers`, ".sheet img", async () => {
    await page.getByRole("button", { name: "P-109" }).click();
    await page.getByRole("tab", { name: "Bend sheet", exact: true }).click();
  });
});
