import { useState } from "react";
import { answer, api } from "../api/client";
import { addLine } from "../draft/store";

/** A line typed as short text: `hole 9 at 15 from west, 20 from south`. */
export function ShortText({ known }: { known: string[] }) {
  const [text, setText] = useState("");
  const [fault, setFault] = useState("");
  const enter = async () => {
    try {
      const got = answer(await api.POST("/api/short", { body: { text, known } }));
      if (got.say) {
        addLine(got.say);
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
        placeholder="or type a line:  hole 9 at 15 from west, 20 from south   ( / )"
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
