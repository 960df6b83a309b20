import { IconButton, Menu, MenuItem } from "@mui/material";
import { memo, useMemo, useState } from "react";
import { draft } from "../document/draft";
import { get } from "../document/pointer";
import { useDraft } from "../hooks/useDraft";
import { Act } from "./Act";
import { useAt, useCalled, useInches, useOf, useOwner, useValue } from "./Field";
import { added, type Item, type List, without } from "./listItems";
import { type Asking, clauseName, isOwn, labelled, Parts } from "./Sentence";
import type { Of } from "./useVerbs";

/** Items in a row, each with its values; more can be added, and any taken out. */
export function ListPart({ list, pre, tail }: { list: List; pre: string; tail: string }) {
  const { write } = useOwner();
  const at = useAt();
  const path = at + pre + list.path;
  const items = (useValue(path) as Item[] | undefined) ?? [];
  const inch = useInches();
  const rows = items.map((item, i) => (
    <ItemChip
      key={String(item.id ?? i)}
      list={list}
      item={item}
      i={i}
      pre={`${pre}${list.path}/${i}`}
      count={items.length}
      path={path}
    />
  ));
  return (
    <>
      {list.chain ? <span className="profile">{rows}</span> : rows}
      {!list.chain &&
        list.adds.map((add) => (
          <Act key={add.name} onClick={() => write(path, added(list, items, add, items.length, inch))}>
            {`+ ${add.name}`}
          </Act>
        ))}
      {!list.chain && tail}
    </>
  );
}

interface ItemProps {
  list: List;
  item: Item;
  i: number;
  pre: string;
  count: number;
  path: string;
}

/** Drawn anew only where the item itself, its place or how many there are changes. */
const ItemChip = memo(function ItemChip({ list, item, i, pre, count, path }: ItemProps) {
  const own = useOwner();
  const inch = useInches();
  const all = () => (get(own.of(draft.getState()), path) as Item[] | undefined) ?? [];
  const line = useOf();
  const { setHover } = draft.getState();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [asked, setAsked] = useState<number[]>([]);
  const case_ =
    list.item[0]?.part === "union" ? list.item[0].cases.find((c) => c.tag === item.kind) : undefined;
  const more = (case_?.parts ?? []).flatMap((p, k) => (isOwn(p) && !asked.includes(k) ? [k] : []));
  const id = item.id === undefined ? undefined : String(item.id);
  const hovered = useDraft((d) => id !== undefined && d.hover.names.some((n) => n.endsWith(`.${id}`)));
  const named = useMemo(() => ({ ...(id === undefined ? {} : { id }), n: i + 1 }), [id, i]);
  const kind = typeof item.kind === "string" ? item.kind : "";
  const name = [case_?.words || kind, id].filter(Boolean).join(" ") || String(i + 1);
  const letters = list.ids?.lettered ?? "";
  // Between legs stand bends; where nothing is lettered anything may follow.
  const fits = (add: List["adds"][number]) =>
    letters === "" || ((add.mm as Item[])[0]?.kind === letters) !== (kind === letters);
  const called = useCalled(`more for ${name}`);
  const put = (next: Item[]) => {
    setMenu(null);
    if (next.length >= Math.max(list.least, list.chain ? 1 : 0)) own.write(path, next);
  };
  return (
    <span
      className={`element ${kind || (list.lead ? "bend" : "leg")}${hovered ? " lit" : ""}`}
      data-element={id}
      onPointerEnter={() => id !== undefined && setHover({ names: [`${line}.${id}`] })}
      onPointerLeave={() => id !== undefined && setHover({ names: [] })}
    >
      {list.lead && id === undefined ? `${list.lead} ` : ""}
      {kind ? `${name} ` : list.lead && id !== undefined ? `${list.lead} ${id} ` : ""}
      <Parts
        parts={case_ ? case_.parts : list.item}
        pre={pre}
        item={named}
        {...(case_ ? { asking: [asked, setAsked] as Asking } : {})}
      />
      {list.chain ? (
        <>
          <IconButton
            size="small"
            className="more"
            aria-label={called}
            onClick={(x) => setMenu(x.currentTarget)}
          >
            ⋯
          </IconButton>
          {menu && (
            <Menu anchorEl={menu} open onClose={() => setMenu(null)}>
              {list.adds.filter(fits).map((add) => (
                <MenuItem key={add.name} onClick={() => put(added(list, all(), add, i + 1, inch))}>
                  add {add.name} after it
                </MenuItem>
              ))}
              {more.map((k) => (
                <MenuItem
                  key={k}
                  onClick={() => {
                    setMenu(null);
                    setAsked([...asked, k]);
                  }}
                >
                  {labelled(clauseName(case_!.parts[k] as Of<"clause">), named)}…
                </MenuItem>
              ))}
              {count > 2 && <MenuItem onClick={() => put(without(list, all(), i))}>take it out</MenuItem>}
            </Menu>
          )}
        </>
      ) : (
        count > list.least && (
          <Act
            aria-label={`take out ${list.label} ${id ?? i + 1}`}
            onClick={() => put(without(list, all(), i))}
          >
            ×
          </Act>
        )
      )}
    </span>
  );
});
