// A Steelk of our own with the sample job, and a browser on it; both ended with the work.
import { spawn } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { ARGS, PATH } from "./chromium.mjs";

/** The binaries that STEELK names, one or more between commas; the release build where it names none. */
export const BUILDS = (process.env.STEELK ?? "../target/release/steelk").split(",");

/** Runs `work(page, base, job)` with a binary. */
export async function withDemo(port, work, binary = BUILDS[0]) {
  const folder = await mkdtemp(join(tmpdir(), "steelk-"));
  const server = spawn(binary, ["demo", "--port", String(port), "--data", join(folder, "s.db")], {
    stdio: "ignore",
  });
  const base = `http://127.0.0.1:${port}`;
  const browser = await chromium.launch({
    executablePath: PATH,
    args: ARGS,
    // As people see it: with scroll bars.
    ignoreDefaultArgs: ["--hide-scrollbars"],
  });
  try {
    for (let i = 0; i < 100; i++) {
      if (
        await fetch(`${base}/api/health`).then(
          (r) => r.ok,
          () => false,
        )
      )
        break;
      await new Promise((r) => setTimeout(r, 50));
    }
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const { jobs } = await (await fetch(`${base}/api/jobs`)).json();
    await work(page, base, `${base}/jobs/${jobs[0].id}`);
  } finally {
    await browser.close();
    server.kill();
    await rm(folder, { recursive: true, force: true });
  }
}
