import { useState } from "react";
import type { BenchName, NewLine } from "../document/bench";
import { nameGroup } from "../document/lines";
import { classes } from "../hooks/classes";
import { useDraft } from "../hooks/useDraft";

/** Lines under a name; those above the first name have none. */
export interface Group {
  /** The line that it begins with. */
  first: string;
  name: string;
  lines: NewLine[];
}

/** The lines in their groups, and the place of the first line of each among all. */
export function groupsOf(lines: NewLine[]): Group[] {
  const out: Group[] = [];
  for (const line of lines) {
    const last = out.at(-1);
    if (line.group || !last) out.push({ first: line.id, name: line.group ?? "", lines: [line] });
    else last.lines.push(line);
  }
  return out;
}

const key = (of: string) => `steelk.folded.${of}`;

/** Groups of a piece or frame that are folded in this browser, and how one is folded. */
export function useFolded(of: string, groups: Group[]): [Set<string>, (first: string) => void] {
  const [all, setAll] = useState<{ of: string; folded: Set<string> }>(() => read(of));
  const now = all.of === of ? all : read(of);
  if (now !== all) setAll(now);
  // Who goes to a line sees it.
  const [seen, setSeen] = useState("");
  const picked = useDraft((d) => d.picked);
  const put = (folded: Set<string>) => {
    setAll({ of, folded });
    try {
      localStorage.setItem(key(of), JSON.stringify([...folded]));
    } catch {
      // Folded until the page is left.
    }
  };
  if (picked !== seen) {
    setSeen(picked);
    const holds = groups.find((g) => now.folded.has(g.first) && g.lines.some((l) => l.id === picked));
    if (holds) {
      const open = new Set(now.folded);
      open.delete(holds.first);
      put(open);
    }
  }
  const flip = (first: string) => {
    const next = new Set(now.folded);
    if (!next.delete(first)) next.add(first);
    put(next);
  };
  return [now.folded, flip];
}

function read(of: string): { of: string; folded: Set<string> } {
  try {
    const told = JSON.parse(localStorage.getItem(key(of)) ?? "[]") as unknown;
    return { of, folded: new Set(Array.isArray(told) ? told.map(String) : []) };
  } catch {
    return { of, folded: new Set() };
  }
}

interface Props {
  bench: BenchName;
  group: Group;
  folded: boolean;
  /** Lines of it that cannot be carried out. */
  wrong: number;
  flip(): void;
  walk(from: HTMLElement, by: number): void;
}

/** The name over a group, by which it is folded. */
export function GroupHead({ bench, group, folded, wrong, flip, walk }: Props) {
  // What is typed stands, even while it is nothing; a group without a name ends when the field is left.
  const [typed, setTyped] = useState<string | null>(null);
  const n = group.lines.length;
  const keys = (e: React.KeyboardEvent<HTMLLIElement>) => {
    if (e.nativeEvent.isComposing || e.keyCode === 229) return;
    if (e.target !== e.currentTarget) {
      if (e.key === "Escape" || e.key === "Enter") {
        if ((e.target as Element).matches("input")) e.currentTarget.focus();
      }
      return;
    }
    const acts: Record<string, () => void> = {
      ArrowUp: () => walk(e.currentTarget, -1),
      ArrowDown: () => walk(e.currentTarget, 1),
      ArrowLeft: () => folded || flip(),
      ArrowRight: () => folded && flip(),
      " ": flip,
      Enter: () => e.currentTarget.querySelector("input")?.focus(),
    };
    if (!acts[e.key] || e.ctrlKey || e.metaKey || e.altKey) return;
    e.preventDefault();
    e.stopPropagation();
    acts[e.key]!();
  };
  return (
    <li
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrows walk from line to line
      tabIndex={0}
      className={classes("group-head", { folded })}
      data-group={group.first}
      onKeyDown={keys}
    >
      <button
        type="button"
        tabIndex={-1}
        aria-expanded={!folded}
        aria-label={`${folded ? "unfold" : "fold"} ${group.name}`}
        onClick={flip}
      >
        {folded ? "▸" : "▾"}
      </button>
      <input
        aria-label={`name of the group of ${group.first}`}
        value={typed ?? group.name}
        onFocus={() => setTyped(group.name)}
        onChange={(e) => {
          setTyped(e.target.value);
          if (e.target.value.trim()) nameGroup(bench, group.first, e.target.value);
        }}
        onBlur={() => {
          if (typed !== null && !typed.trim()) nameGroup(bench, group.first, "");
          setTyped(null);
        }}
      />
      <span className="count">
        {n === 1 ? "1 line" : `${n} lines`}
        {wrong > 0 && <b>{` · ${wrong} to mend`}</b>}
      </span>
    </li>
  );
}
