import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, normalize, relative } from "node:path";
import { expect, test } from "vitest";

/**
 * What each room may import beside itself. A page knows no other page; the document and its figures know no
 * React.
 */
const MAY: Record<string, string[]> = {
  api: [],
  theme: [],
  document: ["api"],
  evaluation: ["api", "document"],
  hooks: ["api", "document", "evaluation"],
  verbs: ["api", "document", "evaluation", "hooks"],
  viewers: ["api", "document", "evaluation", "hooks", "theme", "verbs"],
  components: ["api", "document", "evaluation", "hooks", "theme", "verbs"],
  pages: ["api", "document", "evaluation", "hooks", "theme", "verbs", "viewers", "components"],
  app: ["api", "document", "evaluation", "hooks", "theme", "components", "pages"],
};
const NO_REACT = ["api", "document", "evaluation"];
const REACT = /^(react|react-dom|react-router|@mui\/.*|@tanstack\/.*|zustand)$/;

const src = join(import.meta.dirname, "src");
const files = readdirSync(src, { recursive: true, encoding: "utf8" }).filter((f) => /\.tsx?$/.test(f));
const room = (f: string) => f.split("/")[0]!;
const imported = files.flatMap((file) =>
  [...readFileSync(join(src, file), "utf8").matchAll(/(?:from|import) ?\(?"([^"]+)"/g)].map((m) => ({
    file,
    of: m[1]!.startsWith(".") ? relative(src, normalize(join(src, dirname(file), m[1]!))) : m[1]!,
    own: m[1]!.startsWith("."),
  })),
);

test("no room imports a room above it, and no page another page", () => {
  expect(imported.length).toBeGreaterThan(200);
  const inRooms = imported.filter((i) => i.own && i.file.includes("/") && room(i.of) !== room(i.file));
  expect(inRooms.filter((i) => !MAY[room(i.file)]?.includes(room(i.of)))).toEqual([]);
  expect(imported.filter((i) => i.own && room(i.file) === "pages" && room(i.of) === "pages")).toEqual([]);
});

test("the document and its figures know no React", () => {
  expect(imported.filter((i) => NO_REACT.includes(room(i.file)) && REACT.test(i.of))).toEqual([]);
});

test("a file has one subject: at most 400 lines of at most 110 characters", () => {
  const own = files.filter((f) => !f.endsWith("schema.d.ts"));
  const lines = (f: string) => readFileSync(join(src, f), "utf8").split("\n");
  expect(own.filter((f) => lines(f).length > 400)).toEqual([]);
  const long = (l: string) => l.length > 110 && !l.includes("://");
  expect(own.flatMap((f) => lines(f).filter(long).map((l) => `${f}: ${l}`))).toEqual([]);
});
