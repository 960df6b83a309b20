import { draft, writePiece } from "../document/draft";
import { materialOptions, useBook } from "../hooks/useBook";
import { useDraft, usePiece } from "../hooks/useDraft";
import { FaultNote } from "../verbs/Fault";
import { Choice, Fields, Val } from "../verbs/Field";

const UNITS: [string, string][] = [
  ["job", "the job's unit"],
  ["mm", "mm"],
  ["in", "inches"],
];

/** What a piece or a frame is called and how many there are, with the way to its findings. */
export function HeadLine({ found }: { found: number }) {
  return (
    <p>
      <Val path="/mark" label="mark" /> <Val path="/name" label="name" empty="name" />,{" "}
      <Val path="/quantity" label="quantity" /> off.
      {found > 0 && (
        <button
          type="button"
          className="chip found"
          onClick={() => document.querySelector(".findings")?.scrollIntoView({ block: "end" })}
        >
          {found === 1 ? "1 finding ↓" : `${found} findings ↓`}
        </button>
      )}
    </p>
  );
}

/** What the piece is made of and how it bends: picked first, because it drives everything. */
export function PieceHead() {
  const { piece } = usePiece();
  const result = useDraft((d) => d.result?.piece);
  const book = useBook();
  if (!piece) return null;
  const faults = (result?.id === piece.id ? result.faults : []).filter((f) => f.line === "");
  const found = result?.id === piece.id ? result.findings.length + result.faults.length : 0;
  const materials = materialOptions(book.data?.materials, draft.getState().job);
  const tests = (draft.getState().job?.test_bends ?? []).map((t): [string, string] => [t.id, t.id]);
  const shelf = book.data?.materials.find((m) => m.id === piece.material);
  const rule = piece.bend_rule?.school ?? "";
  return (
    <section className="piece-head" aria-label="piece">
      <Fields at="" faults={faults}>
        <HeadLine found={found} />
        <p>
          <Val path="/thickness" label="thickness" /> thick{" "}
          <Choice path="/material" label="material" options={materials} />
          {shelf?.gauges.length ? (
            <span className="hint" title={`Gauge numbers here are the ${shelf.gauge_said}`}>
              {" "}
              or a gauge: 16 ga = {shelf.gauges.find((g) => g.number === 16)?.mm.toFixed(2)} mm
            </span>
          ) : null}
        </p>
        <p>
          Bends R{" "}
          <Val
            path="/radius"
            label="inside radius"
            empty={result?.id === piece.id ? result.radius_text : "smallest"}
            optional
          />{" "}
          by{" "}
          <select
            className="choice"
            aria-label="bend school"
            value={rule}
            onChange={(e) =>
              writePiece("/bend_rule", e.target.value === "" ? undefined : { school: e.target.value })
            }
          >
            <option value="">the job's rule</option>
            <option value="din6935">DIN 6935</option>
            <option value="k_factor">K-factor</option>
            <option value="handbook90">handbook 90°</option>
            <option value="table">bend table</option>
            <option value="test_bend">test bend</option>
          </select>
          {rule === "k_factor" && (
            <>
              {" "}
              <Val path="/bend_rule/k" label="K-factor" empty="usual" optional />
            </>
          )}
          {rule === "test_bend" && (
            <>
              {" "}
              <Choice
                path="/bend_rule/test"
                label="test bend"
                options={[["", "the last of this sheet"], ...tests]}
                optional
              />
            </>
          )}
          , rolled{" "}
          <Choice
            path="/rolling"
            label="rolling direction"
            options={[
              ["unknown", "either way"],
              ["east", "west to east"],
              ["north", "south to north"],
            ]}
          />
          ,{" "}
          <Choice
            path="/hand"
            label="hand"
            options={[
              ["none", "no hand"],
              ["left", "left hand"],
              ["right", "right hand"],
            ]}
          />
          , finish <Val path="/finish" label="finish" empty="none" optional />, in{" "}
          <select
            className="choice"
            aria-label="unit of this piece"
            value={piece.display?.length ?? "job"}
            onChange={(e) =>
              writePiece(
                "/display",
                e.target.value === "job"
                  ? undefined
                  : { length: e.target.value, inches: piece.display?.inches ?? "1/64" },
              )
            }
          >
            {UNITS.map(([v, w]) => (
              <option key={v} value={v}>
                {w}
              </option>
            ))}
          </select>
          {piece.display?.length === "in" && (
            <>
              {" to "}
              <Choice
                path="/display/inches"
                label="inches shown"
                options={["decimal", "1/16", "1/32", "1/64"].map((v) => [v, v])}
              />
            </>
          )}
        </p>
        {faults.map((f, k) => (
          <FaultNote key={k} fault={f} at="" />
        ))}
      </Fields>
    </section>
  );
}
