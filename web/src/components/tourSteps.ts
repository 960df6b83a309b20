/** The tour of the bench: each step says one thing, does it on the piece at hand, and can be taken back. */

import { applyMend, docOf, writeDoc } from "../document/bench";
import { draft, NOWHERE } from "../document/draft";
import { takeIn } from "../verbs/lineText";
import { knownVerbs } from "../verbs/useVerbs";

/** The piece that the tour is about: the sample job has it. */
export const TOUR_PIECE = "tour";

/** Figures of the piece, as printed, by their keys. */
export type Printed = (key: string) => string;

export interface TourStep {
  says(figure: Printed): string;
  /** What it does besides; an edit is one step of undo. */
  does?(): void | Promise<void>;
  edits?: boolean;
}

const lit = (...names: string[]) => draft.getState().setHover({ names });
const dark = () => draft.getState().setHover(NOWHERE);
const press = (what: string) => document.querySelector<HTMLElement>(what)?.click();
const slip = ".MuiPopover-root .MuiBackdrop-root";

/** Types a line as a hand would; one that is not understood is no step. */
async function say(text: string): Promise<void> {
  const { untaken } = await takeIn("piece", text, knownVerbs()?.piece);
  if (untaken[0]) throw new Error(`“${untaken[0].row}”: ${untaken[0].message}`);
}

/** The mend of the finding that the tour makes. */
const mendable = () =>
  draft
    .getState()
    .result?.piece?.findings.find((f) => f.mend && f.line === docOf("piece")?.lines?.at(-1)?.id)?.mend;

export const STEPS: TourStep[] = [
  {
    says: () =>
      "The drawing says: an angle of 2 mm steel, 40 wide, its legs 60 and 40 outside. The " +
      "first line on the left says just that; its parts are lit in both views.",
    does: () => draft.getState().setHover({ line: "start-1", names: [] }),
  },
  {
    says: (f) =>
      "Cut a strip 100 long and the angle comes out too large. Its flat is " +
      `${f("flat_length")}: in the bend the outside of the sheet stretches, the inside is ` +
      "pressed together.",
    does: () => lit("start-1.1"),
  },
  {
    says: (f) =>
      `Where do ${f("flat_length")} come from? A click on any figure opens its working: the ` +
      "rule, its source, and the numbers filled in.",
    does: () => {
      dark();
      press("[data-figure=flat_length]");
    },
  },
  {
    says: () =>
      "Flat and formed are one piece. It folds as at the brake; the slider below the formed " +
      "view stops it anywhere.",
    does: () => {
      press(slip);
      press('[aria-label="fold it bend by bend"]');
    },
  },
  {
    says: (f) =>
      `A larger inside radius is a shorter way round: with R6 the flat is ${f("flat_length")}. ` +
      "Every value on the left can be changed like this, as 1/4in or 3*t if you like.",
    does: () => writeDoc("piece", "/radius", "6"),
    edits: true,
  },
  {
    says: (f) => `Ctrl Z takes any change back: ${f("flat_length")} again.`,
    does: () => draft.getState().undo(),
    edits: true,
  },
  {
    says: () =>
      "A drawing places holes from the outside of the bend. So does this line; press H for one " +
      "of your own, or / to type it as it stands here.",
    does: async () => {
      await say("hole ⌀9 on b, 10 from its left end, 8 from fold");
    },
    edits: true,
  },
  {
    says: () =>
      "It stands too near the bend: the sheet would be drawn out of round there. The finding " +
      "at the foot of the lines says by how much and by which rule.",
    does: () => document.querySelector(".findings")?.scrollIntoView({ block: "nearest" }),
  },
  {
    says: () => "Where there is a mend, a finding offers it. This one moves the hole away, in one step.",
    does: () => {
      const mend = mendable();
      if (mend) applyMend("piece", mend);
    },
    edits: true,
  },
  {
    says: () =>
      "Lines refer to one another by name. This one puts the same hole on the other side of " +
      "the middle; move the first and both move.",
    does: async () => {
      const last = docOf("piece")?.lines?.at(-1)?.id;
      await say(`mirror ${last}, north`);
    },
    edits: true,
  },
  {
    says: (f) =>
      `Mass ${f("mass")}, cut length ${f("cut_length")}, blank ${f("flat_length")} by ` +
      `${f("flat_width")}: all of it followed. Nothing is drawn by hand, so nothing can be ` +
      "forgotten.",
    does: dark,
  },
  {
    says: () =>
      "Brief checks a drawing's figures against the piece; Papers has the DXF for the cutter, " +
      "the bend sheet and a 1:1 template that proves its own scale. That is all: leave, and " +
      "the piece is as it was.",
  },
];
