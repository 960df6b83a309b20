import { useEffect, useRef, useState } from "react";
import { said } from "../../api/client";
import { Pick } from "../../verbs/Pick";
import { PLANES, type PlaneName } from "./FrameScene";

interface Props {
  plane: PlaneName;
  setPlane(plane: PlaneName): void;
  /** The node that the next leg goes on from. */
  from: string | null;
  /** What lies under the pencil, in words. */
  under: string | null;
  /** Puts down the place that is typed; what is wrong with it otherwise. */
  put(text: string): Promise<string | null>;
  /** Esc with nothing typed. */
  lift(): void;
}

/** The working plane while one draws: which it is, what lies under the pencil, and the next place typed. */
export function PlaneBar({ plane, setPlane, from, under, put, lift }: Props) {
  const [text, setText] = useState("");
  const [fault, setFault] = useState("");
  const input = useRef<HTMLInputElement>(null);
  // A number that is typed anywhere begins the next place.
  useEffect(() => {
    const begin = (e: KeyboardEvent) => {
      const at = e.target as Element;
      if (e.ctrlKey || e.metaKey || e.altKey || at.closest("input, select, textarea, [role=application]"))
        return;
      if (/^[-\d.]$/.test(e.key)) input.current?.focus();
    };
    document.addEventListener("keydown", begin);
    return () => document.removeEventListener("keydown", begin);
  }, []);
  const enter = async () => {
    const asked = text;
    if (!asked.trim()) return;
    try {
      const wrong = await put(asked);
      setFault(wrong ?? "");
      if (!wrong) setText((now) => (now === asked ? "" : now));
    } catch (e) {
      setFault(`not put down: ${said(e)}`);
    }
  };
  return (
    <span className="hint plane-bar">
      <Pick
        label="working plane"
        value={plane}
        options={(Object.keys(PLANES) as PlaneName[]).map((p) => [p, PLANES[p].words] as const)}
        choose={(p) => setPlane(p as PlaneName)}
      />{" "}
      through {from ?? "zero"}
      <input
        ref={input}
        className="val"
        data-own-text
        aria-label={`next place from ${from ?? "zero"}`}
        aria-invalid={fault !== "" || undefined}
        placeholder="600 east, 450 up"
        title="type a place from where the pencil stands and press Enter"
        value={text}
        spellCheck={false}
        autoComplete="off"
        onChange={(e) => {
          setText(e.target.value);
          setFault("");
        }}
        onKeyDown={(e) => {
          if (e.nativeEvent.isComposing) return;
          if (e.key === "Enter") void enter();
          if (e.key !== "Escape") return;
          e.stopPropagation();
          if (text) setText("");
          else lift();
        }}
      />
      {fault ? <span role="alert">{fault}</span> : under && <> {under}</>}
    </span>
  );
}
