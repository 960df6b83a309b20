/** Items of a list within a line: what one is called, what is added, what goes with another. */

import type { Of } from "./useVerbs";

export type Item = Record<string, unknown>;
export type List = Of<"list">;

/** The usual id of an item behind others: the first that none of them has. */
export function freshId(ids: NonNullable<List["ids"]>, items: Item[], item: Item): string {
  const taken = new Set(items.map((i) => i.id));
  const usual = ids.lettered !== "" && item.kind === ids.lettered ? ids.letters : ids.usual;
  return usual.find((id) => !taken.has(id)) ?? "";
}

/** The items with what is added at a place; its own values come from the list's description. */
export function added(
  list: List,
  items: Item[],
  add: List["adds"][number],
  where: number,
  inch: boolean,
): Item[] {
  const out = items.slice(0, where);
  for (const said of (inch ? add.inch : add.mm) as Item[]) {
    const own = { ...said };
    if (list.ids) own.id = freshId(list.ids, [...items, ...out.slice(where)], own);
    out.push(own);
  }
  return [...out, ...items.slice(where)];
}

/** A link of a chain goes with the one between it and the next, where legs and bends take turns. */
export function without(list: List, items: Item[], i: number): Item[] {
  if (!list.chain || list.ids?.lettered === "") return items.filter((_, k) => k !== i);
  const isLeg = items[i]?.kind === list.ids?.lettered;
  const beside = isLeg ? (items[i - 1] ? i - 1 : i + 1) : i + 1;
  return items.filter((_, k) => k !== i && k !== beside);
}
