import { demoJob, expect, fresh, saved, test } from "./common";

test("a line is typed letter by letter with what can come next; what is walked to lights up", async ({
  page,
}) => {
  await page.goto(`/jobs/${await demoJob(page)}/pieces/stand`);
  const input = page.locator("#short-text");
  const offers = page.getByRole("listbox", { name: "what can come next" });
  await input.click();
  await page.keyboard.type("fol", { delay: 40 });
  await expect(offers.getByRole("option")).toHaveText(["fold"]);
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Tab");
  await expect(input).toHaveValue("fold ");
  await expect(input).toBeFocused();
  await page.keyboard.type("we", { delay: 40 });
  await expect(offers.getByRole("option")).toHaveText(["west"]);
  await page.keyboard.press("ArrowDown");
  await expect(page.locator('svg.flat .side.lit[data-edge="start-1.west"]')).not.toHaveCount(0);
  await page.keyboard.press("Enter");
  await expect(input).toHaveValue("fold west ");
  await page.keyboard.type("up 90, 30", { delay: 20 });
  await page.keyboard.press("Enter");
  const line = page.locator("[data-line=fold-1]");
  await expect(line.getByLabel(/^length(, |$)/)).toHaveValue("30");
  await expect(input).toHaveValue("");
  // What does not read stays, with the place and what could stand there; the offers are closed.
  await page.keyboard.type("hole 9, 30 frm west", { delay: 10 });
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "'frm' is not understood here" })).toContainText(
    "'from'",
  );
  await expect(input).toHaveValue("hole 9, 30 frm west");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("hole ⌀bolt + 2 on a, 30 from west", { delay: 5 });
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-line=punch-5]").getByLabel("diameter")).toHaveValue("bolt + 2");
  await saved(page);
});

test("what is taken from a list that is not yet of the text is taken once the next one stands", async ({
  page,
}) => {
  await page.goto(`/jobs/${await demoJob(page)}/pieces/stand`);
  const input = page.locator("#short-text");
  await input.click();
  await page.keyboard.type("fo", { delay: 40 });
  const offers = page.getByRole("listbox", { name: "what can come next" });
  await expect(offers.getByRole("option", { name: "fold" })).toBeVisible();
  await page.route("**/api/complete", async (route) => {
    await new Promise((done) => setTimeout(done, 800));
    await route.continue().catch(() => {});
  });
  await page.keyboard.type("l");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Tab");
  await expect(input).toBeFocused();
  await expect(input).toHaveValue("fold ");
});

test("who types on has left what was walked to, however late the offers come", async ({ page }) => {
  await fresh(page);
  const input = page.locator("#short-text");
  await input.click();
  await page.keyboard.type("plate 100 x 80", { delay: 10 });
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-line=start-1]")).toBeVisible();
  await expect(input).toHaveValue("");
  await page.keyboard.type("fold we", { delay: 30 });
  const offers = page.getByRole("listbox", { name: "what can come next" });
  await expect(offers.getByRole("option")).toHaveText(["west"]);
  await page.keyboard.press("ArrowDown");
  await page.route("**/api/complete", async (route) => {
    await new Promise((done) => setTimeout(done, 800));
    await route.continue().catch(() => {});
  });
  await page.keyboard.type("st up 90, 30", { delay: 10 });
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-line=fold-1]").getByLabel(/^length(, |$)/)).toHaveValue("30");
  await expect(input).toHaveValue("");
});

test("a piece is changed as a text: faults in place, taken over in one step, undone in one", async ({
  page,
}) => {
  const id = await demoJob(page);
  await page.goto(`/jobs/${id}/pieces/base`);
  await expect(page.locator(".recipe > [data-line]")).toHaveCount(7);
  const before = (await (await page.request.get(`/api/jobs/${id}`)).json()).job;
  await page.getByRole("button", { name: "as text" }).click();
  const area = page.getByLabel("piece as text");
  await expect(area).toHaveValue(/repeat punch-1, 3 last 18, across 2 last 18/);
  await expect(page.getByRole("button", { name: "Take over" })).toBeDisabled();
  await area.fill(
    (await area.inputValue())
      .replace("18 from west", "25 frm west")
      .replace("round 12", "eye: hole ⌀40 -- for the hook\n  off round 8"),
  );
  await expect(page.locator(".as-text mark")).toHaveText("frm");
  await expect(page.getByRole("button", { name: "Take over" })).toBeDisabled();
  await page.getByRole("button", { name: "line 3", exact: true }).click();
  await page.keyboard.type("from", { delay: 20 });
  await expect(page.locator(".as-text mark")).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Take over" })).toBeEnabled();
  await page.keyboard.press("Control+Enter");
  await expect(page.locator("[data-line=eye]").getByLabel("diameter")).toHaveValue("40");
  await expect(page.locator("[data-line=eye]").getByLabel("remark of eye")).toHaveValue("for the hook");
  await expect(page.locator("[data-line=punch-1]").getByLabel("distance across")).toHaveValue("25");
  await expect(page.locator("[data-line=round-1]")).toHaveClass(/off/);
  await saved(page);
  // Lines that say what they said stand as they were stored.
  const piece = (job: { pieces: { id: string; lines: { id: string }[] }[] }) =>
    job.pieces.find((p) => p.id === "base")!;
  const after = (await (await page.request.get(`/api/jobs/${id}`)).json()).job;
  const kept = piece(after).lines.filter((l) => !["punch-1", "eye", "round-1"].includes(l.id));
  expect(kept).toEqual(piece(before).lines.filter((l) => !["punch-1", "round-1"].includes(l.id)));
  await page.locator(".recipe > [data-line]").first().focus();
  await page.keyboard.press("Control+z");
  await saved(page);
  expect(piece((await (await page.request.get(`/api/jobs/${id}`)).json()).job)).toEqual(piece(before));
});

test("a job goes out as a text and comes in from one; none is brought in by halves", async ({ page }) => {
  await fresh(page);
  const text =
    'job "Told as text", in mm\nfigure bolt = 9\n\n' +
    'piece T-1 "Plate", 3 off, 2 thick s235\n  plate 100 x 60\n  hole ⌀bolt, 15 from west\n';
  const bring = async (name: string, body: string) => {
    await page.goto("/");
    await page
      .getByLabel("file to bring in")
      .setInputFiles({ name, mimeType: "text/plain", buffer: Buffer.from(body) });
  };
  await bring("wrong.txt", text.replace("15 from", "15 frm"));
  await expect(page.getByText("wrong.txt, line 6: 'frm' is not understood here")).toBeVisible();
  await bring("right.txt", text);
  await expect(page.locator("[data-line=punch-1]").getByLabel("diameter")).toHaveValue("bolt");
  await expect(page.getByLabel("quantity")).toHaveValue("3");
});
