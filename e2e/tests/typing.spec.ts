// Values typed letter by letter, as hands do: each arrives whole, the keyboard stays where it is, no line is
// added.
import { demo, expect, figure, fresh, saved, test } from "./common";

test("120 values letter by letter keep the keyboard", async ({ page }) => {
  test.setTimeout(900_000);
  await fresh(page);
  await page.locator("summary", { hasText: "Job figures" }).click();
  await page.getByRole("button", { name: "+ figure" }).click();
  await page.getByLabel("name of figure 1").fill("bolt");
  await page.locator("body").click({ position: { x: 900, y: 600 } });
  await page.keyboard.press("p");
  await page.keyboard.press("Escape");
  await page.keyboard.press("h");
  await page.keyboard.press("Escape");
  await expect(page.locator(".line")).toHaveCount(2);
  const shapes = [
    (n: number) => `bolt + ${n}`,
    (n: number) => `${n + 100}`,
    (n: number) => `${n % 8}/8in`,
    (n: number) => `${n + 2} 3/16in`,
    (n: number) => `2*(bolt-${n % 7})`,
    (n: number) => `${n}mm + 1in`,
    (n: number) => `bolt*${n} - t`,
    () => "chubbier",
    (n: number) => `${n}.25`,
    (n: number) => `${n + 1}' 2"`,
  ];
  const fields = [
    page.getByLabel("width, start-1"),
    page.getByLabel("height, start-1"),
    page.getByLabel(/^diameter, punch/),
    page.getByLabel(/^thickness$/),
  ];
  for (let n = 0; n < 120; n++) {
    const field = fields[n % fields.length]!;
    const text = shapes[n % shapes.length]!(n);
    await field.click();
    // Slowly now and then, so that faults come and go between the keys.
    await page.keyboard.type(text, { delay: n % 25 === 0 ? 350 : 8 + (n % 5) * 6 });
    expect(await field.inputValue(), `value ${n}`).toBe(text);
    expect(await field.evaluate((e) => e === document.activeElement), `focus after ${text}`).toBe(true);
  }
  await expect(page.locator(".line")).toHaveCount(2);
  await saved(page);
});

test("an emptied start value leaves the last picture, marked as old", async ({ page }) => {
  await demo(page, "stand");
  const first = page.locator(".line").first().locator(".val").first();
  const text = await first.inputValue();
  await first.fill("");
  await expect(page.locator(".views.old")).toBeVisible();
  await expect(page.locator(".pane canvas, .pane svg").first()).toBeVisible();
  await expect(page.getByText("as it was before its start could not be read")).toBeVisible();
  await first.fill(text);
  await expect(page.locator(".views.old")).toHaveCount(0);
});

test("separate acts are separate steps; an undo goes to what it changes; typed text undoes itself", async ({
  page,
}) => {
  await fresh(page);
  await page.keyboard.press("p");
  await page.locator("summary", { hasText: "Job figures" }).click();
  for (let i = 1; i <= 3; i++) {
    await page.getByRole("button", { name: "+ figure" }).click();
    await expect(page.getByLabel(/^name of figure/)).toHaveCount(i);
  }
  await page.getByLabel("undo", { exact: true }).click();
  await expect(page.getByLabel(/^name of figure/)).toHaveCount(2);
  // Another piece comes on the bench; undoing what was done before goes back to it.
  await page.getByLabel("width, start-1").fill("555");
  await page.getByRole("button", { name: "+ piece" }).click();
  await page.keyboard.press("z");
  for (let i = 0; i < 3; i++) await page.getByLabel("undo", { exact: true }).click();
  await expect(page.getByLabel("width, start-1")).not.toHaveValue("555");
  await expect(page.locator('.rail [aria-selected="true"]')).toContainText("P-101");
  // What is typed into the line of short text is undone there, and the recipe stays.
  await expect(page.locator(".line").first()).toBeVisible();
  const lines = await page.locator(".line").count();
  await page.locator("#short-text").click();
  await page.keyboard.type("hole 9 at 15 from west", { delay: 20 });
  await page.keyboard.press("Control+z");
  await expect(page.locator(".line")).toHaveCount(lines);
  expect(await page.locator("#short-text").inputValue()).not.toBe("hole 9 at 15 from west");
  await page.locator("#short-text").fill("");
  // Several pasted lines are several lines and one step.
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData(
      "text",
      "hole 9 at 15 from west, 20 from south\nslot 9 x 20 at 40 from west, 20 from south\n\nwhat is this\n",
    );
    document
      .querySelector("#short-text")!
      .dispatchEvent(
        new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
      );
  });
  await expect(page.locator(".line")).toHaveCount(lines + 2);
  await expect(page.getByText("2 of 3 lines taken in")).toBeVisible();
  await expect(page.locator("#short-text")).toHaveValue("what is this");
  await page.getByLabel("undo", { exact: true }).click();
  await expect(page.locator(".line")).toHaveCount(lines);
  // A key that is held acts once.
  await page.evaluate(() => {
    (document.activeElement as HTMLElement).blur();
    for (let i = 0; i < 5; i++)
      document.body.dispatchEvent(
        new KeyboardEvent("keydown", { key: "h", repeat: i > 0, bubbles: true }),
      );
  });
  await expect(page.locator(".line")).toHaveCount(lines + 1);
});

test("an id is never used twice, who names a lost line is told, and a figure takes its uses along", async ({
  page,
}) => {
  await fresh(page);
  await page.keyboard.press("p");
  await page.keyboard.press("Escape");
  await page.keyboard.press("h");
  await page.keyboard.press("Escape");
  await page.keyboard.press("m");
  await page.keyboard.press("Escape");
  await expect(page.locator('[data-line="mirror-1"]')).toBeVisible();
  await page.locator('[data-line="punch-1"]').focus();
  await page.keyboard.press("Delete");
  await expect(page.getByText("punch-1 is taken out; mirror-1 still names it")).toBeVisible();
  await expect(page.locator('[data-line="mirror-1"] .fault')).toBeVisible();
  await page.locator('[data-line="mirror-1"]').focus();
  await page.keyboard.press("h");
  await page.keyboard.press("Escape");
  await expect(page.locator('[data-line="punch-2"]')).toBeVisible();
  await saved(page);
  // The sentences come last: no line takes a key before its verb can be added.
  await page.route("**/api/verbs", async (route) => {
    await new Promise((done) => setTimeout(done, 1500));
    await route.continue();
  });
  await page.reload();
  await page.locator('[data-line="punch-2"]').focus();
  await page.keyboard.press("Delete");
  await page.locator('[data-line="mirror-1"]').focus();
  await page.keyboard.press("h");
  await expect(page.locator('[data-line="punch-3"]')).toBeVisible();
  // A figure by another name.
  await page.locator("summary", { hasText: "Job figures" }).click();
  await page.getByRole("button", { name: "+ figure" }).click();
  const width = page.getByLabel("width, start-1");
  await width.fill("size1*20");
  await page.getByLabel("name of figure 1").click();
  await page.getByLabel("name of figure 1").press("Control+a");
  await page.keyboard.type("pitch", { delay: 30 });
  await width.click();
  await expect(width).toHaveValue("pitch*20");
  await expect(figure(page, "mass")).toBeVisible();
  await page.getByLabel("undo", { exact: true }).click();
  await expect(width).toHaveValue("size1*20");
  await expect(page.getByLabel("name of figure 1")).toHaveValue("size1");
});

test("a line by another name takes along who names it", async ({ page }) => {
  await fresh(page);
  for (const key of ["p", "h", "m"]) {
    await page.keyboard.press(key);
    await page.keyboard.press("Escape");
  }
  await page.locator('[data-line="punch-1"] .line-id').click();
  await page.getByLabel("name of punch-1").fill("eye");
  await page.keyboard.press("Enter");
  await expect(page.locator('[data-line="eye"]')).toBeVisible();
  await expect(page.locator('[data-line="mirror-1"]')).toContainText("eye");
  await expect(page.locator(".line .fault")).toHaveCount(0);
  await page.getByLabel("undo", { exact: true }).click();
  await expect(page.locator('[data-line="punch-1"]')).toBeVisible();
  await expect(page.locator('[data-line="mirror-1"]')).toContainText("punch-1");
});

test("Enter that ends a composed letter stays with the field", async ({ page }) => {
  await fresh(page);
  await page.keyboard.press("p");
  await page.keyboard.press("Escape");
  await page.locator('[data-line="start-1"] .line-id').click();
  const name = page.getByLabel("name of start-1");
  const keys = await page.context().newCDPSession(page);
  // As an input method does it: the letter stands underlined, keys are its own, then it is put in.
  const compose = async (text: string) => {
    await keys.send("Input.imeSetComposition", {
      text,
      selectionStart: text.length,
      selectionEnd: text.length,
    });
    await keys.send("Input.dispatchKeyEvent", {
      type: "rawKeyDown",
      key: "Enter",
      code: "Enter",
      windowsVirtualKeyCode: 229,
    });
    await expect(name).toBeFocused();
    await keys.send("Input.insertText", { text });
  };
  await name.fill("");
  await compose("板");
  await expect(name).toHaveValue("板");
  await page.keyboard.press("Escape");
  const width = page.getByLabel("width, start-1");
  await width.click();
  await keys.send("Input.imeSetComposition", { text: "5", selectionStart: 1, selectionEnd: 1 });
  await keys.send("Input.dispatchKeyEvent", {
    type: "rawKeyDown",
    key: "Enter",
    code: "Enter",
    windowsVirtualKeyCode: 229,
  });
  await expect(width).toBeFocused();
  await expect(page.locator(".line")).toHaveCount(1);
});

test("lines typed faster than they are read all come in; one that fails wipes nothing typed since", async ({
  page,
}) => {
  await fresh(page);
  await page.keyboard.press("p");
  await page.keyboard.press("Escape");
  await page.route("**/api/lines", async (route) => {
    await new Promise((r) => setTimeout(r, 900));
    await route.continue();
  });
  const text = page.locator("#short-text");
  await text.click();
  for (const line of ["hole 6 at 20 from west, 20 from south", "slot 30 x 8", "punhc 9"]) {
    await page.keyboard.type(line, { delay: 8 });
    await page.keyboard.press("Enter");
  }
  await page.keyboard.type("hole 7", { delay: 8 });
  await expect(page.locator("[data-line=punch-2]")).toContainText("slot");
  await expect(page.locator(".short .fault")).toContainText("punhc 9");
  await expect(text).toHaveValue("hole 7");
  await expect(page.locator("[data-line=punch-1]")).toContainText("round hole");
  // Alone, what fails stands in its field again.
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-line=punch-3]")).toBeVisible();
  await page.keyboard.type("slto 9");
  await page.keyboard.press("Enter");
  await expect(text).toHaveValue("slto 9");
});
