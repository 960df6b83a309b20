import { useState } from "react";
import { answer, api, said } from "../api/client";
import type { Line, ShortRead } from "../api/types";
import { issue } from "../draft/ids";
import { addLines } from "../draft/store";
import { cutIds } from "./defaults";

/** A line of a recipe typed as short text. */
export function ShortText({ lines }: { lines: Line[] }) {
  return (
    <TypedLine<Line["say"]>
      example="hole 9 at 15 from west, 20 from south"
      read={async (text, before) => {
        // Pasted lines may speak of the ones above them.
        const all = [...lines];
        for (const say of before)
          all.push({
            id: issue(
              say.verb,
              all.map((l) => l.id),
            ).id,
            say,
          });
        return answer(await api.POST("/api/short", { body: { text, known: cutIds(all) } }));
      }}
      add={addLines}
    />
  );
}

interface Typed<S> {
  example: string;
  /** What the text says after the lines before it, or what is wrong with it. */
  read(text: string, before: S[]): Promise<{ say?: S | null; fault?: ShortRead["fault"] }>;
  add(says: S[]): void;
}

/** Lines that are taken in at once. */
const MOST_PASTED = 200;

/** A field for lines of any kind: read by the server, added when they can be. Several pasted lines come in one step. */
export function TypedLine<S>({ example, read, add }: Typed<S>) {
  const [text, setText] = useState("");
  const [fault, setFault] = useState("");
  const [going, setGoing] = useState(false);
  const enter = async (all: string[]) => {
    if (going || all.length === 0) return;
    setGoing(true);
    const says: S[] = [];
    const left: string[] = [];
    const faults: string[] = [];
    try {
      for (const line of all.slice(0, MOST_PASTED)) {
        const got = await read(line, says);
        if (got.say) says.push(got.say);
        else {
          left.push(line);
          faults.push(`${all.length > 1 ? `“${line.slice(0, 60)}”: ` : ""}${got.fault?.message}. Try: ${got.fault?.mend}`);
        }
      }
      left.push(...all.slice(MOST_PASTED));
      if (all.length > MOST_PASTED) faults.push(`${MOST_PASTED} lines are taken in at once; the rest stands in the field`);
    } catch (e) {
      setFault(said(e));
      setText(all.join("; "));
      setGoing(false);
      return;
    }
    if (says.length > 0) add(says);
    setText(left.join("; "));
    setFault([faults.length > 0 && all.length > 1 ? `${says.length} of ${all.length} lines taken in` : "", ...faults].filter((f) => f).join(". "));
    setGoing(false);
  };
  return (
    <form
      className="short"
      onSubmit={(e) => {
        e.preventDefault();
        void enter([text]);
      }}
    >
      <input
        id="short-text"
        data-own-text
        aria-label="type a line"
        placeholder={`or type a line:  ${example}   ( / )`}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onPaste={(e) => {
          const lines = e.clipboardData
            .getData("text")
            .split(/\r?\n/)
            .map((l) => l.trim())
            .filter(Boolean);
          if (lines.length < 2) return;
          e.preventDefault();
          void enter(lines);
        }}
        spellCheck={false}
        autoComplete="off"
      />
      {fault && (
        <p className="fault" role="alert">
          {fault}
        </p>
      )}
    </form>
  );
}
