// From a keystroke in a value to both views redrawn, on a demo piece: the figure of docs/benchmarks.md.
import { withDemo } from "./serve.mjs";

await withDemo(7998, async (page, _, job) => {
  for (const [piece, label] of [["stand", "length of leg b"], ["hat", "length of leg c"]]) {
    await page.goto(`${job}/pieces/${piece}`);
    await page.getByLabel(label).focus();
    await page.waitForTimeout(1500);
    const times = await page.evaluate(async (label) => {
      const input = document.querySelector(`[aria-label="${label}"]`);
      const write = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
      const out = [];
      for (let i = 0; i < 30; i++) {
        const figure = document.querySelector('[data-figure="flat_length"] .value');
        const before = figure.textContent;
        const begun = performance.now();
        write.call(input, String(200 + i));
        input.dispatchEvent(new Event("input", { bubbles: true }));
        while (document.querySelector('[data-figure="flat_length"] .value').textContent === before) await new Promise((r) => setTimeout(r, 1));
        await new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)));
        out.push(performance.now() - begun);
        await new Promise((r) => setTimeout(r, 150));
      }
      return out.sort((a, b) => a - b);
    }, label);
    console.log(`keystroke to both views, ${piece}: median ${times[15].toFixed(0)} ms, 90 % within ${times[27].toFixed(0)} ms`);
  }
});
