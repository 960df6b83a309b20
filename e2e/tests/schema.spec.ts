import { readFile } from "node:fs/promises";
import Ajv from "ajv/dist/2020.js";
import { expect, test } from "./common";

const json = async (path: string) => JSON.parse(await readFile(new URL(path, import.meta.url), "utf8"));

test("the published schema takes the sample job and refuses a stray field", async () => {
  const ajv = new Ajv({ strict: false, validateFormats: false });
  const valid = ajv.compile(await json("../../docs/job.schema.json"));
  const job = await json("../../demo/orchard-line.steelk.json");
  expect(valid(job), JSON.stringify(valid.errors)).toBe(true);
  job.pieces[0].lines[0].say.colour = "red";
  expect(valid(job)).toBe(false);
  delete job.pieces[0].lines[0].say.colour;
  job.pieces[0].lines[1].say.shape = { kind: "star" };
  expect(valid(job)).toBe(false);
});
