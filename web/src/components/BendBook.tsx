import type { Job } from "../api/types";
import { draft } from "../document/draft";
import { issue } from "../document/ids";
import { set as put } from "../document/pointer";
import { useBook } from "../hooks/useBook";
import { OwnerOf, Words } from "../verbs/Field";

const write = (path: string, value: unknown, typed = false) =>
  draft.getState().edit(typed ? `job:${path}` : "", (j) => put(j, path, value));

/** A value of the job in a table cell. */
function Cell({
  path,
  label,
  value,
  wide = false,
}: {
  path: string;
  label: string;
  value: string;
  wide?: boolean;
}) {
  return (
    <input
      className={`val${wide ? " words" : ""}`}
      aria-label={label}
      value={value}
      onChange={(e) => write(path, e.target.value, true)}
    />
  );
}

/** Punch, beam, die, bed and stop by a few figures each; what is left empty is as usual. */
function Tools({ job }: { job: Job }) {
  const fields = useBook().data?.tools ?? [];
  const told = (job.brake?.tools ?? {}) as Record<string, string | undefined>;
  return (
    <table className="tools" aria-label="tools of the brake">
      <tbody>
        {fields.map((f) => (
          <tr key={f.field}>
            <td>{f.said}</td>
            <td>
              <input
                className="val"
                aria-label={f.said}
                placeholder={job.display?.length === "in" ? f.usual_in : f.usual_mm}
                value={told[f.field] ?? ""}
                onChange={(e) =>
                  write(`/brake/tools`, { ...told, [f.field]: e.target.value || undefined }, true)
                }
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What the shop knows of its own bends: the brake, the bend table, and test bends measured after bending. */
export function BendBook({ job }: { job: Job }) {
  const table = job.bend_table ?? [];
  const tests = job.test_bends ?? [];
  const first = job.pieces?.[0];
  const usual = {
    material: first?.material ?? "s235",
    thickness: first?.thickness ?? "2",
    radius: "2",
    angle: "90",
  };
  const without = <T,>(list: T[], i: number) => list.filter((_, k) => k !== i);
  return (
    <details className="bend-book">
      <summary>Bend table, test bends and brake</summary>
      <p>
        Brake:{" "}
        {job.brake ? (
          <>
            <Cell path="/brake/force" label="force of the brake" value={job.brake.force} /> kN,{" "}
            <Cell path="/brake/length" label="length of the brake" value={job.brake.length} /> long, V{" "}
            <OwnerOf doc={job} write={write}>
              <Words path="/brake/openings" label="V openings" />
            </OwnerOf>
          </>
        ) : (
          <button
            type="button"
            className="chip"
            onClick={() =>
              write("/brake", {
                force: "1000",
                length: "3000mm",
                openings: ["8mm", "12mm", "16mm", "24mm", "40mm"],
              })
            }
          >
            tell the shop's brake
          </button>
        )}
      </p>
      {job.brake && <Tools job={job} />}
      <h3>Test bends</h3>
      {tests.map((t, i) => (
        <div key={t.id} className="test-bend">
          <p>
            <b>{t.id}</b>{" "}
            <Cell path={`/test_bends/${i}/material`} label={`material of ${t.id}`} value={t.material} />{" "}
            <Cell
              path={`/test_bends/${i}/thickness`}
              label={`thickness of ${t.id}`}
              value={t.thickness}
            />{" "}
            thick, R
            <Cell path={`/test_bends/${i}/radius`} label={`radius of ${t.id}`} value={t.radius} />,{" "}
            <Cell path={`/test_bends/${i}/angle`} label={`angle of ${t.id}`} value={t.angle} />° opens by{" "}
            <Cell
              path={`/test_bends/${i}/springback`}
              label={`springback of ${t.id}`}
              value={t.springback ?? ""}
            />
            ° <Cell path={`/test_bends/${i}/note`} label={`note of ${t.id}`} value={t.note ?? ""} wide />{" "}
            <button
              type="button"
              className="chip"
              aria-label={`take out ${t.id}`}
              onClick={() => write("/test_bends", without(tests, i))}
            >
              ×
            </button>
          </p>
          {t.strips.map((s, k) => (
            <p key={k}>
              strip{" "}
              <Cell
                path={`/test_bends/${i}/strips/${k}/length`}
                label={`length of strip ${k + 1} of ${t.id}`}
                value={s.length}
              />{" "}
              → legs{" "}
              <Cell
                path={`/test_bends/${i}/strips/${k}/a`}
                label={`leg a of strip ${k + 1} of ${t.id}`}
                value={s.a}
              />{" "}
              +{" "}
              <Cell
                path={`/test_bends/${i}/strips/${k}/b`}
                label={`leg b of strip ${k + 1} of ${t.id}`}
                value={s.b}
              />{" "}
              outside
            </p>
          ))}
          <button
            type="button"
            className="chip"
            onClick={() =>
              write(`/test_bends/${i}/strips/-`, t.strips.at(-1) ?? { length: "100", a: "52", b: "52" })
            }
          >
            + strip
          </button>
        </div>
      ))}
      <button
        type="button"
        className="chip"
        onClick={() =>
          write("/test_bends/-", {
            id: issue(
              "test",
              tests.map((t) => t.id),
            ).id,
            ...usual,
            strips: [{ length: "100", a: "52", b: "52" }],
          })
        }
      >
        + test bend
      </button>
      <h3>Bend table</h3>
      {table.map((r, i) => (
        <p key={i}>
          <Cell
            path={`/bend_table/${i}/material`}
            label={`material of row ${i + 1}`}
            value={r.material ?? ""}
          />{" "}
          <Cell
            path={`/bend_table/${i}/thickness`}
            label={`thickness of row ${i + 1}`}
            value={r.thickness}
          />{" "}
          thick, R
          <Cell path={`/bend_table/${i}/radius`} label={`radius of row ${i + 1}`} value={r.radius} />,{" "}
          <Cell path={`/bend_table/${i}/angle`} label={`angle of row ${i + 1}`} value={r.angle} />
          °:{" "}
          <select
            className="choice"
            aria-label={`kind of row ${i + 1}`}
            value={r.kind ?? "deduction"}
            onChange={(e) => write(`/bend_table/${i}/kind`, e.target.value)}
          >
            <option value="deduction">deduction</option>
            <option value="allowance">allowance</option>
          </select>{" "}
          <Cell path={`/bend_table/${i}/value`} label={`value of row ${i + 1}`} value={r.value} />{" "}
          <button
            type="button"
            className="chip"
            aria-label={`take out row ${i + 1}`}
            onClick={() => write("/bend_table", without(table, i))}
          >
            ×
          </button>
        </p>
      ))}
      <button
        type="button"
        className="chip"
        onClick={() => write("/bend_table/-", { ...usual, kind: "deduction", value: "3.8" })}
      >
        + row
      </button>
    </details>
  );
}
