import { readFile } from "node:fs/promises";
import { expect, type Page } from "@playwright/test";

/** What the tests do again and again. */
export const figure = (page: Page, key: string) => page.locator(`[data-figure="${key}"] .value`);

export const saved = (page: Page) => expect(page.locator(".saving")).toHaveText("saved");

/** A new job with an empty piece on the bench. */
export const fresh = async (page: Page) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New job" }).click();
  await page.getByRole("button", { name: "Start with a piece" }).click();
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
};

/** The id of the sample job. */
export const demoJob = async (page: Page) => {
  const jobs = await (await page.request.get("/api/jobs")).json();
  return jobs.jobs.find((j: { number: string }) => j.number === "J-014").id as string;
};

/** The sample job under a number of its own: what a test changes of it no other test meets. */
export const ownDemo = async (page: Page, number: string) => {
  const job = JSON.parse(await readFile("../demo/orchard-line.steelk.json", "utf8"));
  const made = await page.request.post("/api/jobs", { data: { ...job, number } });
  return (await made.json()).id as string;
};

/** A piece of the sample job on the bench; gives the job's id. */
export const demo = async (page: Page, piece: string) => {
  const id = await demoJob(page);
  await page.goto(`/jobs/${id}/pieces/${piece}`);
  await expect(figure(page, "mass")).toBeVisible();
  return id;
};
