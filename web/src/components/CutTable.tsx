import { Fragment, useState } from "react";
import type { BarRow, CutCell, FrameList, PlateRow } from "../api/types";
import { writeDoc } from "../document/bench";
import { draft, NOWHERE } from "../document/draft";
import { useDraft, useFrame } from "../hooks/useDraft";
import { Act } from "../verbs/Act";
import { BenderTable } from "./BenderTable";

/** How the two ends lie to one another, drawn: the slants as they are, the length shortened. */
export function Look({ row }: { row: BarRow }) {
  const { depth, start, end, curved, round } = row.look;
  const [w, h] = [64, 16];
  const scale = depth > 0 ? (h - 2) / depth : 0;
  const most = 22;
  const out = (v: number) => Math.max(-most, Math.min(most, v * scale));
  // Start and end: how far the upper corner stands out beyond the lower.
  const [s, e] = [out(start), out(end)];
  const [x0, x1] = [most / 2 + 2, w - most / 2 - 2];
  const [top, low] = [1, h - 1];
  const p = { a: [x0 - s / 2, top], b: [x1 + e / 2, top], c: [x1 - e / 2, low], d: [x0 + s / 2, low] };
  /** Both corners of an end rounded off, from its first to its second. */
  const rounded = (from: number[], to: number[], share: number, into: number) => {
    const r = (share * (low - top)) / 2;
    const [a, b] = [from, to].map((q) => Math.sign(h / 2 - q[1]!) * r);
    return (
      `L${from[0]! + into * r} ${from[1]}Q${from[0]} ${from[1]} ${from[0]} ${from[1]! + a!}` +
      `L${to[0]} ${to[1]! + b!}Q${to[0]} ${to[1]} ${to[0]! + into * r} ${to[1]}`
    );
  };
  const bow = (from: number[], to: number[], on: boolean, way: number) =>
    on ? `Q${(from[0]! + to[0]!) / 2 + way} ${h / 2} ${to[0]} ${to[1]}` : `L${to[0]} ${to[1]}`;
  return (
    <svg
      viewBox={`0 0 ${w} ${h}`}
      width={w}
      height={h}
      className="look"
      role="img"
      aria-label={row.ends || "plain"}
    >
      <path
        d={[
          `M${w / 2} ${top}`,
          round[1]
            ? rounded(p.b, p.c, round[1], -1)
            : `L${p.b[0]} ${p.b[1]}${bow(p.b, p.c, curved[1]!, -6)}`,
          round[0]
            ? rounded(p.d, p.a, round[0], 1)
            : `L${p.d[0]} ${p.d[1]}${bow(p.d, p.a, curved[0]!, 6)}`,
          "Z",
        ].join("")}
      />
    </svg>
  );
}

function Cut({ cell }: { cell: CutCell }) {
  const notes = [
    cell.exact && cell.exact !== cell.text && cell.text !== "square"
      ? `exactly ${cell.exact} off square`
      : "",
    cell.gap ? `the step leaves ${cell.gap} open` : "",
    cell.from_axis ? `${cell.from_axis} from the axis` : "",
    cell.beyond ? "further than the saw swings" : "",
  ].filter(Boolean);
  return (
    <span className={cell.beyond ? "beyond" : ""} title={notes.join("; ")}>
      {cell.text}
      {cell.gap && <small> gap {cell.gap.replace(/ mm$/, "")}</small>}
    </span>
  );
}

/** Writes what a row is called, or one of its own cells. */
function tell(key: string, change: { mark?: string; name?: string; cell?: [number, string] }): void {
  const { job, frame } = draft.getState();
  const told = job?.frames?.find((f) => f.id === frame)?.rows ?? [];
  const at = told.findIndex((r) => r.piece === key);
  const row = at >= 0 ? told[at]! : { piece: key };
  const cells = [...(row.cells ?? [])];
  if (change.cell) {
    while (cells.length < change.cell[0]) cells.push("");
    cells[change.cell[0]] = change.cell[1];
  }
  const next = {
    ...row,
    ...(change.mark !== undefined ? { mark: change.mark } : {}),
    ...(change.name !== undefined ? { name: change.name } : {}),
    ...(change.cell ? { cells } : {}),
  };
  writeDoc("frame", `/rows/${at >= 0 ? at : "-"}`, next);
}

function Told({ value, label, write }: { value: string; label: string; write(v: string): void }) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <input
      className="cell"
      aria-label={label}
      value={typed ?? value}
      style={{ width: `${Math.max((typed ?? value).length, 4) + 1}ch` }}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={() => {
        if (typed !== null && typed !== value) write(typed);
        setTyped(null);
      }}
      onKeyDown={(e) => e.key === "Enter" && !e.nativeEvent.isComposing && e.currentTarget.blur()}
    />
  );
}

/** The cut list of the frame on the bench. A row lights its members up. */
export function CutTable({ list, unit, mass }: { list: FrameList; unit: string; mass: string }) {
  const frame = useFrame();
  const { setHover, pick } = draft.getState();
  const hover = useDraft((d) => d.hover);
  // The row whose bends are looked at.
  const [open, setOpen] = useState("");
  const light = (row: BarRow | PlateRow) => ({
    onPointerEnter: () => setHover({ names: row.members }),
    onPointerLeave: () => setHover(NOWHERE),
    onClick: () => pick(row.key.split(".")[0] ?? ""),
    "aria-current": hover.names.some((n) => row.members.includes(n)),
  });
  const columns = list.columns;
  const addColumn = () =>
    writeDoc("frame", "/columns", [
      ...columns,
      columns.length ? `note ${columns.length + 1}` : "part number",
    ]);
  const called = (row: BarRow | PlateRow) => (
    <>
      <td>
        <Told value={row.mark} label={`mark of ${row.key}`} write={(v) => tell(row.key, { mark: v })} />
      </td>
      <td>
        <Told value={row.name} label={`name of ${row.mark}`} write={(v) => tell(row.key, { name: v })} />
      </td>
      <td className="num">{row.quantity}</td>
    </>
  );
  const own = (row: BarRow | PlateRow) =>
    columns.map((c, i) => (
      <td key={i}>
        <Told
          value={row.cells[i] ?? ""}
          label={`${c} of ${row.mark}`}
          write={(v) => tell(row.key, { cell: [i, v] })}
        />
      </td>
    ));
  // What most are of is not said in every row.
  const of = (material: string) => list.bars.filter((r) => r.material === material).length;
  const usual = list.bars
    .map((r) => r.material)
    .reduce((a, b) => (of(b) > of(a) ? b : a), list.bars[0]?.material ?? "");
  return (
    <div className="list-scroll">
      <table className="cut-table" aria-label="cut list">
        <thead>
          <tr>
            <th>mark</th>
            <th>name</th>
            <th className="num">qty</th>
            <th>section</th>
            <th className="num" title={`tip to tip${list.steps ? `; ${list.steps}` : ""}`}>
              length {unit}
            </th>
            <th>start</th>
            <th>ends</th>
            <th>end</th>
            <th className="num" title="centreline">
              centre
            </th>
            <th className="num" title="the shortest edge">
              short
            </th>
            <th className="num">each {mass}</th>
            <th className="num">all {mass}</th>
            {columns.map((c, i) => (
              <th key={i}>
                <Told
                  value={c}
                  label={`heading ${i + 1}`}
                  write={(v) =>
                    writeDoc(
                      "frame",
                      "/columns",
                      v ? columns.map((x, k) => (k === i ? v : x)) : columns.filter((_, k) => k !== i),
                    )
                  }
                />
              </th>
            ))}
            <th>
              <Act
                aria-pressed={frame?.apart ?? false}
                onClick={() => writeDoc("frame", "/apart", !frame?.apart)}
                title="equal members that go by different names: rows of their own, or one row"
              >
                names apart
              </Act>
              <Act
                onClick={addColumn}
                title="a column of your own, such as a part number"
                aria-label="+ column"
              >
                +
              </Act>
            </th>
          </tr>
        </thead>
        <tbody>
          {list.bars.map((r) => (
            <Fragment key={r.key + r.opposite}>
              <tr {...light(r)}>
                {called(r)}
                <td>
                  {r.section}
                  {r.material !== usual && <small> · {r.material}</small>}
                  {r.bender && (
                    <>
                      {" "}
                      <Act
                        aria-expanded={open === r.mark}
                        title={`bent, from the start: ${r.bends}`}
                        onClick={() => setOpen(open === r.mark ? "" : r.mark)}
                      >
                        bends
                      </Act>
                    </>
                  )}
                  {!r.bender && r.bends && <small> · {r.bends}</small>}
                  {r.work && (
                    <small title={`from the start’s long point\n${r.drilled.join("\n")}`}>
                      {" "}
                      · {r.work}
                    </small>
                  )}
                </td>
                <td
                  className="num strong"
                  title={[
                    r.bends && "developed along the middle",
                    r.edge && `longest edge ${r.edge}`,
                    r.length_gap && `the step leaves ${r.length_gap}`,
                  ]
                    .filter(Boolean)
                    .join("; ")}
                >
                  {r.length}
                </td>
                <td>
                  <Cut cell={r.cuts[0]!} />
                </td>
                <td title={[r.ends, ...r.worked].filter(Boolean).join("\n")}>
                  <Look row={r} />
                  {r.lie === "turned" && <small>{r.ends}</small>}
                </td>
                <td>
                  <Cut cell={r.cuts[1]!} />
                </td>
                <td className="num">{r.centre === r.length ? "" : r.centre}</td>
                <td className="num">{r.short === r.length ? "" : r.short}</td>
                <td className="num" title={`${r.material}; ${r.surface} of surface each`}>
                  {r.unit_mass}
                </td>
                <td className="num">{r.total_mass}</td>
                {own(r)}
                <td />
              </tr>
              {r.bender && open === r.mark && (
                <tr>
                  <td colSpan={13 + columns.length}>
                    <BenderTable of={r.bender} mark={r.mark} unit={unit} />
                  </td>
                </tr>
              )}
            </Fragment>
          ))}
          {list.plates.map((r) => (
            <tr key={r.key} {...light(r)}>
              {called(r)}
              <td>
                {r.stock} {r.stops > 0 && <span className="stop">■</span>}
              </td>
              <td className="num strong" colSpan={3}>
                {r.size}
              </td>
              <td colSpan={3} />
              <td className="num">{r.unit_mass}</td>
              <td className="num">{r.total_mass}</td>
              {own(r)}
              <td />
            </tr>
          ))}
        </tbody>
        <tfoot>
          {list.sections.map((s) => (
            <tr key={s.section}>
              <td colSpan={2} />
              <td className="num">{s.pieces}</td>
              <td>{s.section}</td>
              <td className="num" colSpan={2}>
                {s.length}
              </td>
              <td colSpan={4} title={s.source}>
                <small>
                  {s.worked} worked out{s.published && `, ${s.published} published`}
                </small>
              </td>
              <td />
              <td className="num">{s.mass.split(" ")[0]}</td>
              <td colSpan={columns.length + 1} />
            </tr>
          ))}
          <tr className="total">
            <td colSpan={2}>{list.quantity > 1 ? `${list.quantity} frames` : "the frame"}</td>
            <td className="num">
              {list.bars.reduce((n, b) => n + b.quantity, 0) +
                list.plates.reduce((n, p) => n + p.quantity, 0)}
            </td>
            <td colSpan={8}>
              <small>
                welds {list.weld_length}, {list.weld_metal} of metal
              </small>
            </td>
            <td className="num strong">{list.mass.split(" ")[0]}</td>
            <td colSpan={columns.length + 1} />
          </tr>
        </tfoot>
      </table>
      {list.assemblies.length > 0 && (
        <table className="cut-table" aria-label="welded first">
          <thead>
            <tr>
              <th>welded first</th>
              <th>name</th>
              <th className="num">qty</th>
              <th>of</th>
              <th className="num">each</th>
            </tr>
          </thead>
          <tbody>
            {list.assemblies.map((a) => (
              <tr key={a.mark + a.name}>
                <td>{a.mark}</td>
                <td>{a.name}</td>
                <td className="num">{a.quantity}</td>
                <td>{a.parts.join(", ")}</td>
                <td className="num">{a.unit_mass}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {list.bars.length + list.plates.length === 0 && (
        <p className="empty">{frame ? "The list fills as members are said." : ""}</p>
      )}
    </div>
  );
}
