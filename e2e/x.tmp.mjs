import { withDemo } from "./serve.mjs";
await withDemo(7899, async (page, base, job) => {
  page.on("console", (m) => m.type() === "error" && console.log(m.text()));
  page.on("pageerror", (e) => console.log(String(e)));
  await page.goto(`${base}/`);
  await page.getByLabel("file to bring in").setInputFiles("/tmp/t/gap.dxf");
  await page.waitForSelector(".brought-told");
  await page.waitForTimeout(400);
  await page.screenshot({ path: "/tmp/t/a.png" });
  await page.getByRole("button", { name: /^millimetres/ }).click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: "/tmp/t/b.png" });
  await page.getByRole("button", { name: "close it" }).first().click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: "/tmp/t/c.png" });
  await page.getByRole("button", { name: /Make the job/ }).click();
  await page.waitForTimeout(2500);
  await page.screenshot({ path: "/tmp/t/d.png" });
});
