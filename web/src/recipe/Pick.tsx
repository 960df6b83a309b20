import { get } from "../draft/pointer";
import { useDraft, usePiece, writePiece } from "../draft/store";

/** Names of the straight edges of the piece as it stands. */
export function useEdges(): string[] {
  const id = usePiece().piece?.id;
  const view = useDraft((d) => d.result?.piece);
  if (!view || view.id !== id) return [];
  return [...new Set(view.zones.flatMap((z) => z.edges))];
}

/** `start-1.north` reads as north, `start-1.b.north` as leg b north. */
export const edgeSaid = (name: string): string =>
  name
    .replace(/^start-\d+\./, "")
    .replace(/^([a-z]\d*)(?=\.|$)/, "leg $1")
    .replaceAll(".", " ");

/** One edge, picked from those that stand. */
export function EdgeChoice({ path, label, optional = false }: { path: string; label: string; optional?: boolean }) {
  const { piece } = usePiece();
  const edges = useEdges();
  const value = String(get(piece, path) ?? "");
  const shown = value && !edges.includes(value) ? [value, ...edges] : edges;
  return (
    <select
      className="choice"
      aria-label={label}
      value={value}
      onChange={(e) => writePiece(path, optional && e.target.value === "" ? undefined : e.target.value)}
    >
      {(optional || value === "") && <option value="">{optional ? "—" : "an edge…"}</option>}
      {shown.map((n) => (
        <option key={n} value={n}>
          {edgeSaid(n)}
        </option>
      ))}
    </select>
  );
}

/** Several edges as chips; none means all round the start. */
export function EdgeChips({ path, label }: { path: string; label: string }) {
  const { piece } = usePiece();
  const edges = useEdges();
  const { setHover } = useDraft.getState();
  const told = (get(piece, path) as string[] | undefined) ?? [];
  const write = (next: string[]) => writePiece(path, next);
  return (
    <span className="targets" title={label}>
      {told.length === 0 && "all round"}
      {told.map((n) => (
        <button
          type="button"
          key={n}
          className="chip"
          aria-pressed
          title="take it out"
          onPointerEnter={() => setHover({ names: [n] })}
          onPointerLeave={() => setHover({ names: [] })}
          onClick={() => write(told.filter((o) => o !== n))}
        >
          {edgeSaid(n)}
        </button>
      ))}
      <select className="choice" aria-label={`add to ${label}`} value="" onChange={(e) => e.target.value && write([...told, e.target.value])}>
        <option value="">+ edge</option>
        {edges
          .filter((n) => !told.includes(n))
          .map((n) => (
            <option key={n} value={n}>
              {edgeSaid(n)}
            </option>
          ))}
      </select>
    </span>
  );
}

/** Names of panels, bends or both, as the piece stands. */
export function useZones(what: "panel" | "bend" | "any"): [string, string][] {
  const id = usePiece().piece?.id;
  const view = useDraft((d) => d.result?.piece);
  if (!view || view.id !== id) return [];
  const fits = (bent: boolean) => what === "any" || (what === "bend") === bent;
  return view.zones.filter((z) => fits(Boolean(z.bend))).map((z) => [z.name, edgeSaid(z.name)]);
}
