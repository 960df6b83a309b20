// From a keystroke in a value to both views redrawn, on a demo piece: the figure of docs/benchmarks.md.
import { spawn } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";

const PORT = 7998;
const folder = await mkdtemp(join(tmpdir(), "steelk-"));
const server = spawn("../target/release/steelk", ["demo", "--port", String(PORT), "--data", join(folder, "s.db")], { stdio: "ignore" });
const base = `http://127.0.0.1:${PORT}`;
for (let i = 0; i < 100; i++) {
  if (await fetch(`${base}/api/health`).then((r) => r.ok, () => false)) break;
  await new Promise((r) => setTimeout(r, 50));
}
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--ignore-gpu-blocklist"] });
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const jobs = await (await fetch(`${base}/api/jobs`)).json();
  for (const [piece, label] of [["stand", "length of leg b"], ["hat", "length of leg c"]]) {
    await page.goto(`${base}/jobs/${jobs.jobs[0].id}/pieces/${piece}`);
    await page.getByLabel(label).focus();
    await page.waitForTimeout(1500);
    const times = await page.evaluate(async (label) => {
      const input = document.querySelector(`[aria-label="${label}"]`);
      const write = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
      const out = [];
      for (let i = 0; i < 30; i++) {
        const figure = document.querySelector('[data-figure="flat_length"] .value');
        const before = figure.textContent;
        const begun = performance.now();
        write.call(input, String(200 + i));
        input.dispatchEvent(new Event("input", { bubbles: true }));
        while (document.querySelector('[data-figure="flat_length"] .value').textContent === before) await new Promise((r) => setTimeout(r, 1));
        await new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)));
        out.push(performance.now() - begun);
        await new Promise((r) => setTimeout(r, 150));
      }
      return out.sort((a, b) => a - b);
    }, label);
    console.log(`keystroke to both views, ${piece}: median ${times[15].toFixed(0)} ms, 90 % within ${times[27].toFixed(0)} ms`);
  }
} finally {
  await browser.close();
  server.kill();
  await rm(folder, { recursive: true, force: true });
}
