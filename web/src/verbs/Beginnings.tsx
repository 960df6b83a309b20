import { type ReactNode, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { answer, api, said } from "../api/client";
import { type Begun, begunOf, fits, putBegun, settle } from "../document/beginning";
import { type BenchName, docOf } from "../document/bench";
import { draft, inInches } from "../document/draft";
import { useDocument } from "../hooks/useDraft";
import { Act } from "./Act";
import { type Beginning, useVerbs, type Verbs } from "./useVerbs";

/** What a piece or frame may begin with; nothing for a brief. */
export const beginningsOf = (bench: BenchName, verbs: Verbs | undefined): Beginning[] =>
  bench === "brief" ? [] : (verbs?.beginnings[bench] ?? []);

const picture = (tag: string) => `/api/begin/${tag}/picture`;

const usual = (of: Beginning, inch: boolean) =>
  Object.fromEntries(of.sizes.map((s) => [s.letter, inch ? s.inch : s.mm]));

async function made(
  bench: BenchName,
  tag: string,
  sizes: Record<string, string>,
  issued: Begun["issued"],
) {
  const unit = inInches(docOf(bench)) ? "in" : "mm";
  return answer(await api.POST("/api/begin", { body: { tag, sizes, unit, issued } }));
}

/** Puts what the usual sizes make onto the bench and the keyboard into the first of them. */
export async function begin(bench: BenchName, of: Beginning, verbs: Verbs | undefined): Promise<void> {
  const doc = docOf(bench);
  const inch = inInches(doc);
  const told = { tag: of.tag, sizes: usual(of, inch) };
  const calls = verbs?.settings.find((s) => s.tag === bench)?.starts[0]?.mm as {
    name?: string;
  };
  let parts = inch ? of.inch : of.mm;
  if (!parts.every((p) => fits(p.lines, doc?.issued))) {
    try {
      parts = (await made(bench, of.tag, told.sizes, doc?.issued ?? {})).parts;
    } catch (e) {
      draft.setState({ word: `Nothing is begun: ${said(e)}` });
      return;
    }
  }
  // Drawn at once: a later focus would steal what is being typed by then.
  flushSync(() => putBegun(bench, told, parts, undefined, calls?.name));
  document.querySelector<HTMLInputElement>("#begun input")?.focus();
}

/** The pictures of what an empty bench may begin with. */
export function Beginnings({ bench, children }: { bench: BenchName; children?: ReactNode }) {
  const verbs = useVerbs();
  return (
    <ul className="beginnings">
      {beginningsOf(bench, verbs).map((b) => (
        <li key={b.tag}>
          <button
            type="button"
            title={b.about}
            aria-label={`Start with a ${b.name}`}
            onClick={() => void begin(bench, b, verbs)}
          >
            <img src={picture(b.tag)} alt="" width={120} height={90} />
            <span>
              {b.name} <kbd>{b.key.toUpperCase()}</kbd>
            </span>
          </button>
        </li>
      ))}
      {children}
    </ul>
  );
}

/** The sizes of what was begun, beside its picture, as long as its lines are still what they made. */
export function BegunCard({ bench }: { bench: BenchName }) {
  const verbs = useVerbs();
  const id = useDocument((d) => docOf(bench, d)?.id);
  const lines = useDocument((d) => docOf(bench, d)?.lines);
  const [, settled] = useState(0);
  const card = begunOf(lines);
  const of = beginningsOf(bench, verbs).find((b) => b.tag === card?.tag);
  if (!lines || !card || !of) return null;
  const done = async (told: Promise<void>) => {
    document.querySelector<HTMLElement>(`[data-line="${lines[0]?.id}"]`)?.focus();
    // What was typed last may still be on its way.
    await told;
    const now = docOf(bench);
    if (now?.lines && now.id === id) settle(now.lines);
    settled((n) => n + 1);
  };
  return <Sizes bench={bench} of={of} card={card} done={done} />;
}

interface SizesProps {
  bench: BenchName;
  of: Beginning;
  card: Begun;
  done(told: Promise<void>): void;
}

function Sizes({ bench, of, card, done }: SizesProps) {
  const [typed, setTyped] = useState(card.sizes);
  const [trouble, setTrouble] = useState<{ letter: string; words: string }>();
  // The one that stands for what is typed: another one comes by undo, and brings its sizes along.
  const own = useRef(card);
  const asked = useRef(0);
  const told = useRef(Promise.resolve());
  const settled = () => done(told.current);
  if (own.current !== card) {
    own.current = card;
    if (typed !== card.sizes) setTyped(card.sizes);
    if (trouble) setTrouble(undefined);
  }
  const tell = async (letter: string, text: string) => {
    const sizes = { ...typed, [letter]: text };
    setTyped(sizes);
    asked.current += 1;
    const mine = asked.current;
    try {
      const { parts, fault } = await made(bench, of.tag, sizes, card.issued);
      const before = begunOf(docOf(bench)?.lines);
      // Older than what is typed.
      if (asked.current !== mine) return;
      if (before !== own.current) {
        draft.setState({ word: `${letter} = ${text} came too late: the lines have changed meanwhile` });
        return;
      }
      if (fault)
        setTrouble({ letter: fault.letter, words: `${fault.message}. To mend it: ${fault.mend}` });
      else {
        setTrouble(undefined);
        putBegun(bench, { tag: of.tag, sizes }, parts, before);
        own.current = begunOf(docOf(bench)?.lines) ?? own.current;
      }
    } catch (e) {
      if (asked.current === mine) setTrouble({ letter, words: `Not taken over: ${said(e)}` });
    }
  };
  return (
    <fieldset
      id="begun"
      className="begun"
      onKeyDown={(e) => {
        if (e.nativeEvent.isComposing || (e.key !== "Escape" && e.key !== "Enter")) return;
        if (!(e.target as Element).matches("input")) return;
        e.preventDefault();
        settled();
      }}
    >
      <legend>{of.name}</legend>
      <img
        src={picture(of.tag)}
        alt={`${of.name}: where ${of.sizes.map((s) => s.letter).join(", ")} are`}
      />
      <div>
        {of.sizes.map((s) => (
          <label key={s.letter} className={trouble?.letter === s.letter ? "faulty" : ""}>
            <b>{s.letter}</b> {s.name}
            <input
              className="val"
              aria-label={`${s.letter}, ${s.name}`}
              aria-invalid={trouble?.letter === s.letter || undefined}
              value={typed[s.letter] ?? ""}
              spellCheck={false}
              autoComplete="off"
              onFocus={(e) => e.currentTarget.select()}
              onChange={(e) => {
                told.current = tell(s.letter, e.target.value);
              }}
            />
          </label>
        ))}
      </div>
      {trouble && (
        <p className="fault" role="alert">
          {trouble.letter}: {trouble.words}
        </p>
      )}
      <p>
        {of.about} What it makes are ordinary lines, below.{" "}
        <Act onClick={settled}>the sizes are right</Act>
      </p>
    </fieldset>
  );
}
