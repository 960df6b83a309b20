// Nothing typed is lost: slow and broken networks, leaving in the middle, two pages at once.
import type { Page, Route } from "@playwright/test";
import { expect, figure, fresh, saved, test } from "./common";

/** A piece with a plate in a job of its own; the job's id. */
const plate = async (page: Page, title: string) => {
  await fresh(page);
  await page.keyboard.press("p");
  await expect(figure(page, "mass")).toBeVisible();
  await page.getByLabel("job title").fill(title);
  await saved(page);
  return page.url().match(/jobs\/([^/]+)/)![1]!;
};

const width = (page: Page) => page.getByLabel("width, start-1");
const held = async (page: Page, id: string) => {
  const got = await (await page.request.get(`/api/jobs/${id}`)).json();
  return {
    revision: got.revision as number,
    width: got.job.pieces[0].lines[0].say.width as string,
    title: got.job.title as string,
  };
};

/** Numbers that look random and are the same at every run. */
const jitter = (seed: number) => () => {
  seed = (seed * 1103515245 + 12345) % 2147483648;
  return seed / 2147483648;
};

test("alone on a slow and jittery network a page never meets itself", async ({ page }) => {
  const id = await plate(page, "jitter");
  const next = jitter(7);
  await page.route("**/api/jobs/*", async (route) => {
    if (route.request().method() !== "PUT") return route.continue();
    const [before, lost, after] = [next() * 900, next() < 0.25, next() * 900];
    await new Promise((r) => setTimeout(r, before));
    if (lost) {
      // The request arrives, its answer does not.
      await route.fetch();
      return route.abort();
    }
    const got = await route.fetch();
    await new Promise((r) => setTimeout(r, after));
    await route.fulfill({ response: got });
  });
  await width(page).click();
  for (let n = 0; n < 14; n++) {
    await width(page).fill("");
    await page.keyboard.type(`${200 + n}`, { delay: 40 });
    await page.waitForTimeout(200 + next() * 700);
    await expect(page.locator(".saving")).not.toHaveText("saved elsewhere");
  }
  // A note while a save is on its way has a revision of its own.
  await width(page).fill("333");
  await page.getByRole("button", { name: "History" }).click();
  await page.getByLabel("note").fill("as cut");
  await page.getByRole("button", { name: "file" }).click();
  await page.keyboard.press("Escape");
  await saved(page);
  expect((await held(page, id)).width).toBe("333");
  const { revisions } = await (await page.request.get(`/api/jobs/${id}/revisions`)).json();
  expect(revisions.filter((r: { note: string }) => r.note === "as cut")).toHaveLength(1);
});

test("what arrived although its page did not hear of it, and was worked on since, is not offered", async ({
  page,
}) => {
  const id = await plate(page, "heard");
  const rev = async () => (await (await page.request.get(`/api/jobs/${id}`)).json()).revision as number;
  const was = await rev();
  const { job } = await (await page.request.get(`/api/jobs/${id}`)).json();
  for (const value of ["311", "312"]) {
    await width(page).fill(value);
    await expect.poll(async () => (await held(page, id)).width).toBe(value);
  }
  expect(await rev()).toBeGreaterThan(was);
  // As a page that was closed leaves them: one that was filed, and one that never was.
  await page.evaluate(
    ({ id, was, piece }) => {
      for (const width of ["311", "299"]) {
        const said = structuredClone(piece);
        said.lines[0].say.width = width;
        localStorage.setItem(
          `steelk.draft.${id}.gone${width}`,
          JSON.stringify({
            job: id,
            page: `gone${width}`,
            revision: was,
            token: "",
            at: Date.now() - 60_000,
            title: "heard",
            fields: {},
            gone: [],
            frames: { order: [], items: {} },
            pieces: { order: [piece.id], items: { [piece.id]: said } },
          }),
        );
      }
    },
    { id, was, piece: job.pieces[0] },
  );
  await page.reload();
  const offers = page.locator(".MuiAlert-root", { hasText: "Left behind" });
  await expect(offers).toContainText("299");
  await expect(offers).toHaveCount(1);
});

test("leaving at once saves; what was left without a server is offered with its difference", async ({
  page,
  context,
}) => {
  const id = await plate(page, "left");
  for (const [way, value] of [
    ["the rack", "311"],
    ["back", "312"],
    ["another page", "313"],
  ] as const) {
    await width(page).fill(value);
    if (way === "the rack") await page.getByLabel("Steelk, to the rack").click();
    else if (way === "back") await page.goBack();
    else await page.goto("/");
    await expect.poll(async () => (await held(page, id)).width, { message: way }).toBe(value);
    await page.goto(`/jobs/${id}/pieces`);
    await expect(width(page)).toHaveValue(value);
  }
  // The server is away: the text stays here, and the rack says so.
  const gone = (route: Route) =>
    ["PUT", "GET"].includes(route.request().method()) ? route.abort() : route.continue();
  await page.route(/\/api\/jobs\/[^/]+(\/head)?$/, gone);
  await width(page).fill("319");
  await page.getByLabel("Steelk, to the rack").click();
  await expect(page.locator(".unsaved")).toContainText("left");
  // Closed for good, its last words lost as well; another visit in the same browser.
  await page.evaluate(() => {
    window.fetch = () => Promise.reject(new TypeError("no network"));
  });
  await page.close();
  const again = await context.newPage();
  await again.goto(`/jobs/${id}/pieces`);
  const offer = again.locator(".MuiAlert-root", { hasText: "Left behind" });
  await expect(offer).toContainText("start-1 · width 313 → 319");
  await offer.getByRole("button", { name: "take it up" }).click();
  await expect(width(again)).toHaveValue("319");
  await saved(again);
  expect((await held(again, id)).width).toBe("319");
  await again.reload();
  await expect(width(again)).toHaveValue("319");
  await expect(offer).toHaveCount(0);
});

test("loaded again while its save is out, a page shows what was done", async ({ page }) => {
  const id = await plate(page, "again");
  // The first save never leaves the page, and what is sent in its place comes late.
  let saves = 0;
  await page.route("**/api/jobs/*", async (route) => {
    if (route.request().method() !== "PUT") return route.continue();
    if (++saves === 1) return;
    await new Promise((r) => setTimeout(r, 900));
    await route.continue();
  });
  await width(page).fill("331");
  await expect.poll(() => saves).toBe(1);
  await page.reload();
  await expect(width(page)).toHaveValue("331");
  await expect(page.locator(".MuiAlert-root", { hasText: "Left behind" })).toHaveCount(0);
  expect((await held(page, id)).width).toBe("331");
});

test("a letter pressed right after “+ piece” is the new piece's", async ({ page }) => {
  await plate(page, "letters");
  await page.evaluate(async () => {
    const add = [...document.querySelectorAll("button")].find((b) => b.textContent === "+ piece")!;
    add.focus();
    add.click();
    await new Promise((r) => setTimeout(r));
    document.activeElement!.dispatchEvent(new KeyboardEvent("keydown", { key: "p", bubbles: true }));
  });
  await expect(page.locator("[data-line]")).toHaveCount(1);
  await page.locator(".rail [role=tab]", { hasText: "P-101" }).click();
  await expect(width(page)).toBeVisible();
  await expect(page.locator("[data-line]")).toHaveCount(1);
});

test("two pages: other pieces are merged, the same piece is shown from both sides and both stay", async ({
  page,
  context,
}) => {
  const id = await plate(page, "two");
  const other = await context.newPage();
  await other.goto(`/jobs/${id}/pieces`);
  await expect(width(other)).toBeVisible();
  await other.getByRole("button", { name: "+ piece" }).click();
  await other.keyboard.press("p");
  await saved(other);
  await width(page).fill("401");
  await expect(page.getByText(/Saved elsewhere as revision \d+/)).toBeVisible();
  await saved(page);
  await expect(page.locator(".rail")).toContainText("P-102");
  expect((await held(page, id)).width).toBe("401");
  // The same value on both sides.
  await other.reload();
  await other.locator(".rail [role=tab]", { hasText: "P-101" }).click();
  await expect(width(other)).toHaveValue("401");
  await width(other).fill("500");
  await saved(other);
  await width(page).fill("402");
  const panel = page.locator(".conflict");
  await expect(panel.getByRole("table")).toContainText("start-1 · width");
  await expect(panel.getByRole("row", { name: /width/ })).toContainText("401402500");
  await panel.getByLabel("theirs").check();
  await panel.getByRole("button", { name: "go on so" }).click();
  await expect(width(page)).toHaveValue("500");
  await saved(page);
  const rows = (await (await page.request.get(`/api/jobs/${id}/revisions`)).json()).revisions as {
    revision: number;
    note: string;
  }[];
  const aside = rows.find((r) => r.note.startsWith("set aside"))!;
  const mine = await (await page.request.get(`/api/jobs/${id}/revisions/${aside.revision}`)).json();
  expect(mine.job.pieces[0].lines[0].say.width).toBe("402");
  await page.getByLabel("undo", { exact: true }).click();
  await expect(width(page)).toHaveValue("402");
  // Archived elsewhere: said, and put back from here.
  await page.request.post(`/api/jobs/${id}/archive`);
  await width(page).fill("403");
  await expect(page.getByText("This job is in the archive")).toBeVisible();
  await page.getByRole("button", { name: "put it back on the rack" }).click();
  await expect(page.getByText("This job is in the archive")).toHaveCount(0);
});

test("figures that do not come are shown as old, asked for again, and catch up by themselves", async ({
  page,
}) => {
  await plate(page, "figures");
  const mass = await figure(page, "mass").textContent();
  let drop = 3;
  await page.route("**/api/evaluate", (route) => (drop-- > 0 ? route.abort() : route.continue()));
  await width(page).fill("777");
  await expect(page.locator(".figures.old")).toBeVisible();
  await expect(page.getByText("it is asked again")).toBeVisible();
  await expect(page.locator(".figures.old")).toHaveCount(0);
  expect(await figure(page, "mass").textContent()).not.toBe(mass);
  await expect(page.getByText("it is asked again")).toHaveCount(0);
  // Away for good: a word, and a hand that asks again.
  drop = 1000;
  await page.clock.install();
  await width(page).fill("778");
  for (let i = 0; i < 40 && (await page.getByRole("button", { name: "ask again" }).count()) === 0; i++)
    await page.clock.runFor(2000);
  await expect(page.getByRole("button", { name: "ask again" })).toBeVisible();
  drop = 0;
  await page.getByRole("button", { name: "ask again" }).click();
  await page.clock.runFor(2000);
  await expect(page.locator(".figures.old")).toHaveCount(0);
});

test("the rack is light: pictures of a few kB, not sent twice, one drawing context a page", async ({
  page,
}) => {
  await page.goto("/");
  const { jobs } = await (await page.request.get("/api/jobs")).json();
  const sample = jobs.find((j: { number: string }) => j.number === "J-014");
  const picture = await page.request.get(`/api/jobs/${sample.id}/picture.svg`, {
    headers: { "accept-encoding": "gzip" },
  });
  expect(picture.headers()["content-encoding"]).toBe("gzip");
  expect((await picture.body()).length).toBeLessThan(40_000);
  const again = await page.request.get(`/api/jobs/${sample.id}/picture.svg`, {
    headers: { "if-none-match": picture.headers().etag! },
  });
  expect(again.status()).toBe(304);
  // Pieces and pages come and go; the browser would warn of contexts that it takes away.
  const warnings: string[] = [];
  page.on(
    "console",
    (m) => m.text().includes("WebGL") && !m.text().includes("GPU stall") && warnings.push(m.text()),
  );
  await page.goto(`/jobs/${sample.id}/pieces/stand`);
  await expect(page.locator(".formed canvas")).toBeVisible();
  const tabs = page.locator(".rail [role=tab]");
  for (let i = 0; i < 40; i++) {
    await tabs.nth(i % 4).click();
    if (i % 5 === 4) {
      await page.getByRole("link", { name: "Papers" }).click();
      await page.getByRole("link", { name: "Pieces" }).click();
    }
  }
  await tabs.first().click();
  await expect(page.locator(".formed canvas")).toHaveCount(1);
  expect(warnings).toEqual([]);
});

test("figures of a piece with thousands of holes come first and alone, its picture after", async ({
  page,
}) => {
  await page.goto("/");
  const { jobs } = await (await page.request.get("/api/jobs")).json();
  const id = jobs.find((j: { number: string }) => j.number === "J-014").id;
  await page.goto(`/jobs/${id}/pieces/drum`);
  await expect(page.locator(".flat .hole").first()).toBeVisible();
  const seen: { geometry: boolean; size: number }[] = [];
  page.on("response", async (r) => {
    if (!r.url().endsWith("/api/evaluate")) return;
    const size = (await r.body().catch(() => Buffer.alloc(0))).length;
    seen.push({ geometry: JSON.parse(r.request().postData() ?? "{}").geometry, size });
  });
  const mass = await figure(page, "mass").textContent();
  const thickness = page.getByLabel(/^thickness$/);
  const before = await thickness.inputValue();
  await thickness.fill("3");
  await expect(figure(page, "mass")).not.toHaveText(mass!);
  await expect.poll(() => seen.length).toBeGreaterThan(1);
  expect(seen[0]!.geometry).toBe(false);
  expect(seen.at(-1)!.geometry).toBe(true);
  expect(seen[0]!.size).toBeLessThan(150_000);
  expect(seen.at(-1)!.size).toBeLessThan(1_300_000);
  await thickness.fill(before);
  await saved(page);
});

test("the list of a long job prints on as many sheets as it needs, dark or light", async ({ page }) => {
  const pieces = Array.from({ length: 81 }, (_, i) => ({
    id: `p${i}`,
    mark: `P-${i}`,
    name: `plate ${i}`,
    quantity: "1",
    material: "s235",
    thickness: "2",
    lines: [{ id: "start-1", say: { verb: "start_plate", width: "100", height: "50" } }],
  }));
  const made = await (
    await page.request.post("/api/jobs", { data: { format: 1, title: "long", pieces } })
  ).json();
  await page.goto(`/jobs/${made.id}/papers`);
  await expect(page.getByText("papers of revision 1")).toBeVisible();
  await page.getByRole("button", { name: "switch to dark" }).click();
  const pdf = (await page.pdf({ format: "A4" })).toString("latin1");
  expect(pdf.match(/\/Type\s*\/Page\b/g)!.length).toBeGreaterThan(1);
  await page.emulateMedia({ media: "print" });
  const ink = await page
    .locator(".papers td")
    .first()
    .evaluate((e) => [getComputedStyle(e).color, getComputedStyle(e).backgroundColor]);
  expect(ink).toEqual(["rgb(0, 0, 0)", "rgb(255, 255, 255)"]);
  await page.emulateMedia({ media: null });
  await page.getByRole("button", { name: "switch to light" }).click();
});
