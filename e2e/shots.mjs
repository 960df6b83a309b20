// docs/screenshots from the demo data, one for each main view.
import { spawn } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";

const PORT = 7997;
const binary = process.env.STEELK ?? "../target/release/steelk";
const folder = await mkdtemp(join(tmpdir(), "steelk-"));
const server = spawn(binary, ["demo", "--port", String(PORT), "--data", join(folder, "s.db")], { stdio: "ignore" });
const base = `http://127.0.0.1:${PORT}`;
for (let i = 0; i < 100; i++) {
  if (await fetch(`${base}/api/health`).then((r) => r.ok, () => false)) break;
  await new Promise((r) => setTimeout(r, 50));
}
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--ignore-gpu-blocklist"] });
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const jobs = await (await fetch(`${base}/api/jobs`)).json();
  const job = `${base}/jobs/${jobs.jobs[0].id}`;
  const shot = async (name, url, ready, act) => {
    await page.goto(url);
    await page.locator(ready).first().waitFor();
    await page.waitForTimeout(1200);
    await act?.();
    await page.waitForTimeout(400);
    await page.screenshot({ path: `../docs/screenshots/${name}.png` });
  };
  await shot("rack", base, ".ticket img");
  await shot("bench", `${job}/pieces/stand`, "[data-figure=mass]");
  await shot("working", `${job}/pieces/hat`, "[data-figure=mass]", () => page.locator("[data-figure=flat_length]").click());
  await shot("folding", `${job}/pieces/cradle`, "[data-figure=mass]", async () => {
    await page.getByRole("slider").focus();
    await page.keyboard.press("Home");
    for (let i = 0; i < 150; i++) await page.keyboard.press("ArrowRight");
  });
  await shot("inches-dark", `${job}/pieces/motor`, "[data-figure=mass]", async () => {
    await page.getByRole("button", { name: "switch to dark" }).click();
    await page.locator(".flat .hole").last().hover();
  });
  await page.evaluate(() => localStorage.clear());
  await shot("papers", `${job}/papers`, ".sheet img");
} finally {
  await browser.close();
  server.kill();
  await rm(folder, { recursive: true, force: true });
}
