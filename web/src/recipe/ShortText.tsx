import { useState } from "react";
import { answer, api } from "../api/client";
import type { ShortRead } from "../api/types";
import { addLine } from "../draft/store";

/** A line of a recipe typed as short text. */
export function ShortText({ known }: { known: string[] }) {
  return (
    <TypedLine
      example="hole 9 at 15 from west, 20 from south"
      read={async (text) => answer(await api.POST("/api/short", { body: { text, known } }))}
      add={addLine}
    />
  );
}

interface Typed<S> {
  example: string;
  /** What the text says, or what is wrong with it. */
  read(text: string): Promise<{ say?: S | null; fault?: ShortRead["fault"] }>;
  add(say: S): void;
}

/** A field for lines of any kind: read by the server, added when they can be. */
export function TypedLine<S>({ example, read, add }: Typed<S>) {
  const [text, setText] = useState("");
  const [fault, setFault] = useState("");
  const enter = async () => {
    try {
      const got = await read(text);
      if (got.say) {
        add(got.say);
        setText("");
        setFault("");
      } else setFault(got.fault ? `${got.fault.message}. Try: ${got.fault.mend}` : "");
    } catch (e) {
      setFault(e instanceof Error ? e.message : "The server does not answer");
    }
  };
  return (
    <form
      className="short"
      onSubmit={(e) => {
        e.preventDefault();
        void enter();
      }}
    >
      <input
        id="short-text"
        aria-label="type a line"
        placeholder={`or type a line:  ${example}   ( / )`}
        value={text}
        onChange={(e) => setText(e.target.value)}
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
