import { Tooltip } from "@mui/material";
import { createContext, type ReactNode, useContext, useId, useState } from "react";
import type { LineFault } from "../api/types";
import { writePiece } from "../document/draft";
import { get } from "../document/pointer";
import { usePiece } from "../hooks/useDraft";

/** The part of the piece that the fields below write to, and the faults found there. */
interface Where {
  /** JSON pointer of the line (or the piece itself). */
  at: string;
  faults: LineFault[];
}

const Place = createContext<Where>({ at: "", faults: [] });

/** The document that fields read and write: the piece on the bench, unless another is given. */
interface Owner {
  doc: unknown;
  write(path: string, value: unknown, typed?: boolean): void;
}

const Own = createContext<Owner | null>(null);

export function OwnerOf({ doc, write, children }: Owner & { children: ReactNode }) {
  return <Own value={{ doc, write }}>{children}</Own>;
}

export function useOwner(): Owner {
  const own = useContext(Own);
  const { piece } = usePiece();
  return own ?? { doc: piece, write: writePiece };
}

/** JSON pointer of the line that fields here belong to. */
export function useAt(): string {
  return useContext(Place).at;
}

/** Whether a field of this line has a fault. */
export function useFaulty(path: string): boolean {
  return useContext(Place).faults.some((f) => f.path === path);
}

export function Fields({ at, faults, children }: Where & { children: ReactNode }) {
  return <Place value={{ at, faults }}>{children}</Place>;
}

function useField(path: string) {
  const { at, faults } = useContext(Place);
  const { doc, write } = useOwner();
  const value = get(doc, at + path);
  return {
    value: value === undefined || value === null ? "" : String(value),
    missing: value === undefined,
    fault: faults.find((f) => f.path === path),
    write: (v: unknown, typed = false) => write(at + path, v, typed),
  };
}

interface ValProps {
  path: string;
  label: string;
  empty?: string;
  optional?: boolean;
  /** Words that are often written there. */
  options?: string[];
}

/** A value in the middle of a sentence: as wide as what it holds, underlined when it cannot be read. */
export function Val({ path, label, empty = "", optional = false, options }: ValProps) {
  const { value, fault, write } = useField(path);
  const id = useId();
  const shown = value || empty;
  const field = (
    <input
      className="val"
      aria-label={label}
      aria-invalid={fault ? true : undefined}
      data-path={path}
      value={value}
      placeholder={empty}
      size={1}
      list={options ? id : undefined}
      style={{ width: `${Math.min(Math.max(shown.length, 2), 26) + (options ? 4 : 1.4)}ch` }}
      spellCheck={false}
      autoComplete="off"
      onFocus={(e) => e.currentTarget.select()}
      onChange={(e) => write(optional && e.target.value === "" ? undefined : e.target.value, true)}
    />
  );
  // Always inside a tooltip, an empty one while all is well: a field that came and went with its fault would
  // lose the keyboard.
  return (
    <>
      <Tooltip title={fault ? `${fault.message}. To mend it: ${fault.mend}` : ""}>{field}</Tooltip>
      {options && (
        <datalist id={id}>
          {options.map((o) => (
            <option key={o} value={o} />
          ))}
        </datalist>
      )}
    </>
  );
}

/** Several words in a row, written as they are read: `north, south`. What is typed is told at every key. */
export function Words({
  path,
  label,
  empty = "",
  between = ", ",
}: {
  path: string;
  label: string;
  empty?: string;
  between?: string;
}) {
  const { doc, write } = useOwner();
  const value = get(doc, path);
  const told = Array.isArray(value) ? value.join(between) : "";
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? told;
  return (
    <input
      className="val words"
      aria-label={label}
      placeholder={empty}
      value={shown}
      spellCheck={false}
      autoComplete="off"
      style={{ width: `${Math.min(Math.max(shown.length, empty.length, 3), 40) + 1.5}ch` }}
      onFocus={(e) => e.currentTarget.select()}
      onChange={(e) => {
        setTyped(e.target.value);
        write(path, e.target.value.split(/[\s,]+/).filter(Boolean), true);
      }}
      onBlur={() => setTyped(null)}
    />
  );
}

/** A word in a sentence that can be another word. */
export function Choice({
  path,
  label,
  options,
  optional = false,
  flag = false,
  usual,
  bold = false,
}: {
  path: string;
  label: string;
  options: [string, string][];
  /** The empty word takes the field out. */
  optional?: boolean;
  /** The words stand for no and yes. */
  flag?: boolean;
  /** What is meant where nothing is told; the first option where it is not given. */
  usual?: string;
  /** Begins the sentence. */
  bold?: boolean;
}) {
  const { value: told, missing, fault, write } = useField(path);
  // What a job file leaves out is its first word.
  const value = missing && (usual || !optional) ? (usual ?? options[0]?.[0] ?? "") : told;
  const known = options.some(([v]) => v === value);
  return (
    <select
      className={bold ? "choice verb" : "choice"}
      aria-label={label}
      aria-invalid={fault ? true : undefined}
      data-path={path}
      value={value}
      onChange={(e) =>
        write(
          flag
            ? e.target.value === "true"
            : optional && e.target.value === ""
              ? undefined
              : e.target.value,
        )
      }
    >
      {!known && <option value={value}>{value || "…"}</option>}
      {options.map(([v, word]) => (
        <option key={v} value={v}>
          {word}
        </option>
      ))}
    </select>
  );
}
