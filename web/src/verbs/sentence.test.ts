import { expect, test } from "vitest";
import { clauseName, isOwn, labelled } from "./Sentence";
import type { Of, PartView } from "./useVerbs";

const slot = (path: string, label: string) => ({ part: "slot", path, label, kind: "length" });
const word = (text: string) => ({ part: "word", text });
const clause = (parts: unknown[], shown: unknown) =>
  ({ part: "clause", parts, shown }) as unknown as PartView;
const told = (path: string) => ({ when: "told", path });

test("a clause that tells its own field stands only where it is asked for", () => {
  expect(isOwn(clause([word("gap"), slot("/gap", "gap")], told("/gap")))).toBe(true);
  // A group counts by any of its fields, above or below.
  expect(isOwn(clause([slot("/bend_rule/k", "K")], told("/bend_rule")))).toBe(true);
  expect(isOwn(clause([slot("/bend_rule", "rule")], told("/bend_rule/school")))).toBe(true);
  // What follows another's field, or always stands, cannot be asked for.
  expect(isOwn(clause([slot("/lips_in", "lips")], told("/lip")))).toBe(false);
  expect(isOwn(clause([slot("/gap", "gap")], { when: "always" }))).toBe(false);
  expect(isOwn(slot("/gap", "gap") as unknown as PartView)).toBe(false);
  const within = { part: "within", path: "/tools", parts: [slot("/angle", "angle")] };
  expect(isOwn(clause([within], told("/tools")))).toBe(true);
});

test("a clause is called by its first word, else by its field", () => {
  const name = (parts: unknown[]) => clauseName(clause(parts, told("/x")) as Of<"clause">);
  expect(name([word("spaced:"), slot("/x", "pitch")])).toBe("spaced");
  expect(name([slot("/x", "inside radius")])).toBe("inside radius");
  expect(name([{ part: "names", path: "/x", label: "edges" }])).toBe("edges");
  expect(name([])).toBe("more");
});

test("labels of items say which item they are of", () => {
  expect(labelled("length of leg {id}", { id: "b", n: 3 })).toBe("length of leg b");
  expect(labelled("x of point {n}", { n: 3 })).toBe("x of point 3");
  expect(labelled("gap", undefined)).toBe("gap");
});
