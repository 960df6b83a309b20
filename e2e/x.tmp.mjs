import { withDemo } from "./serve.mjs";
await withDemo(7996, async (page, base, job) => {
  await page.goto(`${job}/pieces/hook`);
  await page.waitForTimeout(2500);
  await page.screenshot({ path: "/tmp/t/a.png" });
  await page.goto(`${job}/papers`);
  await page.waitForTimeout(1500);
  await page.getByRole("button", { name: "P-114/B1" }).click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: "/tmp/t/b.png" });
});
