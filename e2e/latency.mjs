// From a keystroke in a value to both views redrawn, on a demo piece; for the drum (3,000 holes) to its
// figures, with the longest task of the page.
// The figures of docs/benchmarks.md. Several builds (STEELK=one,other) are measured in turn.
import { BUILDS, withDemo } from "./serve.mjs";
import { work } from "./speed.mjs";

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

/** Twelve keys in the drum's thickness, each to its mass. */
async function drumKeys() {
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
  return times;
}

/** The drum's keys, and the longest tasks of the page beside them. */
async function drum(page, job) {
  await page.goto(`${job}/pieces/drum`);
  await page.locator(".flat .hole").first().waitFor();
  await page.waitForTimeout(2500);
  // What the page's own thread computes in a task: on a shared machine the clock also counts what others
  // take.
  const browser = page.context().browser();
  await browser.startTracing(page, { categories: ["toplevel", "devtools.timeline"] });
  const times = await page.evaluate(drumKeys);
  const { traceEvents: events } = JSON.parse(await browser.stopTracing());
  const main = new Set(
    events
      .filter((e) => e.name === "thread_name" && e.args.name === "CrRendererMain")
      .map((e) => `${e.pid} ${e.tid}`),
  );
  const tasks = events.filter((e) => /RunTask$/.test(e.name) && e.tdur && main.has(`${e.pid} ${e.tid}`));
  if (tasks.length === 0) throw new Error("the trace holds no task of the page");
  const longest = (key) => Math.max(...tasks.map((e) => e[key] / 1000));
  return { times, own: longest("tdur"), clock: longest("dur") };
}

/** Of one build: what all of its keys took. */
const results = BUILDS.map((build) => ({ build, keys: new Map(), own: [], clock: [] }));
const speeds = [];
const put = (of, piece, times) => of.keys.set(piece, [...(of.keys.get(piece) ?? []), ...times]);
for (let i = 0; i < ROUNDS; i++)
  for (const of of results)
    await withDemo(
      7998,
      async (page, _, job) => {
        for (const [piece, label] of PIECES) {
          await page.goto(`${job}/pieces/${piece}`);
          await page.getByLabel(label).focus();
          await page.waitForTimeout(1500);
          speeds.push(work());
          put(of, piece, await page.evaluate(keys, label));
          speeds.push(work());
        }
        const { times, own, clock } = await drum(page, job);
        put(of, "drum", times);
        of.own.push(own);
        of.clock.push(clock);
      },
      of.build,
    );

const at = (all, share) => [...all].sort((a, b) => a - b)[Math.floor(all.length * share)];
for (const { build, keys: all, own, clock } of results) {
  if (BUILDS.length > 1) console.log(build);
  for (const [piece, times] of all) {
    const to = piece === "drum" ? "its figures" : "both views";
    const [median, most] = [0.5, 0.9].map((share) => at(times, share).toFixed(0));
    console.log(
      `keystroke to ${to}, ${piece}: median ${median} ms, 90 % within ${most} (${times.length} keys)`,
    );
  }
  console.log(
    `longest task of the page at the drum: ${at(own, 0.5).toFixed(0)} ms of its thread,`,
    `${at(clock, 0.5).toFixed(0)} ms by the clock (middle of ${ROUNDS})`,
  );
}
console.log(
  `the machine meanwhile: the same work took ${at(speeds, 0).toFixed(2)} ms at the best,`,
  `${at(speeds, 0.5).toFixed(2)} in the middle, ${at(speeds, 0.9).toFixed(2)} at nine tenths`,
);
