import { docOf } from "../document/bench";
import { draft } from "../document/draft";
import { materialOptions, useBook } from "../hooks/useBook";
import { useDocument, useSteady } from "../hooks/useDraft";
import { Act } from "./Act";
import { Choice, useAt, useCalled, useOwner, useValue, Val, Words } from "./Field";
import { cutIds, type Named, useNames } from "./names";
import { Pick } from "./Pick";
import { SectionField } from "./SectionField";
import { SizeField } from "./SizeField";
import { type Of, useVerbs } from "./useVerbs";

const PICKED = ["edge", "panel", "bend", "zone", "surface", "about", "spot", "thing", "mark"];

/** One value, asked for by its kind. */
export function SlotPart({ slot, pre, label }: { slot: Of<"slot">; pre: string; label: string }) {
  const path = pre + slot.path;
  const sign = slot.sign ? (slot.sign === "R" ? "R" : `${slot.sign} `) : "";
  if (PICKED.includes(slot.kind)) return <NamePick slot={slot} path={path} label={label} />;
  if (slot.kind === "section") return <SectionField path={path} label={label} empty={slot.empty} />;
  if (slot.kind === "material") return <MaterialPick path={path} label={label} empty={slot.empty} />;
  if (slot.kind === "screw" || slot.kind === "thread")
    return <SizeField path={path} label={label} kind={slot.kind} />;
  if (slot.kind === "cut") return <CutPick path={path} label={label} />;
  if (slot.kind === "round") return <RoundPick path={path} label={label} />;
  if (slot.kind === "figure") return <FigurePick path={path} label={label} />;
  if (slot.kind === "side" || slot.kind === "side_end")
    return <SidePick end={slot.kind === "side_end"} path={path} label={label} />;
  if (slot.kind === "leg" || slot.kind === "test")
    return <OwnPick slot={slot} path={path} label={label} />;
  return (
    <>
      {sign}
      <Val
        path={path}
        label={label}
        empty={slot.empty}
        optional={slot.optional}
        words={slot.kind === "text"}
      />
    </>
  );
}

function NamePick({ slot, path, label }: { slot: Of<"slot">; path: string; label: string }) {
  const options = useNames(slot.kind);
  const at = useAt();
  const told = String(useValue(at + path) ?? "");
  const empty: Named[] =
    slot.kind === "surface" || slot.kind === "about"
      ? []
      : told === "" || slot.optional
        ? [["", slot.optional ? "—" : "…"]]
        : [];
  const unknown: Named[] = told !== "" && !options.some(([n]) => n === told) ? [[told, told]] : [];
  return (
    <Choice
      path={path}
      label={label}
      options={[...empty, ...unknown, ...options]}
      usual={slot.empty}
      optional={slot.optional}
    />
  );
}

function MaterialPick({ path, label, empty }: { path: string; label: string; empty: string }) {
  const book = useBook();
  const materials = materialOptions(book.data?.materials, draft.getState().job);
  return <Choice path={path} label={label} options={[["", empty], ...materials]} optional />;
}

/** A leg of this strip, or a test bend of the job. */
function OwnPick({ slot, path, label }: { slot: Of<"slot">; path: string; label: string }) {
  const at = useAt();
  const profile = (useValue(`${at}/say/profile`) as { kind: string; id: string }[] | undefined) ?? [];
  const tests = useDocument((d) => d.job?.test_bends) ?? [];
  const own: Named[] =
    slot.kind === "leg"
      ? profile.filter((e) => e.kind === "leg").map((e) => [e.id, `leg ${e.id}`])
      : tests.map((t) => [t.id, t.id]);
  return <Choice path={path} label={label} options={[["", slot.empty || "—"], ...own]} optional />;
}

/** A curved side of the outline, or a cut of a line above. */
function RoundPick({ path, label }: { path: string; label: string }) {
  return <CutPick path={path} label={label} others={useNames("round")} />;
}

/** A named figure of the job. */
function FigurePick({ path, label }: { path: string; label: string }) {
  const at = useAt();
  const told = String(useValue(at + path) ?? "");
  const names = useDocument((d) => d.job?.figures) ?? [];
  const own = names.map((f): Named => [f.name, f.name]);
  const none: Named[] = told === "" ? [["", "…"]] : [];
  return <Choice path={path} label={label} options={[...none, ...own]} />;
}

/** A side of the contour in this line, or a corner: the end of one, or the start. */
function SidePick({ end, path, label }: { end: boolean; path: string; label: string }) {
  const at = useAt();
  const sides = (useValue(`${at}/say/sides`) as { id: string }[] | undefined) ?? [];
  const own = sides.map((s): Named => [s.id, end ? `the end of ${s.id}` : s.id]);
  const start: Named[] = end ? [["start", "the start"]] : [];
  return <Choice path={path} label={label} options={[["", "…"], ...start, ...own]} />;
}

/** Names in a row: edges as chips, cuts to be switched, all others as they are written. */
export function NamesPart({ names, pre }: { names: Of<"names">; pre: string }) {
  const at = useAt();
  const path = at + pre + names.path;
  if (names.kind === "edge" || names.kind === "thing")
    return <NameChips path={path} label={names.label} empty={names.empty} kind={names.kind} />;
  if (names.kind === "cut") return <CutChips path={path} label={names.label} />;
  return (
    <Words
      path={path}
      label={names.label}
      empty={names.empty || "…"}
      between={names.blank ? " " : ", "}
    />
  );
}

/** Several names as chips. */
interface ChipsProps {
  path: string;
  label: string;
  empty: string;
  kind: "edge" | "thing";
}

function NameChips({ path, label, empty, kind }: ChipsProps) {
  const { write } = useOwner();
  const edges = useNames(kind);
  const called = useCalled(label);
  const { setHover } = draft.getState();
  const told = (useValue(path) as string[] | undefined) ?? [];
  return (
    <fieldset className="targets" aria-label={called} title={label}>
      {told.length === 0 && empty}
      {told.map((n) => (
        <Act
          key={n}
          aria-pressed
          title="take it out"
          onPointerEnter={() => setHover({ names: [n] })}
          onPointerLeave={() => setHover({ names: [] })}
          onClick={() =>
            write(
              path,
              told.filter((o) => o !== n),
            )
          }
        >
          {edges.find(([o]) => o === n)?.[1] ?? n}
        </Act>
      ))}
      <Pick
        label={`add to ${called}`}
        value=""
        options={[["", `+ ${kind}`] as const, ...edges.filter(([n]) => !told.includes(n))]}
        choose={(n) => n && write(path, [...told, n])}
      />
    </fieldset>
  );
}

/** The cuts above a line that it works on, as chips. */
/** Ids of the cuts above the line that a field lies in. */
function useCutsAbove(at: string): string[] {
  const verbs = useVerbs()?.piece;
  const before = Number(at.split("/")[2]);
  return useSteady((d) => cutIds((docOf("piece", d)?.lines ?? []).slice(0, before), verbs));
}

/** One cut above this line, or a copy of one that was named when it was typed. */
function CutPick({ path, label, others = [] }: { path: string; label: string; others?: Named[] }) {
  const at = useAt();
  const told = String(useValue(at + path) ?? "");
  const above = [...others, ...useCutsAbove(at).map((id): Named => [id, id])];
  const other: Named[] = told !== "" && !above.some(([id]) => id === told) ? [[told, told]] : [];
  const none: Named[] = told === "" ? [["", "…"]] : [];
  return <Choice path={path} label={label} options={[...none, ...other, ...above]} />;
}

function CutChips({ path, label }: { path: string; label: string }) {
  const called = useCalled(label);
  const { write } = useOwner();
  const at = useAt();
  const above = useCutsAbove(at);
  const of = (useValue(path) as string[] | undefined) ?? [];
  const toggle = (id: string) => write(path, of.includes(id) ? of.filter((o) => o !== id) : [...of, id]);
  const shown = [...above, ...of.filter((o) => !above.includes(o))];
  return (
    <fieldset className="targets" aria-label={called} title={label}>
      {shown.map((id) => (
        <Act key={id} aria-pressed={of.includes(id)} onClick={() => toggle(id)}>
          {id}
        </Act>
      ))}
      {shown.length === 0 && "nothing yet"}
    </fieldset>
  );
}
