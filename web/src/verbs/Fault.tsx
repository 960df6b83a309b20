import type { LineFault } from "../api/types";
import { useValue } from "./Field";

/** Why a value cannot be carried out, with the very characters marked, and the mend. */
export function FaultNote({ fault, at }: { fault: LineFault; at: string }) {
  const value = useValue(at + fault.path);
  const text = typeof value === "string" ? [...value] : [];
  const part = fault.end > fault.start && fault.end <= text.length;
  return (
    <p className="fault" role="alert">
      <b>Stop.</b>{" "}
      {part && (
        <code>
          {text.slice(0, fault.start).join("")}
          <mark>{text.slice(fault.start, fault.end).join("")}</mark>
          {text.slice(fault.end).join("")}
        </code>
      )}
      {part && ": "}
      {fault.message}. <i>{fault.mend}.</i>
    </p>
  );
}
