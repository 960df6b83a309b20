import { Button } from "@mui/material";
import { memo, useMemo, useRef, useState } from "react";
import { useParams } from "react-router";
import { paperUrl } from "../api/client";
import { draft } from "../document/draft";
import { archiveMany, copyMany, dropMany, setMany } from "../document/many";
import { materialOptions, useBook } from "../hooks/useBook";
import { useCutList } from "../hooks/useCutList";
import { useDraft, useStale } from "../hooks/useDraft";
import { type Thumb, useThumbs } from "../hooks/useThumbs";
import { Pick } from "../verbs/Pick";
import { Archived } from "./Archived";
import { Small } from "./JobRail";
import {
  assembliesOf,
  type Column,
  counted,
  found,
  type Grouping,
  grouped,
  type JobRow,
  rowsOf,
  signOf,
  sorted,
} from "./jobRows";
import { MOST_AT_ONCE, Run, runsOf } from "./Run";

const COLUMNS: [Column, string][] = [
  ["mark", "mark"],
  ["name", "name"],
  ["quantity", "qty"],
  ["material", "material"],
  ["thickness", "t"],
  ["size", "size"],
  ["mass", "each"],
  ["findings", "findings"],
];

const NUMBERS = new Set<Column>(["quantity", "thickness", "size", "mass"]);

const GROUPS: [Grouping, string][] = [
  ["none", "as one list"],
  ["sheet", "by material and thickness"],
  ["assembly", "by assembly"],
  ["findings", "by what was found"],
];

const keyOf = (r: Pick<JobRow, "kind" | "id">) => `${r.kind}:${r.id}`;

interface Props {
  current: string;
  go(row: Pick<JobRow, "kind" | "id">): void;
  close(): void;
}

/** The whole job as a list: found, sorted and grouped, several taken together. */
export function JobList({ current, go, close }: Props) {
  const job = useDraft((d) => d.job);
  const result = useDraft((d) => d.result);
  const stale = useStale();
  const [words, setWords] = useState("");
  const [by, setBy] = useState<Column | null>(null);
  const [down, setDown] = useState(false);
  const [grouping, setGrouping] = useState<Grouping>("none");
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const last = useRef("");
  const box = useRef<HTMLDivElement>(null);
  const thumbs = useThumbs();
  const book = useBook().data?.materials;
  const all = useMemo(() => rowsOf(job, result, materialOptions(book, job)), [job, result, book]);
  const groups = useMemo(
    () => grouped(sorted(found(all, words), by, down), grouping),
    [all, words, by, down, grouping],
  );
  const shown = groups.flatMap((g) => g.rows);
  const taken = all.filter((r) => chosen.has(keyOf(r)));
  const list = useCutList();
  const unit = list?.length_unit;

  const choose = (row: JobRow, range: boolean) => {
    const keys = shown.map(keyOf);
    const [a, b] = [keys.indexOf(last.current), keys.indexOf(keyOf(row))];
    const next = new Set(chosen);
    if (range && a >= 0) for (const k of keys.slice(Math.min(a, b), Math.max(a, b) + 1)) next.add(k);
    else if (!next.delete(keyOf(row))) next.add(keyOf(row));
    last.current = keyOf(row);
    setChosen(next);
  };
  const keys = (e: React.KeyboardEvent) => {
    const at = e.target as HTMLElement;
    if (e.key === "Escape") {
      e.preventDefault();
      close();
    }
    if (!at.matches("[data-row]")) return;
    const rows = () => [...(box.current?.querySelectorAll<HTMLElement>("[data-row]") ?? [])];
    const row = shown.find((r) => keyOf(r) === at.dataset.row);
    const beside = (by: number) => {
      const there = rows();
      there[there.indexOf(at) + by]?.focus();
    };
    // The ends may have to come into the view before their rows are there.
    const end = (down: boolean) => {
      const rest = box.current?.querySelector(".rows");
      rest?.scrollTo({ top: down ? rest.scrollHeight : 0 });
      const last = keyOf((down ? shown.at(-1) : shown[0]) ?? { kind: "piece", id: "" });
      const reach = (tries: number) => {
        const there = rows().find((r) => r.dataset.row === last);
        if (there) there.focus();
        else if (tries > 0) requestAnimationFrame(() => reach(tries - 1));
      };
      reach(20);
    };
    const act: Record<string, () => void> = {
      ArrowDown: () => beside(1),
      ArrowUp: () => beside(-1),
      Home: () => end(false),
      End: () => end(true),
      " ": () => row && choose(row, e.shiftKey),
      Enter: () => row && go(row),
    };
    if ((e.ctrlKey || e.metaKey) && e.key === "a") {
      e.preventDefault();
      setChosen(new Set(shown.map(keyOf)));
    } else if (act[e.key]) {
      e.preventDefault();
      e.stopPropagation();
      act[e.key]!();
    }
  };
  // The same two for every row and for good: what they do is looked up when they are called.
  const now = useRef({ choose, go });
  now.current = { choose, go };
  const [steady] = useState(() => ({
    choose: (row: JobRow, range: boolean) => now.current.choose(row, range),
    go: (row: JobRow) => now.current.go(row),
  }));
  const sort = (column: Column) => {
    setDown(by === column && !down);
    setBy(by === column && down ? null : column);
  };
  return (
    <section className="job-list" aria-label="list of the job" onKeyDown={keys} ref={box}>
      <header>
        <h2>
          {taken.length > 0 ? `${taken.length} of ${all.length} chosen` : `${all.length} in the job`}
        </h2>
        <input
          className="find"
          // biome-ignore lint/a11y/noAutofocus: the list is opened to find something
          autoFocus
          data-own-text
          aria-label="find in the list"
          placeholder="find: mark, name, material, thickness"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "ArrowDown") box.current?.querySelector<HTMLElement>("[data-row]")?.focus();
            const only = shown[0];
            if (e.key === "Enter" && only) go(only);
          }}
        />
        <Pick
          label="groups"
          value={grouping}
          options={GROUPS}
          choose={(g) => setGrouping(g as Grouping)}
        />
        <span className="grow" />
        <Button onClick={close}>
          fold it <kbd>Esc</kbd>
        </Button>
      </header>
      {all.length > 0 && <Together taken={taken} clear={() => setChosen(new Set())} />}
      <div className={`rows${stale ? " old" : ""}`}>
        <table aria-label="pieces and frames">
          <thead>
            <tr>
              <th>
                <input
                  type="checkbox"
                  aria-label="choose all that are shown"
                  checked={shown.length > 0 && shown.every((r) => chosen.has(keyOf(r)))}
                  onChange={(e) => setChosen(e.target.checked ? new Set(shown.map(keyOf)) : new Set())}
                />
              </th>
              <td />
              {COLUMNS.map(([column, label]) => (
                <th
                  key={column}
                  className={`c-${column}${NUMBERS.has(column) ? " num" : ""}`}
                  aria-sort={by === column ? (down ? "descending" : "ascending") : "none"}
                >
                  <button type="button" onClick={() => sort(column)}>
                    {label}
                    {unit && (column === "thickness" || column === "size") && ` [${unit}]`}
                    {column === "mass" && list && ` [${list.mass_unit}]`}
                    {by === column && (down ? " ↓" : " ↑")}
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          {groups.flatMap((g) => [
            ...(g.heading
              ? [
                  <tbody key={g.heading}>
                    <tr className="group">
                      <th colSpan={10} scope="rowgroup">
                        {g.heading} <small>{g.rows.length}</small>
                      </th>
                    </tr>
                  </tbody>,
                ]
              : []),
            ...runsOf(g.rows).map((run) => (
              <Run key={keyOf(run[0]!)} rows={run.length} all={shown.length <= MOST_AT_ONCE}>
                {() =>
                  run.map((r) => (
                    <Row
                      key={keyOf(r)}
                      row={r}
                      thumb={thumbs.get(keyOf(r))}
                      on={chosen.has(keyOf(r))}
                      current={r.id === current}
                      choose={steady.choose}
                      go={steady.go}
                    />
                  ))
                }
              </Run>
            )),
          ])}
        </table>
        {shown.length === 0 && (
          <p className="empty">
            {all.length === 0
              ? "Nothing is in the job yet: add a piece above."
              : `Nothing has “${words}” in it.`}
          </p>
        )}
        <Archived />
      </div>
    </section>
  );
}

interface RowProps {
  row: JobRow;
  thumb: Thumb | undefined;
  on: boolean;
  current: boolean;
  choose(row: JobRow, range: boolean): void;
  go(row: JobRow): void;
}

/** Drawn anew only where it says something else: a list may have hundreds. */
const Row = memo(
  function Row({ row: r, thumb, on, current, choose, go }: RowProps) {
    const { sign, said, tone } = signOf(r);
    return (
      <tr data-row={keyOf(r)} tabIndex={0} aria-selected={on} className={current ? "current" : ""}>
        <td>
          <input
            type="checkbox"
            aria-label={`choose ${r.mark}`}
            checked={on}
            onChange={(e) => choose(r, (e.nativeEvent as MouseEvent).shiftKey === true)}
          />
        </td>
        <td>
          <Small thumb={thumb} />
        </td>
        <td>
          <button type="button" className="link" onClick={() => go(r)}>
            {r.mark}
          </button>
        </td>
        <td>{r.name}</td>
        <td className="num">{r.quantity}</td>
        <td>{r.material}</td>
        <td className="num">{r.thickness}</td>
        <td className="num">{r.size}</td>
        <td className="num">{r.mass}</td>
        <td>
          {sign && <span className={tone}>{sign}</span>}{" "}
          {said || (r.notes > 0 ? counted(r.notes, "note") : "")}
        </td>
      </tr>
    );
  },
  (a, b) =>
    a.on === b.on &&
    a.current === b.current &&
    a.thumb === b.thumb &&
    JSON.stringify(a.row) === JSON.stringify(b.row),
);

/** What is done to all that are chosen. */
function Together({ taken, clear }: { taken: JobRow[]; clear(): void }) {
  const { id = "" } = useParams();
  const job = useDraft((d) => d.job);
  const saved = useDraft((d) => d.saving.phase === "saved");
  const book = useBook().data?.materials;
  if (taken.length === 0)
    return (
      <p className="hint together">
        Choose some by their boxes, with Shift a whole run, with Ctrl A all: to copy them, to give them
        one material or number, to take their files away.
      </p>
    );
  const pieces = taken.filter((r) => r.kind === "piece");
  const same = (of: (r: JobRow) => string) =>
    taken.every((r) => of(r) === of(taken[0]!)) ? of(taken[0]!) : "";
  const materials = new Set(
    taken.map(
      (r) => (job?.[r.kind === "piece" ? "pieces" : "frames"] ?? []).find((d) => d.id === r.id)?.material,
    ),
  );
  const material = materials.size === 1 ? ([...materials][0] ?? "") : "";
  const zip = (kind: string) => paperUrl(id, kind, { piece: pieces.map((r) => r.id).join(",") });
  return (
    <div className="together" role="toolbar" aria-label="all that are chosen">
      <label>
        number{" "}
        <input
          className="val"
          aria-label="number of each that is chosen"
          value={same((r) => r.quantity)}
          placeholder="several"
          size={6}
          onChange={(e) => setMany(taken, "quantity", e.target.value, true)}
        />
      </label>
      <Pick
        label="material of all that are chosen"
        value={material}
        options={[
          ...(material ? [] : [["", "several materials"] as const]),
          ...materialOptions(book, job),
        ]}
        choose={(m) => m && setMany(taken, "material", m)}
      />
      <label>
        goes into{" "}
        <input
          className="val"
          aria-label="assembly of all that are chosen"
          list="assemblies"
          value={same((r) => r.assembly)}
          placeholder="assembly"
          size={9}
          onChange={(e) => setMany(taken, "assembly", e.target.value, true)}
        />
        <datalist id="assemblies">
          {assembliesOf(job).map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
      </label>
      <Button onClick={() => copyMany(taken)}>copy them</Button>
      <Button
        onClick={() => {
          archiveMany(taken);
          clear();
        }}
      >
        archive them
      </Button>
      <Button
        onClick={() => {
          dropMany(taken);
          clear();
          draft.setState({ word: `${taken.length} are taken out of the job; undo brings them back` });
        }}
      >
        take them out
      </Button>
      {pieces.length > 0 &&
        (saved ? (
          <>
            <Button href={zip("dxf-zip")} download>
              DXF of {pieces.length} (zip)
            </Button>
            <Button href={zip("papers-zip")} download>
              papers of {pieces.length} (zip)
            </Button>
          </>
        ) : (
          <span className="hint">files once it is saved…</span>
        ))}
      {pieces.length < taken.length && pieces.length > 0 && (
        <span className="hint">frames have their papers at Papers</span>
      )}
    </div>
  );
}
