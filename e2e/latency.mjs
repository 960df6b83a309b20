// From a keystroke in a value to both views redrawn, on a demo piece; for the drum (3,000 holes) to its
// figures, with the longest task of the page.
// The figures of docs/benchmarks.md.
import { withDemo } from "./serve.mjs";

/** Each piece is opened so often: from one opening to the next the median goes by ten. */
const ROUNDS = 4;
const PIECES = [
  ["stand", "length of leg b, start-1"],
  ["hat", "length of leg c, start-1"],
  ["box", "height, start-1"],
];

/** Thirty keys, each to the frame that shows what it changes. */
async function keys(label) {
  const input = document.querySelector(`[aria-label="${label}"]`);
  const write = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
  const out = [];
  for (let i = 0; i < 30; i++) {
    const figure = document.querySelector('[data-figure="flat_length"] .value');
    const before = figure.textContent;
    // The frame that shows it, told of as soon as the figure is written: who only looks now and then
    // counts the next one too.
    const drawn = new Promise((done) => {
      const watch = new MutationObserver(() => {
        if (figure.textContent === before) return;
        watch.disconnect();
        requestAnimationFrame(() => setTimeout(done));
      });
      watch.observe(figure, { subtree: true, childList: true, characterData: true });
    });
    const begun = performance.now();
    write.call(input, String(200 + i));
    input.dispatchEvent(new Event("input", { bubbles: true }));
    await drawn;
    out.push(performance.now() - begun);
    await new Promise((r) => setTimeout(r, 150));
  }
  return out;
}

await withDemo(7998, async (page, _, job) => {
  const took = new Map(PIECES.map(([piece]) => [piece, []]));
  for (let i = 0; i < ROUNDS; i++)
    for (const [piece, label] of PIECES) {
      await page.goto(`${job}/pieces/${piece}`);
      await page.getByLabel(label).focus();
      await page.waitForTimeout(1500);
      took.get(piece).push(...(await page.evaluate(keys, label)));
    }
  for (const [piece, times] of took) {
    times.sort((a, b) => a - b);
    const within = (share) => times[Math.floor(times.length * share)].toFixed(0);
    console.log(
      `keystroke to both views, ${piece}: median ${within(0.5)} ms, 90 % within ${within(0.9)} ms`,
      `(${times.length} keys)`,
    );
  }
  await page.goto(`${job}/pieces/drum`);
  await page.locator(".flat .hole").first().waitFor();
  await page.waitForTimeout(2500);
  // What the page's own thread computes in a task: on a shared machine the clock also counts what others
  // take.
  const browser = page.context().browser();
  await browser.startTracing(page, { categories: ["toplevel", "devtools.timeline"] });
  const times = await page.evaluate(async () => {
    const input = document.querySelector('[aria-label="thickness"]');
    const write = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
    const times = [];
    for (let i = 0; i < 12; i++) {
      const before = document.querySelector('[data-figure="mass"] .value').textContent;
      const begun = performance.now();
      write.call(input, String(1 + (i % 9) / 10));
      input.dispatchEvent(new Event("input", { bubbles: true }));
      while (document.querySelector('[data-figure="mass"] .value').textContent === before)
        await new Promise((r) => setTimeout(r, 1));
      times.push(performance.now() - begun);
      await new Promise((r) => setTimeout(r, 1500));
    }
    return times.sort((a, b) => a - b);
  });
  const { traceEvents: events } = JSON.parse(await browser.stopTracing());
  const main = new Set(
    events
      .filter((e) => e.name === "thread_name" && e.args.name === "CrRendererMain")
      .map((e) => `${e.pid} ${e.tid}`),
  );
  const tasks = events.filter((e) => /RunTask$/.test(e.name) && e.tdur && main.has(`${e.pid} ${e.tid}`));
  if (tasks.length === 0) throw new Error("the trace holds no task of the page");
  const longest = (key) =>
    tasks
      .map((e) => e[key] / 1000)
      .sort((a, b) => b - a)
      .slice(0, 4)
      .map((t) => t.toFixed(0))
      .join(", ");
  console.log(
    `keystroke to figures, drum: median ${times[6].toFixed(0)} ms, longest ${times[11].toFixed(0)} ms;`,
    `longest tasks of ${tasks.length}: ${longest("tdur")} ms of its thread,`,
    `${longest("dur")} ms by the clock`,
  );
});
