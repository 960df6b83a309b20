import { type ReactNode, useId } from "react";
import { useAt, useOwner, useValue } from "./Field";

interface Props {
  path: string;
  label: string;
  /** What an empty value is called; none where a value is needed. */
  empty?: string;
  /** The narrowest it is drawn, in letters. */
  least: number;
  onFocus?(): void;
  /** What is offered. */
  children: ReactNode;
}

/** The value of a field, and setting it, by its path in the line. */
export function useWritten(path: string, empty = "") {
  const { write } = useOwner();
  const at = useAt() + path;
  const value = String(useValue(at) ?? "");
  return { value, set: (text: string) => write(at, text === "" && empty ? undefined : text, true) };
}

/** Words that a list stands behind; others may be written. */
export function Listed({ path, label, empty = "", least, onFocus, children }: Props) {
  const { value, set } = useWritten(path, empty);
  const id = useId();
  return (
    <>
      <input
        className="val words"
        aria-label={label}
        list={id}
        placeholder={empty}
        value={value}
        spellCheck={false}
        autoComplete="off"
        style={{ width: `${Math.max(value.length, empty.length, least) + 2.5}ch` }}
        onFocus={onFocus}
        onChange={(e) => set(e.target.value)}
      />
      <datalist id={id}>{children}</datalist>
    </>
  );
}
