// The list of a job: walked by the arrows, found, sorted, several taken together, forty exported as one zip.
import { readFile } from "node:fs/promises";
import { demo, demoJob, expect, figure, saved, test } from "./common";

/** Names of the files in an archive, from its central directory. */
const namesIn = (zip: Buffer) => {
  const names: string[] = [];
  for (let at = zip.indexOf("PK\x01\x02"); at >= 0; at = zip.indexOf("PK\x01\x02", at + 4))
    names.push(zip.toString("utf8", at + 46, at + 46 + zip.readUInt16LE(at + 28)));
  return names;
};

test("the rail is walked by the arrows, pieces and frames alike, each with its picture", async ({
  page,
}) => {
  await demo(page, "stand");
  const rail = page.getByRole("tablist", { name: "pieces and frames" });
  await rail.getByRole("tab", { name: "P-101" }).focus();
  await page.keyboard.press("ArrowDown");
  await expect(page.getByLabel("mark", { exact: true })).toHaveValue("P-102");
  await expect(rail.getByRole("tab", { name: "P-102" })).toBeFocused();
  await page.keyboard.press("End");
  await expect(page).toHaveURL(/frames\/cloth-hook$/);
  await expect(page.getByRole("table", { name: "cut list" })).toBeVisible();
  // Every one of them has a drawing of its own.
  const paths = await rail.locator("path").evaluateAll((all) => all.map((p) => p.getAttribute("d")));
  expect(new Set(paths).size).toBe(await rail.getByRole("tab").count());
});

test("forty pieces are found, chosen, changed at once and exported as one zip with names by mark", async ({
  page,
}) => {
  const job = JSON.parse(await readFile("../demo/orchard-line.steelk.json", "utf8"));
  const plate = job.pieces.find((p: { id: string }) => p.id === "motor");
  const shim = (k: number) => ({ ...plate, id: `many-${k}`, mark: `Q-${100 + k}`, name: `shim ${k}` });
  const pieces = [...job.pieces, ...Array.from({ length: 40 }, (_, k) => shim(k))];
  const made = await page.request.post("/api/jobs", { data: { ...job, number: "J-940", pieces } });
  const { id } = await made.json();
  await page.goto(`/jobs/${id}/pieces/motor`);
  await expect(figure(page, "mass")).toBeVisible();
  await page.getByRole("main").focus();
  await page.keyboard.press("s");
  const find = page.getByLabel("find in the list");
  await expect(find).toBeFocused();
  await page.keyboard.type("shim", { delay: 40 });
  const rows = page.locator(".job-list [data-row]");
  await expect(rows).toHaveCount(40);
  // Sorted by mark, downwards: ten comes before nine only where letters are compared.
  await page.getByRole("columnheader", { name: "mark" }).getByRole("button").click();
  await page.getByRole("columnheader", { name: "mark" }).getByRole("button").click();
  await expect(rows.first()).toContainText("Q-139");
  await rows.first().focus();
  await page.keyboard.press("ControlOrMeta+a");
  await expect(page.getByRole("heading", { name: /^40 of/ })).toBeVisible();
  await page.getByLabel("number of each that is chosen").fill("3");
  await page.getByLabel("material of all that are chosen").selectOption("s235");
  await expect(rows.first()).toContainText("S235 steel");
  await expect(rows.nth(39).locator("td").nth(4)).toHaveText("3");
  await saved(page);
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "DXF of 40 (zip)" }).click(),
  ]);
  const names = namesIn(await readFile(await file.path()));
  expect(names).toHaveLength(40);
  for (let k = 0; k < 40; k++) expect(names.filter((n) => n.includes(`Q-${100 + k}`))).toHaveLength(1);
  // Taken out in one step, and back in one.
  await page.getByRole("button", { name: "take them out" }).click();
  await expect(page.getByText(/^Nothing has/)).toBeVisible();
  await page.getByLabel("undo", { exact: true }).click();
  await expect(rows).toHaveCount(40);
  // One is archived: kept with the job and out of its list, until it is brought back.
  await rows.first().focus();
  await page.keyboard.press("Space");
  await page.getByRole("button", { name: "archive them" }).click();
  await expect(rows).toHaveCount(39);
  const archive = page.getByRole("region", { name: "archive of the job" });
  await expect(archive).toContainText("Q-139");
  await saved(page);
  expect((await (await page.request.get(`/api/jobs/${id}`)).json()).job.archive.pieces).toHaveLength(1);
  await archive.getByRole("button", { name: "bring Q-139 back" }).click();
  await expect(rows).toHaveCount(40);
  await expect(archive).toHaveCount(0);
  await find.focus();
  await page.keyboard.press("Escape");
  await expect(page.locator(".job-list")).toHaveCount(0);
});

test("one key finds a piece, adds a line, opens a setting, gives the frame its section", async ({
  page,
}) => {
  const id = await demoJob(page);
  await page.goto(`/jobs/${id}/pieces/stand`);
  await expect(figure(page, "mass")).toBeVisible();
  const find = async (words: string) => {
    await page.keyboard.press("ControlOrMeta+k");
    await expect(page.getByRole("combobox", { name: "find anything" })).toBeFocused();
    await page.keyboard.type(words, { delay: 40 });
  };
  await find("cradle strap");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("mark", { exact: true })).toHaveValue("P-105");
  await expect(page.locator(".recipe > [data-line]").first()).toBeVisible();
  const lines = await page.locator(".recipe > [data-line]").count();
  await find("countersunk");
  await page.keyboard.press("Enter");
  await expect(page.locator(".recipe > [data-line]")).toHaveCount(lines + 1);
  // The keyboard stands in the new line's first value.
  await expect(page.locator(":focus")).toHaveAttribute("data-path", /./);
  await page.keyboard.press("Escape");
  await find("brake");
  await page.keyboard.press("Enter");
  await expect(page.locator('[data-setting="brake"]')).toBeInViewport();
  await find("press frame");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("table", { name: "cut list" })).toBeVisible();
  await find("shs 50x50x4");
  await expect(page.getByRole("option", { name: /^SHS 50x50x4 Hollow/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("usual section")).toHaveValue("SHS 50x50x4");
  await find("no such thing");
  await expect(page.getByText("Nothing is called so.")).toBeVisible();
});

test("pieces go into an assembly and stand under its frame; a job without any offers no list", async ({
  page,
}) => {
  const id = await demo(page, "cradle");
  await page.keyboard.press("s");
  await page.getByLabel("groups").selectOption("assembly");
  const marks = async (heading: string) => {
    const rows = await page
      .locator(".job-list tbody tr")
      .evaluateAll((all) =>
        all.map((r) => (r.matches(".group") ? r.textContent : (r.getAttribute("data-row") ?? ""))),
      );
    const from = rows.findIndex((r) => r?.startsWith(heading));
    const rest = rows.slice(from + 1);
    const till = rest.findIndex((r) => !r?.includes(":"));
    return from < 0 ? [] : rest.slice(0, till < 0 ? undefined : till);
  };
  await expect
    .poll(() => marks("F-1 Press frame"))
    .toEqual(["frame:frame-1", "piece:stand", "piece:motor"]);
  // Two more, letter by letter; a mark is the same in small letters.
  await page.getByLabel("choose P-105").click();
  await page.getByLabel("choose P-111").click();
  await page.getByLabel("assembly of all that are chosen").click();
  await page.keyboard.type("f-1", { delay: 40 });
  await expect
    .poll(() => marks("F-1 Press frame"))
    .toEqual(["frame:frame-1", "piece:stand", "piece:motor", "piece:cradle", "piece:drum"]);
  await page.getByLabel("find in the list").fill("enclosure");
  await expect.poll(() => marks("Control enclosure")).toEqual(["piece:box", "piece:door"]);
  await page.keyboard.press("Escape");
  await expect(page.getByLabel("assembly", { exact: true })).toHaveValue("f-1");
  await saved(page);
  const list = await page.request.get(`/api/jobs/${id}/papers/cutlist`);
  expect(await list.text()).toMatch(/P-105,Drum cradle strap,2,.*,f-1,/);
  // Each step of undo takes from both what it takes; where a slow machine parted the letters there are more.
  const into = async (mark: string) => {
    const told = await (await page.request.get(`/api/jobs/${id}`)).json();
    return told.job.pieces.find((p: { mark: string }) => p.mark === mark).assembly as string | undefined;
  };
  for (let steps = 0; steps < 3 && (await into("P-105")); steps++) {
    await page.keyboard.press("ControlOrMeta+z");
    await saved(page);
    expect(await into("P-111")).toEqual(await into("P-105"));
  }
  expect([await into("P-101"), await into("P-105")]).toEqual(["F-1", undefined]);
  const made = await page.request.post("/api/jobs", {
    data: { format: 1, title: "empty", number: "J-0" },
  });
  await page.goto(`/jobs/${(await made.json()).id}/papers`);
  await expect(page.getByText("Nothing is to be cut yet.")).toBeVisible();
  await expect(page.getByRole("link", { name: "Cut list (CSV)" })).toHaveCount(0);
  await page.getByRole("link", { name: "Pieces" }).last().click();
  await page.getByRole("button", { name: "Start with a piece" }).click();
  await expect(page.getByText("Nothing is said yet")).toBeVisible();
});

test("the shop's mark is a picture in the title block; what is none is refused and said", async ({
  page,
}) => {
  const id = await demo(page, "base");
  await page.getByText("Job figures and settings").click();
  await page.getByText("Title block of drawings").click();
  const input = page.getByLabel("picture of the shop's mark");
  const file = (name: string, mimeType: string, buffer: Buffer) => ({ name, mimeType, buffer });
  await input.setInputFiles(file("mark.png", "image/png", Buffer.from("no picture")));
  await expect(
    page.getByText("mark.png cannot be read as a picture: the mark stays as it was"),
  ).toBeVisible();
  const photograph = await readFile("../demo/pump-gasket.jpg");
  await input.setInputFiles(file("yard.jpg", "image/jpeg", photograph));
  await expect(page.getByAltText("mark of the shop: yard.jpg")).toBeVisible();
  await saved(page);
  const drawing = () => page.request.get(`/api/jobs/${id}/papers/drawing-svg?piece=base`);
  expect(await (await drawing()).text()).toContain(
    `href="data:image/jpeg;base64,${photograph.toString("base64")}"`,
  );
  await page.getByRole("button", { name: "take out the mark of the shop" }).click();
  await saved(page);
  expect(await (await drawing()).text()).not.toContain("<image");
});
