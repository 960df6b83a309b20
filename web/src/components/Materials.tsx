import type { Job, OwnMaterial } from "../api/types";
import { draft } from "../document/draft";
import { set as put } from "../document/pointer";

const write = (path: string, value: unknown, typed = false) =>
  draft.getState().edit(typed ? `job:${path}` : "", (j) => put(j, path, value));

const STUFF = [
  ["metal", "metal"],
  ["plastic", "plastic"],
  ["film", "film"],
  ["wood", "wood"],
] as const;
const BENT = [
  ["cold", "bent at a brake"],
  ["hot", "bent hot"],
  ["scored", "scored and folded"],
  ["by_hand", "folded by hand"],
  ["not", "not bent"],
] as const;

/** Materials of the shop's own: what the book does not have. */
export function Materials({ job }: { job: Job }) {
  const own = job.materials ?? [];
  const cell = (i: number, field: keyof OwnMaterial, label: string, empty = "") => (
    <input
      className={`val${field === "name" ? " words" : ""}`}
      aria-label={`${label} of material ${i + 1}`}
      placeholder={empty}
      value={(own[i]?.[field] as string | undefined) ?? ""}
      onChange={(e) => write(`/materials/${i}/${field}`, e.target.value, true)}
    />
  );
  const choice = (
    i: number,
    field: "stuff" | "bent",
    label: string,
    options: readonly (readonly [string, string])[],
  ) => (
    <select
      className="choice"
      aria-label={`${label} of material ${i + 1}`}
      value={own[i]?.[field] ?? options[0]![0]}
      onChange={(e) => write(`/materials/${i}/${field}`, e.target.value)}
    >
      {options.map(([v, w]) => (
        <option key={v} value={v}>
          {w}
        </option>
      ))}
    </select>
  );
  const fresh = (): OwnMaterial => {
    const n = (1 + own.length).toString();
    return { id: `own-${n}`, name: `Own material ${n}`, density: "7850", strength: "360" };
  };
  return (
    <details className="bend-book">
      <summary>Materials of the shop's own</summary>
      {own.length === 0 && (
        <p className="muted">
          The book's materials are there without this. Define one that it does not have.
        </p>
      )}
      {own.map((m, i) => (
        <p key={i}>
          {cell(i, "id", "id")} is {cell(i, "name", "name")}, a {choice(i, "stuff", "kind", STUFF)},{" "}
          {cell(i, "density", "density")} kg/m³, strength {cell(i, "strength", "strength", "none")} MPa,{" "}
          {choice(i, "bent", "how bent", BENT)} at R of at least{" "}
          {cell(i, "radius", "smallest radius", "1")} t, {cell(i, "cost", "cost", "no price")} a kg{" "}
          <button
            type="button"
            className="chip"
            aria-label={`take out ${m.id}`}
            onClick={() =>
              write(
                "/materials",
                own.filter((_, k) => k !== i),
              )
            }
          >
            ×
          </button>
        </p>
      ))}
      <button type="button" className="chip" onClick={() => write("/materials", [...own, fresh()])}>
        + material
      </button>
    </details>
  );
}
