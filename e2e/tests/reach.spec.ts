// For readers of the screen and hands on the keyboard: every page walked by Tab alone, focus that never falls
// to the page, the flat walked by arrows, nothing off the screen at 200 %.
import type { Page } from "@playwright/test";
import { demo, expect, figure, fresh, test } from "./common";

/** What has the focus: what a reader of the screen says of it, and whether it is seen. */
const held = (page: Page) =>
  page.evaluate(() => {
    const e = document.activeElement as HTMLElement | null;
    if (!e || e === document.body) return null;
    const box = e.getBoundingClientRect();
    const label = e.getAttribute("aria-label") ?? (e.getAttribute("aria-labelledby") ? "labelled" : "");
    const role = e.getAttribute("role") ?? e.tagName.toLowerCase();
    const inside = e.matches("input, textarea, select")
      ? (e.closest("label")?.textContent ?? "")
      : (e.textContent ?? "");
    return {
      said: `${role} ${(label || inside).trim().slice(0, 60)}`.trim(),
      named: (label || inside).trim() !== "",
      seen: box.bottom > 0 && box.top < innerHeight && box.right > 0 && box.left < innerWidth,
    };
  });

/** Walks the whole page by Tab; gives what it stopped at, in order. */
const walk = async (page: Page) => {
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  const stops: string[] = [];
  const wrong: string[] = [];
  for (let i = 0; i < 900; i++) {
    await page.keyboard.press("Tab");
    const at = await held(page);
    // Out of the page's end, to the browser.
    if (!at) return { stops, wrong };
    if (i > 0 && at.said === stops[0]) return { stops, wrong };
    stops.push(at.said);
    if (!at.named || !at.seen)
      wrong.push(`${at.said || "nothing"} (${at.named ? "not seen" : "no name"}), after ${stops.at(-2)}`);
  }
  throw new Error(`the walk does not end: ${stops.slice(-12)}`);
};

test("every page is walked by Tab alone: each stop is seen, has a name, and can be left", async ({
  page,
}) => {
  const job = await demo(page, "stand");
  const pages: [string, RegExp[]][] = [
    [
      `/jobs/${job}/pieces/stand`,
      [
        /past the head/,
        /job title/,
        /Pieces$/,
        /P-101/,
        /quantity/,
        /leg b, start-1/,
        /application flat pattern/,
        /bends folded/,
        /type a line/,
        /Mass/,
        /keys$/,
      ],
    ],
    [
      `/jobs/${job}/frames`,
      [
        /usual section/,
        /x, node-1|east, node-1/,
        /name of the group of post-1/,
        /mark of post-1/,
        /type a line/,
        /Cut list/,
      ],
    ],
    [
      `/jobs/${job}/briefs/brief-1`,
      [/size, size-1/, /overall width 60/, /what is not checked/, /type a line/],
    ],
    [`/jobs/${job}/papers`, [/DXF for the cutter/, /paper size/, /P-101/, /tab Drawing/]],
    ["/", [/New job/, /Orchard/]],
  ];
  // One group of the frame's lines is walked: the other has the same fields once more.
  await page.evaluate(() => localStorage.setItem("steelk.folded.frame-1", '["post-1"]'));
  for (const [path, must] of pages) {
    await page.goto(path);
    await page.waitForTimeout(1500);
    const { stops, wrong } = await walk(page);
    expect(wrong, path).toEqual([]);
    for (const m of must)
      expect(
        stops.some((s) => m.test(s)),
        `${path}: ${m} not among ${stops.join(" · ")}`,
      ).toBe(true);
  }
});

test("focus never falls to the page: taking out, undo, mends, chips and tabs leave it near", async ({
  page,
}) => {
  await fresh(page);
  await page.getByRole("main").focus();
  await page.keyboard.press("p");
  await page.keyboard.press("Escape");
  const here = async () => (await held(page))?.said ?? "the page";
  for (const text of ["hole 6 at 20 from west, 20 from south", "hole 8 at 20 from east, 20 from south"]) {
    await page.locator("#short-text").fill(text);
    await page.keyboard.press("Enter");
  }
  await expect(page.locator("[data-line=punch-2]")).toBeVisible();
  // By key, by pointer, and the last of all.
  await page.locator("[data-line=punch-2]").focus();
  await page.keyboard.press("Delete");
  await expect(page.locator("[data-line=punch-1]")).toBeFocused();
  await page.locator("[data-line=punch-1]").focus();
  await page.getByRole("button", { name: "take out punch-1" }).click();
  await expect(page.locator("[data-line=start-1]")).toBeFocused();
  // Undo goes on until it can undo nothing more, and keeps the focus in the head.
  const undo = page.getByLabel("undo", { exact: true });
  await undo.focus();
  for (let i = 0; i < 12 && (await undo.isEnabled()); i++) await page.keyboard.press("Enter");
  await expect.poll(here).not.toBe("the page");
  for (let i = 0; i < 12 && (await page.getByLabel("redo", { exact: true }).isEnabled()); i++)
    await page.getByLabel("redo", { exact: true }).click();
  await expect.poll(here).not.toBe("the page");
  // Who clicks beside a field has left it, whatever changes on the page then.
  await page.getByLabel("width, start-1").fill("250");
  await page.locator(".figures").click({ position: { x: 740, y: 20 } });
  await expect(page.locator(".saving")).toHaveText("saved");
  await page.waitForTimeout(300);
  await expect(page.getByLabel("width, start-1")).not.toBeFocused();
  // A mend takes its own chip away.
  const mend = page.locator(".findings .mend").first();
  await expect(mend).toBeEnabled();
  await mend.focus();
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-line]")).toHaveCount(2);
  await page.waitForTimeout(300);
  expect(await here()).not.toBe("the page");
});

test("Enter acts on chips and in menus; letters stay with buttons; remark and name are a key away", async ({
  page,
}) => {
  await demo(page, "stand");
  const lines = page.locator("[data-line]");
  await expect(lines.first()).toBeVisible();
  const before = await lines.count();
  // On a tab, a button, a chip: no letter adds a line.
  for (const at of [
    page.getByRole("tab", { name: "Flat pattern" }),
    page.getByRole("button", { name: "from above" }),
    page.getByRole("button", { name: "as text" }),
  ]) {
    await at.focus();
    await page.keyboard.press("h");
    await page.keyboard.press("f");
  }
  await page.waitForTimeout(200);
  await expect(lines).toHaveCount(before);
  // A menu of a leg, by keys alone.
  await page.getByRole("button", { name: "more for leg b" }).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "more for leg b" })).toBeFocused();
  await page.getByRole("button", { name: "side by side" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "one above the other" })).toBeFocused();
  await page.keyboard.press("Enter");
  // A chip within a line: Enter is the chip's.
  const chip = page.locator("[data-line=mirror-1]").getByRole("button", { name: /^punch-1/ });
  const was = await chip.getAttribute("aria-pressed");
  await chip.focus();
  await page.keyboard.press("Enter");
  await expect(chip).not.toHaveAttribute("aria-pressed", was!);
  await page.keyboard.press("Enter");
  const line = page.locator("[data-line=punch-1]");
  await line.focus();
  await page.keyboard.press("Alt+r");
  await page.keyboard.type("by hand");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("remark of punch-1")).toHaveValue("by hand");
  await line.focus();
  await page.keyboard.press("Alt+n");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("two words");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/punch-1 keeps its name.*' ' cannot stand/)).toBeVisible();
  await line.focus();
  await page.keyboard.press("Alt+n");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("long-slot");
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-line=long-slot]")).toBeVisible();
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
});

test("the flat is walked by the arrows, each thing is said, and Enter offers its lines", async ({
  page,
}) => {
  await demo(page, "stand");
  const flat = page.locator("svg.flat");
  await flat.focus();
  const said = page.locator(".pane [role=status]");
  await page.keyboard.press("ArrowRight");
  await expect(said).toHaveText(/^panel /);
  const seen = new Set<string>();
  for (let i = 0; i < 6; i++) {
    seen.add(((await said.textContent()) ?? "").split(" ")[0]!);
    await page.keyboard.press("ArrowDown");
  }
  expect([...seen].sort()).toEqual(["bend", "corner", "edge", "hole", "panel"]);
  await page.keyboard.press("Home");
  for (let i = 0; i < 40 && !/^edge/.test((await said.textContent()) ?? ""); i++)
    await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("menu")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(flat).toBeFocused();
  const scale = () => page.locator("svg.flat > g").first().getAttribute("transform");
  const fitted = await scale();
  await page.keyboard.press("+");
  expect(await scale()).not.toBe(fitted);
  await page.keyboard.press("0");
  expect(await scale()).toBe(fitted);
});

test("a line is copied as text, and put in elsewhere", async ({ page, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await demo(page, "stand");
  await page.locator("[data-line=punch-1]").focus();
  await page.keyboard.press("Control+c");
  await expect(page.getByText(/^copied: .*72/)).toBeVisible();
  await fresh(page);
  await page.getByRole("main").focus();
  await page.keyboard.press("p");
  await page.keyboard.press("Escape");
  await expect(page.locator("[data-line=start-1]")).toBeFocused();
  await page.keyboard.press("Control+v");
  const line = page.locator("[data-line=punch-1]");
  await expect(line).toBeFocused();
  await expect(line.getByLabel("length, punch-1")).toHaveValue("72");
});

test("nothing is off the screen at 200 %, and what is current is seen in forced colours", async ({
  page,
}) => {
  await page.setViewportSize({ width: 640, height: 400 });
  const job = await demo(page, "stand");
  const stations = ["briefs/brief-1", "pieces/stand", "frames", "papers"].map((s) => `/jobs/${job}/${s}`);
  for (const path of [...stations, "/"]) {
    await page.goto(path);
    await page.waitForTimeout(1200);
    const out = await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>("button, a, input, select, [role=tab]")]
        .filter((e) => {
          const r = e.getBoundingClientRect();
          if (r.width === 0 || e.closest(".unseen, .skip, .line-acts")) return false;
          // Within something that can be scrolled to it, it is not lost.
          for (let p = e.parentElement; p; p = p.parentElement)
            if (/auto|scroll/.test(getComputedStyle(p).overflowX) && p.scrollWidth > p.clientWidth)
              return false;
          return r.right > innerWidth + 1 || r.left < -1;
        })
        .map((e) => e.getAttribute("aria-label") ?? e.textContent),
    );
    expect(out, path).toEqual([]);
    expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(
      640,
    );
  }
  await page.emulateMedia({ forcedColors: "active" });
  await page.goto(`/jobs/${job}/pieces/stand`);
  await expect(figure(page, "mass")).toBeVisible();
  const framed = (selector: string) =>
    page
      .locator(selector)
      .first()
      .evaluate((e) => getComputedStyle(e).outlineStyle);
  expect(await framed("[role=tab][aria-selected=true]")).toBe("solid");
  expect(await framed(".stations a.active")).toBe("solid");
});
