import { spawn } from "node:child_process";
import { expect, type Page, test as plain } from "@playwright/test";

/** What the tests do again and again. */
export { expect };

/** Every test has a Steelk of its own with the sample job: what one changes no other meets. */
export const test = plain.extend<{ steelk: string }>({
  // biome-ignore lint/correctness/noEmptyPattern: a fixture names what it needs, and this one needs nothing.
  steelk: async ({}, use, info) => {
    const port = String(7999 - info.parallelIndex);
    const base = `http://127.0.0.1:${port}`;
    const binary = process.env.STEELK ?? "../target/debug/steelk";
    const server = spawn(binary, ["demo", "--port", port, "--data", info.outputPath("steelk.db")], {
      stdio: ["ignore", "ignore", "pipe"],
    });
    let said = "";
    server.stderr.on("data", (text) => {
      said += text;
    });
    const up = () =>
      fetch(`${base}/api/health`).then(
        (r) => r.ok,
        () => false,
      );
    try {
      for (let i = 0; !(await up()); i++) {
        if (i > 200 || server.exitCode !== null) throw new Error(`Steelk did not start:\n${said}`);
        await new Promise((r) => setTimeout(r, 50));
      }
      await use(base);
    } finally {
      const gone = new Promise((r) => server.once("exit", r));
      if (server.kill("SIGKILL")) await gone;
    }
  },
  baseURL: ({ steelk }, use) => use(steelk),
});

export const figure = (page: Page, key: string) => page.locator(`[data-figure="${key}"] .value`);

export const saved = (page: Page) => expect(page.locator(".saving")).toHaveText("saved");

/** A new job with an empty piece on the bench. */
export const fresh = async (page: Page) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New job" }).click();
  await page.getByRole("button", { name: "Start with a piece" }).click();
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
};

/** A new job's frame, begun from a picture; the server answers late and unevenly. Gives the job's id. */
export const begun = async (page: Page, picture: string) => {
  await fresh(page);
  const id = page.url().match(/jobs\/([^/?]+)/)![1]!;
  await page.goto(`/jobs/${id}/frames`);
  await page.getByRole("button", { name: "Start with a frame" }).click();
  let late = 40;
  await page.route("**/api/jobs/*/evaluate*", async (route) => {
    late = (late * 7) % 300;
    await new Promise((done) => setTimeout(done, late));
    await route.continue();
  });
  await page.getByRole("button", { name: picture }).click();
  return id;
};

/** The id of the sample job. */
export const demoJob = async (page: Page) => {
  const jobs = await (await page.request.get("/api/jobs")).json();
  return jobs.jobs.find((j: { number: string }) => j.number === "J-014").id as string;
};

/** A piece of the sample job on the bench; gives the job's id. */
export const demo = async (page: Page, piece: string) => {
  const id = await demoJob(page);
  await page.goto(`/jobs/${id}/pieces/${piece}`);
  await expect(figure(page, "mass")).toBeVisible();
  return id;
};
