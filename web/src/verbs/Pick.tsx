import { NativeSelect } from "@mui/material";

/** A value and the words for it. */
export type Option = readonly [string, string];

interface Props {
  label: string;
  value: string;
  options: readonly Option[];
  choose(value: string): void;
  /** JSON pointer of the field that it writes. */
  path?: string;
  faulty?: boolean;
  /** Begins the sentence. */
  bold?: boolean;
}

/** One word of several, in the midst of a sentence. */
export function Pick({ label, value, options, choose, path, faulty, bold }: Props) {
  const named = { "aria-label": label, "aria-invalid": faulty || undefined, "data-path": path };
  return (
    <NativeSelect
      variant="standard"
      disableUnderline
      value={value}
      onChange={(e) => choose(e.target.value)}
      inputProps={{ ...named, className: bold ? "choice verb" : "choice" }}
    >
      {options.map(([v, words]) => (
        <option key={v} value={v}>
          {words}
        </option>
      ))}
    </NativeSelect>
  );
}
