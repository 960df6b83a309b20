import { readFile } from "node:fs/promises";
import type { Page } from "@playwright/test";
import { demoJob, expect, saved, test } from "./common";

/** Every value under what a line says, with where it stands. */
const leaves = (value: unknown, at = ""): [string, string][] => {
  if (value === null || value === undefined || value === "") return [];
  if (typeof value !== "object") return [[at, String(value)]];
  return Object.entries(value).flatMap(([k, v]) => leaves(v, `${at}/${k}`));
};

/**
 * What each line of the recipe on the screen holds: values of its fields and words, and all that is written.
 */
const shown = (page: Page) =>
  page.locator(".recipe > [data-line]").evaluateAll((rows) =>
    rows.map((row) => ({
      line: (row as HTMLElement).dataset.line ?? "",
      values: [...row.querySelectorAll<HTMLInputElement | HTMLSelectElement>("input, select")].map(
        (f) => f.value,
      ),
      text: (row as HTMLElement).innerText,
    })),
  );

type Line = { id: string; off?: boolean; say: { verb: string; place?: { about?: string } } };

/** Values that stand neither in a field of their line nor among its words. */
const unsaid = (lines: Line[], rows: Awaited<ReturnType<typeof shown>>) => {
  const missing: string[] = [];
  for (const line of lines) {
    const row = rows.find((r) => r.line === line.id);
    if (!row) {
      missing.push(`no row for ${line.id}`);
      continue;
    }
    for (const [at, value] of leaves(line.say)) {
      // The verb is the sentence itself; the ids of parts are names for other lines.
      if (/\/(verb|kind|id|by)$/.test(at) || value === "false") continue;
      // A place about a middle has no distances: where they would be told from is not read out.
      if (/\/place\/[xy]\/(from|to)$/.test(at) && line.say.place?.about) continue;
      // An edge is read without the piece it starts with: `start-1.east.tip` is the east tip.
      const words = [
        value,
        value.replaceAll("_", " "),
        value.replace(/^[\w-]+\./, "").replaceAll(/[.-]/g, " "),
      ];
      const found =
        row.values.some((v) => v === value || v.split(/[ ,|]+/).includes(value)) ||
        words.some((w) => row.text.includes(w));
      if (!found)
        missing.push(
          `${line.id}${at} = ${value} in "${row.text.replaceAll("\n", " ")}" [${row.values.join("|")}]`,
        );
    }
  }
  return missing;
};

/** Each value of each line stands in its sentence, in a field or as a word. */
const allSaid = async (page: Page, lines: Line[]) => {
  await expect(page.locator(".recipe > [data-line]")).toHaveCount(lines.length);
  // Words for panels and bends come with the first result.
  await expect.poll(async () => unsaid(lines, await shown(page))).toEqual([]);
};

test("every value of every line of a frame can be read and changed in its sentence", async ({ page }) => {
  const frame = JSON.parse(await readFile("../crates/core/tests/all/all-verbs.json", "utf8"));
  const made = await page.request.post("/api/jobs", {
    data: { format: 1, title: "all verbs", number: "J-90", frames: [frame] },
  });
  expect(made.ok(), await made.text()).toBe(true);
  const { id } = await made.json();
  await page.goto(`/jobs/${id}/frames`);
  await allSaid(page, frame.lines);
  expect(new Set(frame.lines.map((l: Line) => l.say.verb)).size).toBe(20);
  // What is picked in a sentence is what is saved, and the list tells the metals apart.
  await page.locator("[data-line=post-1]").getByLabel("material of the bar").selectOption("s355");
  await saved(page);
  // A connection that lay idle may be closed as it is used again.
  const { job } = await (await page.request.get(`/api/jobs/${id}`, { maxRetries: 2 })).json();
  expect(job.frames[0].lines.find((l: Line) => l.id === "post-1").say.material).toBe("s355");
  await expect(page.getByRole("table", { name: "cut list" })).toContainText("S355");
});

test("every value of every line of the sample's pieces can be read in its sentence", async ({ page }) => {
  const id = await demoJob(page);
  const job = JSON.parse(await readFile("../demo/orchard-line.steelk.json", "utf8"));
  for (const piece of job.pieces) {
    await page.goto(`/jobs/${id}/pieces/${piece.id}`);
    await allSaid(page, piece.lines);
  }
});
