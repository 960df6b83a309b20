import { Tooltip } from "@mui/material";
import { createContext, type ReactNode, useContext, useId, useMemo, useState } from "react";
import type { LineFault } from "../api/types";
import { type Doc, docOf, writeDoc, writeJob } from "../document/bench";
import { type Documents, inInches } from "../document/draft";
import { get } from "../document/pointer";
import { useDocument } from "../hooks/useDraft";
import { Pick } from "./Pick";

/** The part of the piece that the fields below write to, and the faults found there. */
interface Where {
  /** JSON pointer of the line (or the piece itself). */
  at: string;
  faults: LineFault[];
  /** What a field is where nothing is told, by its path below. */
  usual?: Record<string, string>;
  /** What the fields are called after, such as the line's name: part of what a reader of the screen says. */
  of?: string;
}

const Place = createContext<Where>({ at: "", faults: [] });

/** A document that fields read and write. */
interface Owner {
  of(draft: Documents): unknown;
  write(path: string, value: unknown, typed?: boolean): void;
}

const OWNERS = {
  piece: { of: (d) => docOf("piece", d), write: (...told) => writeDoc("piece", ...told) },
  frame: { of: (d) => docOf("frame", d), write: (...told) => writeDoc("frame", ...told) },
  brief: { of: (d) => docOf("brief", d), write: (...told) => writeDoc("brief", ...told) },
  job: { of: (d) => d.job, write: writeJob },
} satisfies Record<string, Owner>;

const Own = createContext<Owner>(OWNERS.piece);

/** The fields below are of the piece or frame on the bench, or of the job. */
export function OwnerOf({ name, children }: { name: keyof typeof OWNERS; children: ReactNode }) {
  return <Own value={OWNERS[name]}>{children}</Own>;
}

export function useOwner(): Owner {
  return useContext(Own);
}

/** What stands at a pointer of the owner; drawn anew only when that changes. */
export function useValue(path: string): unknown {
  const own = useOwner();
  return useDocument((d) => get(own.of(d), path));
}

/** Whether the owner's sizes are told in inches. */
export function useInches(): boolean {
  const own = useOwner();
  return useDocument((d) => inInches(own.of(d) as Partial<Doc>, d));
}

/** JSON pointer of the line that fields here belong to. */
export function useAt(): string {
  return useContext(Place).at;
}

/** Whether a field of this line has a fault. */
export function useFaulty(path: string): boolean {
  return useContext(Place).faults.some((f) => f.path === path);
}

/** What the fields here are of, such as a line's name. */
export function useOf(): string {
  return useContext(Place).of ?? "";
}

/** What a field is called: its label, and what it is of. */
export function useCalled(label: string): string {
  const of = useOf();
  return of ? `${label}, ${of}` : label;
}

export function Fields({ at, faults, usual, of, children }: Where & { children: ReactNode }) {
  // One value while nothing of it changes: else every field would be drawn anew with each key.
  const where = useMemo(() => ({ at, faults, usual, of }), [at, faults, usual, of]);
  return <Place value={where}>{children}</Place>;
}

function useField(path: string) {
  const { at, faults, usual } = useContext(Place);
  const { write } = useOwner();
  const value = useValue(at + path);
  return {
    usual: usual?.[path],
    value: value === undefined || value === null ? "" : String(value),
    missing: value === undefined,
    fault: faults.find((f) => f.path === path),
    write: (v: unknown, typed = false, to = path) => write(at + to, v, typed),
  };
}

interface ValProps {
  path: string;
  label: string;
  empty?: string;
  optional?: boolean;
  /** Words that are often written there, and what each comes with. */
  options?: (string | [string, string])[];
  /** Words are written there, no value. */
  words?: boolean;
}

/** A value in the middle of a sentence: as wide as what it holds, underlined when it cannot be read. */
export function Val({ path, label, empty = "", optional = false, options, words = false }: ValProps) {
  const { value, fault, usual, write } = useField(path);
  const called = useCalled(label);
  const id = useId();
  const nothing = usual ?? empty;
  const shown = value || nothing;
  const field = (
    <input
      className={words ? "val words" : "val"}
      aria-label={called}
      aria-invalid={fault ? true : undefined}
      data-path={path}
      value={value}
      placeholder={nothing}
      size={1}
      list={options ? id : undefined}
      style={{ width: `${Math.min(Math.max(shown.length, 2), words ? 46 : 26) + (options ? 4 : 1.4)}ch` }}
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
          {options.map((o) => {
            const [words, said] = typeof o === "string" ? [o] : o;
            return (
              <option key={words} value={words}>
                {said}
              </option>
            );
          })}
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
  const { write } = useOwner();
  const value = useValue(path);
  const told = Array.isArray(value) ? value.join(between) : "";
  const [typed, setTyped] = useState<string | null>(null);
  const called = useCalled(label);
  const shown = typed ?? told;
  return (
    <input
      className="val words"
      aria-label={called}
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
  leads = false,
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
  /** Its group goes with it: a rule goes as a whole. */
  leads?: boolean;
  /** What is meant where nothing is told; the first option where it is not given. */
  usual?: string;
  /** Begins the sentence. */
  bold?: boolean;
}) {
  const { value: told, missing, fault, write } = useField(path);
  // What a job file leaves out is its first word.
  const value = missing && (usual || !optional) ? (usual ?? options[0]?.[0] ?? "") : told;
  const known = options.some(([v]) => v === value);
  const called = useCalled(label);
  const choose = (v: string) => {
    if (leads && v === "") write(undefined, false, path.slice(0, path.lastIndexOf("/")));
    else write(flag ? v === "true" : optional && v === "" ? undefined : v);
  };
  return (
    <Pick
      label={called}
      path={path}
      faulty={fault !== undefined}
      bold={bold}
      value={value}
      options={known ? options : [[value, value || "…"], ...options]}
      choose={choose}
    />
  );
}
