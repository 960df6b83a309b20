import { useMemo } from "react";
import type { LineFault } from "../api/types";
import { type Doc, writeJob } from "../document/bench";
import { inInches } from "../document/draft";
import { issue } from "../document/ids";
import { get } from "../document/pointer";
import { useDocument, useDraft, useSteady } from "../hooks/useDraft";
import { Act } from "./Act";
import { FaultNote } from "./Fault";
import { Fields, OwnerOf } from "./Field";
import { Parts } from "./Sentence";
import { type PartView, useSetting } from "./useVerbs";

interface SentenceProps {
  tag: string;
  /** Where it stands in what its fields write to. */
  at: string;
  faults: LineFault[];
  /** Fields that stand elsewhere on the page. */
  skip?: string[];
  /** What a value is where nothing is told, beside what the setting itself says. */
  usual?: Record<string, string>;
  /** Without the word that begins it. */
  bare?: boolean;
  /** What its fields are called after. */
  of?: string;
}

const NONE: Record<string, string> = {};

/** A setting read out as a sentence, from its own description, its values open to change. */
export function SettingSentence({
  tag,
  at,
  faults,
  skip,
  usual = NONE,
  bare = false,
  of = "",
}: SentenceProps) {
  const setting = useSetting(tag);
  const inch = useDocument((d) => inInches(undefined, d));
  const { parts, told } = useMemo(() => {
    const writes = (p: PartView): boolean =>
      p.part === "clause" ? p.parts.some(writes) : "path" in p && Boolean(skip?.includes(p.path));
    const word = (p: PartView) => bare && p.part === "word" && p.verb;
    return {
      parts: setting?.sentence.filter((p) => !writes(p) && !word(p)) ?? [],
      told: {
        ...Object.fromEntries((setting?.usual ?? []).map((u) => [u.path, inch ? u.inch : u.mm])),
        ...usual,
      },
    };
  }, [setting, skip, bare, inch, usual]);
  return (
    <Fields at={at} faults={faults} usual={told} of={of}>
      <Parts parts={parts} pre="" tail="." />
      {faults.map((f, k) => (
        <FaultNote key={k} fault={f} at={at} />
      ))}
    </Fields>
  );
}

/** Faults of the job's fields below a pointer, told from there. */
export function useJobFaults(at: string): LineFault[] {
  const all = useDraft((d) => d.result?.faults);
  return useMemo(
    () =>
      (all ?? [])
        .filter((f) => f.path.startsWith(`${at}/`))
        .map((f) => ({ ...f, path: f.path.slice(at.length) })),
    [all, at],
  );
}

/** What a setting says when it is added, under a name that none of its list has. */
export function useFresh(tag: string): { list: string; name: string; value: object } | undefined {
  const setting = useSetting(tag);
  const start = setting?.starts[0];
  const inch = useDocument((d) => inInches(undefined, d));
  const taken = useSteady((d) => {
    const items = setting && get(d.job, `/${setting.list}`);
    return Array.isArray(items) ? items.map((i: { id?: string }) => i.id ?? "") : [];
  });
  return useMemo(() => {
    if (!setting || !start) return undefined;
    const said = (inch ? start.inch : start.mm) as Record<string, unknown>;
    const id = typeof said.id === "string" ? { id: issue(said.id, taken).id } : {};
    return { list: setting.list, name: start.name, value: { ...said, ...id } };
  }, [setting, start, inch, taken]);
}

/** A setting that a job has once. */
export function SettingOne({ tag }: { tag: string }) {
  const fresh = useFresh(tag);
  const at = `/${useSetting(tag)?.list}`;
  const faults = useJobFaults(at);
  const told = useDocument((d) => get(d.job, at) !== undefined);
  if (fresh && !told)
    return (
      <p data-setting={tag}>
        <Act onClick={() => writeJob(at, fresh.value)}>{`+ ${fresh.name}`}</Act>
      </p>
    );
  return (
    <div className="setting" data-setting={tag}>
      <OwnerOf name="job">
        <SettingSentence tag={tag} at={at} faults={faults} of={tag} />
      </OwnerOf>
      {told && (
        <Act aria-label={`take out ${tag}`} onClick={() => writeJob(at, undefined)}>
          ×
        </Act>
      )}
    </div>
  );
}

/** Settings that a job has any number of, each a sentence. */
export function SettingList({ tag }: { tag: string }) {
  const list = useSetting(tag)?.list;
  const items = useDocument((d) => get(d.job, `/${list}`) as Partial<Doc>[] | undefined) ?? [];
  const fresh = useFresh(tag);
  if (!fresh) return null;
  const take = (i: number) =>
    writeJob(
      `/${list}`,
      items.filter((_, k) => k !== i),
    );
  return (
    <OwnerOf name="job">
      {items.map((item, i) => (
        <Item
          key={item.id ?? i}
          tag={tag}
          at={`/${list}/${i}`}
          name={item.id ?? `${fresh.name} ${i + 1}`}
          take={() => take(i)}
        />
      ))}
      <p data-setting={tag}>
        <Act onClick={() => writeJob(`/${list}/-`, fresh.value)}>{`+ ${fresh.name}`}</Act>
      </p>
    </OwnerOf>
  );
}

function Item({ tag, at, name, take }: { tag: string; at: string; name: string; take(): void }) {
  const faults = useJobFaults(at);
  return (
    <div className="setting">
      <SettingSentence tag={tag} at={at} faults={faults} of={name} />{" "}
      <Act aria-label={`take out ${name}`} onClick={take}>
        ×
      </Act>
    </div>
  );
}
