import { withDemo } from "./serve.mjs";
await withDemo(7996, async (page, base) => {
  await page.setViewportSize({ width: 660, height: 420 });
  await page.goto(base);
  const v = await (await page.request.get(base + "/api/verbs")).json();
  const all = [...v.beginnings.piece, ...v.beginnings.frame];
  await page.setContent(`<base href="${base}"><div style="display:grid;grid-template-columns:repeat(4,1fr);gap:6px;font:12px sans-serif">` + all.map(b => `<div style="border:1px solid #ccc"><img width=150 src="${base}/api/begin/${b.tag}/picture"><br>${b.name}: ${b.sizes.map(s => s.letter + " " + s.name).join(", ")}</div>`).join("") + "</div>");
  await page.waitForTimeout(4000);
  await page.screenshot({ path: "/tmp/t/s-begin.png" });
  console.log(JSON.stringify(v.beginnings).length);
});
