import { useState } from "react";
import type { Frame } from "../api/types";
import { draft, editFrame, writeFrame } from "../document/draft";
import { materialOptions, useBook } from "../hooks/useBook";
import { useDraft, useFrame } from "../hooks/useDraft";
import { FaultNote } from "../verbs/Fault";
import { Choice, Fields, OwnerOf, Val } from "../verbs/Field";
import { LineList } from "../verbs/LineList";
import { Palette } from "../verbs/palette";
import { SectionField } from "../verbs/SectionField";
import { Sentence } from "../verbs/Sentence";
import { TextView } from "../verbs/TextView";
import { TypedLine } from "../verbs/TypedLine";
import { HeadLine } from "./PieceHead";

/** What the frame is made of, and its lines. */
export function FrameRecipe() {
  const { frame } = useFrame();
  const result = useDraft((d) => d.result?.frame);
  const [asText, setAsText] = useState("");
  if (!frame) return null;
  const faults = result?.id === frame.id ? result.faults : [];
  const lines = frame.lines ?? [];
  return (
    <OwnerOf doc={frame} write={writeFrame}>
      <FrameHead frame={frame} />
      {asText === frame.id ? (
        <TextView bench="frame" doc={frame} close={() => setAsText("")} />
      ) : (
        <>
          <div className="text-toggle">
            <button type="button" className="chip" onClick={() => setAsText(frame.id)}>
              as text
            </button>
          </div>
          <LineList
            label="frame lines"
            lines={lines}
            faults={faults}
            change={(f) =>
              editFrame("", (x) => {
                const next = f(x.lines ?? [], x.issued ?? {});
                return Array.isArray(next) ? { ...x, lines: next } : { ...x, ...next };
              })
            }
            sentence={(line) => <Sentence bench="frame" verb={line.say.verb} />}
          />
          {lines.length === 0 && (
            <div className="empty">
              <p>
                Nothing is said yet. A frame starts with nodes: places where members meet. Say one, type
                one, or draw with the pencil in the view.
              </p>
            </div>
          )}
          <div className="add">
            <Palette bench="frame" />
            <TypedLine bench="frame" />
          </div>
        </>
      )}
    </OwnerOf>
  );
}

function FrameHead({ frame }: { frame: Frame }) {
  const result = useDraft((d) => d.result?.frame);
  const book = useBook();
  const known = result?.id === frame.id ? result : undefined;
  const faults = (known?.faults ?? []).filter((f) => f.line === "");
  const found = (known?.findings.length ?? 0) + (known?.faults.length ?? 0);
  const materials = materialOptions(book.data?.materials, draft.getState().job);
  return (
    <section className="piece-head" aria-label="frame">
      <Fields at="" faults={faults}>
        <HeadLine found={found} />
        <p>
          Of <SectionField path="/section" label="usual section" /> in{" "}
          <span className="end">
            <Choice path="/material" label="material" options={materials} />.
          </span>
        </p>
        <p>
          Corners{" "}
          <Choice
            path="/joint"
            label="usual joint"
            options={[
              ["mitre", "are mitred"],
              ["butt", "are butted"],
            ]}
          />
          , gap for the weld{" "}
          <span className="end">
            <Val path="/gap" label="usual gap" empty="0" optional />.
          </span>
        </p>
        {faults.map((f, k) => (
          <FaultNote key={k} fault={f} at="" />
        ))}
      </Fields>
    </section>
  );
}
