import { memo, useRef, useState } from "react";
import { answer, api, said } from "../api/client";
import type { components } from "../api/schema";
import { type BenchName, docOf } from "../document/bench";
import { draft } from "../document/draft";
import { standing, takeIn } from "./lineText";
import { cutIds, namesOf, thingsOf, viewOf } from "./names";
import { nodeNames } from "./nodes";
import { type Kind, type Said, useVerbs, type VerbView } from "./useVerbs";

type Offered = components["schemas"]["Offered"];

interface Doc {
  lines?: { id: string; say: Said }[];
  issued?: Record<string, number>;
}

/** Something that can be put behind what is typed. */
interface Offer {
  insert: string;
  shown: string;
  about: string;
  /** Geometry that it names. */
  names: string[];
}

/** The names that fit a slot, as they are typed. */
function named(
  kind: Kind,
  label: string,
  view: ReturnType<typeof viewOf>,
  doc: Doc,
  verbs: VerbView[] | undefined,
): Offer[] {
  const offer = (insert: string, shown = insert, names: string[] = []): Offer => ({
    insert,
    shown,
    about: label,
    names,
  });
  const lines = doc.lines ?? [];
  if (kind === "thing") return thingsOf(draft.getState()).map(([n, words]) => offer(n, words, [n]));
  if (kind === "plate_side") {
    const sides = draft.getState().result?.frame?.sides ?? [];
    return sides.map((n) => offer(n));
  }
  if (kind === "cut") return cutIds(lines, verbs).map((n) => offer(n, n, [n]));
  if (kind === "node") return nodeNames(doc as never).map((n) => offer(n, n, [n]));
  if (kind === "line") return lines.map((l) => offer(l.id));
  if (kind === "member" || kind === "member_or_node") {
    const makes = new Set(verbs?.filter((v) => v.role === "member").map((v) => v.tag));
    const bars = lines.filter((l) => makes.has(l.say.verb)).map((l) => offer(l.id, l.id, [l.id]));
    return kind === "member" ? bars : [...bars, ...nodeNames(doc as never).map((n) => offer(n, n, [n]))];
  }
  // The side of a leg has no side of its own in the outline: its panel lights up.
  return namesOf(kind, view).map(([n, words]) =>
    offer(n.replace(/^start-\d+\./, ""), words, kind === "edge" ? [n, n.replace(/\.[^.]+$/, "")] : [n]),
  );
}

function offersOf(
  found: Offered[],
  typed: string,
  view: ReturnType<typeof viewOf>,
  doc: Doc,
  verbs: VerbView[] | undefined,
): { offers: Offer[]; hints: string[] } {
  const offers: Offer[] = [];
  const hints: string[] = [];
  for (const o of found) {
    if (o.is === "words") offers.push({ insert: o.text, shown: o.text, about: o.about, names: [] });
    else {
      const own = named(o.kind, o.label, view, doc, verbs).filter((n) =>
        n.insert.toLowerCase().startsWith(typed.toLowerCase()),
      );
      if (own.length > 0) offers.push(...own);
      else hints.push(o.label.replace(/ (of )?(point )?\{\w+\}/, ""));
    }
  }
  return { offers: offers.slice(0, 24), hints: [...new Set(hints)].slice(0, 6) };
}

/**
 * A field for lines: read by the server as one types, with what can come next; several pasted lines come in
 * one step.
 */
export const TypedLine = memo(function TypedLine({ bench }: { bench: BenchName }) {
  const verbs = useVerbs()?.[bench];
  const [text, setText] = useState("");
  const [fault, setFault] = useState("");
  /** What can come next, and the text that it was asked for. */
  const [open, setOpen] = useState<{ of: string; from: number; offers: Offer[]; hints: string[] } | null>(
    null,
  );
  const [at, setAt] = useState(-1);
  const input = useRef<HTMLInputElement>(null);
  const asked = useRef(0);
  /** Taken from a list that was not yet of what stands here: looked for in the next one. */
  const wished = useRef("");
  /** What was walked to, so that it is found again in the next list. */
  const walked = useRef("");
  const { setHover } = draft.getState();

  const close = () => {
    asked.current++;
    wished.current = "";
    setOpen(null);
    setAt(-1);
    setHover({ names: [] });
  };
  const suggest = async (typed: string) => {
    const mine = ++asked.current;
    // Whoever types on has left what was walked to, however late the next offers come.
    setAt(-1);
    walked.current = "";
    setHover({ names: [] });
    try {
      const got = answer(
        await api.POST("/api/complete", { body: { bench, text: typed, lines: standing(docOf(bench)) } }),
      );
      if (mine !== asked.current) return;
      const offers = offersOf(
        got.offers,
        [...typed].slice(got.from).join(""),
        viewOf(draft.getState()),
        (docOf(bench) ?? {}) as never,
        verbs,
      );
      const wish = offers.offers.find((o) => o.insert === wished.current);
      wished.current = "";
      if (wish) {
        put(wish, typed, got.from);
        return;
      }
      requestAnimationFrame(() => input.current?.form?.scrollIntoView({ block: "nearest" }));
      setAt(walked.current ? offers.offers.findIndex((o) => o.insert === walked.current) : -1);
      setOpen({ of: typed, from: got.from, ...offers });
    } catch {
      // Typing goes on without it.
    }
  };
  const put = (offer: Offer, typed: string, from: number) => {
    const next = `${[...typed].slice(0, from).join("")}${offer.insert} `;
    setText(next);
    void suggest(next);
    input.current?.focus();
  };
  const take = (offer: Offer) => {
    // What was offered for another text does not fit this one: the next list says where it goes.
    if (open?.of === text) put(offer, text, open.from);
    else wished.current = offer.insert;
  };
  /** Lines are taken in one after another; what is typed meanwhile is left as it is. */
  const queue = useRef(Promise.resolve());
  const enter = (all: string) => {
    if (all.trim() === "") return;
    close();
    setText("");
    queue.current = queue.current.then(() => taken(all));
  };
  const taken = async (all: string) => {
    // Put back where nothing else was typed; else told with its words.
    const back = (rows: string) => {
      const free = (input.current?.value ?? "") === "";
      if (free) setText(rows);
      return free;
    };
    try {
      const { taken, untaken } = await takeIn(bench, all, verbs);
      const many = all.split("\n").filter((r) => r.trim()).length > 1;
      const free = untaken.length === 0 || back(untaken.map((u) => u.row).join("; "));
      const said = untaken.map(
        (u) => `${many || !free ? `“${u.row.slice(0, 60)}”: ` : ""}${u.message}. Try: ${u.mend}`,
      );
      if (many && said.length > 0) said.unshift(`${taken} of ${taken + untaken.length} lines taken in`);
      setFault(said.join(". "));
    } catch (e) {
      setFault(back(all) ? said(e) : `“${all.slice(0, 60)}” is not taken in: ${said(e)}`);
    }
  };
  const walk = (by: number) => {
    if (!open || open.offers.length === 0) return;
    const next = (at + by + open.offers.length + (at < 0 && by < 0 ? 1 : 0)) % open.offers.length;
    setAt(next);
    walked.current = open.offers[next]!.insert;
    // What it names lights up while one walks through the list.
    setHover({ names: open.offers[next]!.names });
  };
  // The shortest: it is read whole in the field.
  const of = verbs?.find((v) => v.role !== "start" && v.role !== "bend" && v.role !== "node");
  const example = [...(of?.examples ?? [])].sort((a, b) => a.length - b.length)[0] ?? "";
  const shown = open && (open.offers.length > 0 || open.hints.length > 0);
  return (
    <form
      className="short"
      onSubmit={(e) => {
        e.preventDefault();
        enter(text);
      }}
      onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && close()}
    >
      <input
        id="short-text"
        ref={input}
        data-own-text
        role="combobox"
        aria-label="type a line"
        aria-expanded={Boolean(shown)}
        aria-controls="short-offers"
        aria-activedescendant={at >= 0 ? `offer-${at}` : undefined}
        placeholder={`or type a line:  ${example}   ( / )`}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          wished.current = "";
          void suggest(e.target.value);
        }}
        onKeyDown={(e) => {
          if (e.nativeEvent.isComposing) return;
          if (e.key === "ArrowDown" || e.key === "ArrowUp") {
            e.preventDefault();
            if (open) walk(e.key === "ArrowDown" ? 1 : -1);
            else void suggest(text);
          } else if (e.key === "Escape" && open) {
            e.stopPropagation();
            close();
          } else if (at >= 0 && (e.key === "Enter" || e.key === "Tab")) {
            e.preventDefault();
            take(open!.offers[at]!);
          }
        }}
        onPaste={(e) => {
          const pasted = e.clipboardData.getData("text");
          if (pasted.trim().split("\n").length < 2) return;
          e.preventDefault();
          enter(pasted);
        }}
        spellCheck={false}
        autoComplete="off"
      />
      {shown && (
        <div className="offers" id="short-offers" role="listbox" aria-label="what can come next">
          {open.offers.map((o, i) => (
            <button
              type="button"
              role="option"
              id={`offer-${i}`}
              aria-selected={i === at}
              tabIndex={-1}
              key={`${o.insert} ${o.about}`}
              title={o.about}
              onPointerDown={(e) => e.preventDefault()}
              onPointerEnter={() => setHover({ names: o.names })}
              onClick={() => take(o)}
            >
              {o.shown}
            </button>
          ))}
          {open.hints.length > 0 && <span className="hint">{open.hints.join(" · ")}</span>}
        </div>
      )}
      {fault && (
        <p className="fault" role="alert">
          {fault}
        </p>
      )}
    </form>
  );
});
