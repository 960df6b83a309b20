import { withDemo } from "./serve.mjs";
const [, , ...names] = process.argv;
await withDemo(7995, async (page, base, job) => {
  const shots = {
    brief: async () => { await page.goto(`${job}/briefs/brief-1`); await page.locator(".checks").waitFor(); },
    inches: async () => { await page.goto(`${job}/briefs/brief-2`); await page.locator(".checks").waitFor(); await page.getByRole("button", { name: "what is not checked?" }).click(); await page.locator(".unchecked ul").waitFor(); },
    frame: async () => { await page.goto(`${job}/briefs/brief-4`); await page.locator(".checks").waitFor(); },
    stand: async () => { await page.goto(`${job}/pieces/stand`); await page.locator("[data-figure=mass]").waitFor(); },
  };
  for (const n of names) { await shots[n](); await page.waitForTimeout(1500); await page.screenshot({ path: `/tmp/t/${n}.png` }); }
});
