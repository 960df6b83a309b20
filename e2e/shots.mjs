// docs/screenshots from the demo data, one for each main view.
import { withDemo } from "./serve.mjs";

/**
 * A plate as drawings come: a gap, a side drawn twice in part, a circle of chords, a bend line, notes, a
 * second part.
 */
function drawing() {
  const line = (layer, x0, y0, x1, y1) =>
    `0\nLINE\n8\n${layer}\n10\n${x0}\n20\n${y0}\n11\n${x1}\n21\n${y1}\n`;
  const circle = (x, y, r) => `0\nCIRCLE\n8\nHOLES\n10\n${x}\n20\n${y}\n40\n${r}\n`;
  const plate =
    line("CUT", 0, 0, 180, 0) +
    line("CUT", 180, 0, 180, 110) +
    line("CUT", 180, 110, 0, 110) +
    line("CUT", 0, 110, 0, 0.8) +
    line("CUT", 100, 0, 40, 0);
  const chords = Array.from({ length: 60 }, (_, k) => {
    const t = (2 * Math.PI * k) / 60;
    return `10\n${75 + 25 * Math.cos(t)}\n20\n${55 + 25 * Math.sin(t)}\n`;
  });
  const holes = [20, 160].map((x) => circle(x, 20, 4.5) + circle(x, 90, 4.5)).join("");
  const cover =
    line("CUT", 220, 0, 290, 0) +
    line("CUT", 290, 0, 290, 60) +
    line("CUT", 290, 60, 220, 60) +
    line("CUT", 220, 60, 220, 0) +
    circle(255, 30, 12);
  const rest =
    `0\nLWPOLYLINE\n8\nCUT\n70\n1\n${chords.join("")}` +
    line("BEND", 130, 0, 130, 110) +
    line("NOTES", 0, -18, 180, -18);
  return `0\nSECTION\n2\nENTITIES\n${plate}${holes}${cover}${rest}0\nENDSEC\n0\nEOF\n`;
}

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
  await shot("brought", base, ".ticket img", async () => {
    const file = { name: "stand-plate.dxf", mimeType: "image/vnd.dxf", buffer: Buffer.from(drawing()) };
    await page.getByLabel("file to bring in").setInputFiles(file);
    await page.getByRole("button", { name: /^millimetres/ }).click();
    await page.getByText("Gaps", { exact: true }).waitFor();
  });
  await shot("tracing", `${job}/pieces/gasket`, "[data-figure=mass]", async () => {
    await page.getByRole("button", { name: "the tracing" }).click();
    await page.getByText("nowhere further than").waitFor();
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
  await shot("text", `${job}/pieces/box`, "[data-figure=mass]", async () => {
    await page.getByRole("button", { name: "as text" }).click();
    await page.getByLabel("piece as text").waitFor();
    await page.waitForTimeout(500);
  });
  await shot("bends", `${job}/pieces/trough`, "[data-figure=mass]", () =>
    page.getByRole("tab", { name: /^Bends/ }).click(),
  );
  await shot("list", `${job}/pieces/box`, "[data-figure=mass]", async () => {
    await page.locator("#main").focus();
    await page.keyboard.press("s");
    await page.getByLabel("groups").selectOption("sheet");
    await page.getByLabel("choose P-102").click();
    await page.getByLabel("choose P-110").click({ modifiers: ["Shift"] });
    await page.waitForTimeout(900);
  });
  await shot("frame", `${job}/frames/frame-1`, "[data-figure=mass]", () =>
    page.locator(".cut-table tbody tr").nth(5).hover(),
  );
  await shot("bars", `${job}/frames/frame-1`, "[data-figure=mass]", async () => {
    await page.getByRole("tab", { name: "Bars" }).click();
    await page.locator(".bar-plan").first().waitFor();
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
    await page.locator(".sheet img").waitFor();
    await page.waitForTimeout(900);
    await page
      .locator(".sheet")
      .last()
      .evaluate((e) => e.scrollIntoView());
  });
  // These change the sample: last.
  await shot("begin", `${job}/pieces/box`, "[data-figure=mass]", async () => {
    await page.getByRole("button", { name: "+ piece" }).click();
    await page.getByRole("button", { name: "Start with a box with a lid" }).waitFor();
    await page.keyboard.press("t");
    await page.getByLabel("A, length").waitFor();
    await page.waitForTimeout(900);
  });
  await shot("settings", `${job}/pieces/box`, "[data-figure=mass]", async () => {
    await page.getByText("Job figures and settings").click();
    const row = page.locator(".figures-of-job > li", { has: page.getByLabel("value of box_w") });
    for (const [bound, value] of [
      ["+ from", "200"],
      ["+ up to", "500"],
    ]) {
      await row.getByRole("button", { name: bound }).click();
      await page.keyboard.type(value);
    }
    for (const [k, name] of ["narrow", "wide"].entries()) {
      const of = `variant ${k + 1}`;
      await page.getByRole("button", { name: "+ variant", exact: true }).click();
      await page.getByLabel(`name, ${of}`).fill(name);
      await page.getByRole("button", { name: `+ a figure, ${of}` }).click();
      await page.getByLabel(`figure, ${of}`, { exact: true }).selectOption("box_w");
      await page.getByLabel(`value, ${of}`, { exact: true }).fill(k === 0 ? "240" : "420");
    }
    await page.getByRole("button", { name: "compare them" }).click();
    await page.locator(".variants tbody tr").nth(2).waitFor();
    await row.evaluate((e) => e.scrollIntoView({ block: "start" }));
  });
  await shot("contour", `${job}/pieces/stand`, "[data-figure=mass]", async () => {
    await page.getByRole("button", { name: "+ piece", exact: true }).click();
    await page.locator("#short-text").focus();
    await page.keyboard.type("contour line 60 east, line, arc left R20, line, where symmetric about a");
    await page.keyboard.press("Enter");
    await page.locator(".family .one").waitFor();
  });
});
