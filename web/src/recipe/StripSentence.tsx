import { IconButton, Menu, MenuItem } from "@mui/material";
import { Fragment, useState } from "react";
import type { Element, Say } from "../api/types";
import { useDraft, writePiece } from "../draft/store";
import { Choice, Val } from "./Field";

type Strip = Extract<Say, { verb: "start_strip" }>;

const UP_DOWN: [string, string][] = [
  ["up", "up"],
  ["down", "down"],
];

/** Next free letter for a leg, next free number for a bend. */
function freshElement(profile: Element[], kind: Element["kind"]): string {
  const taken = profile.map((e) => e.id);
  for (let n = 0; ; n++) {
    const id = kind === "leg" ? String.fromCharCode(97 + (n % 26)) + (n >= 26 ? Math.floor(n / 26) : "") : String(n + 1);
    if (!taken.includes(id)) return id;
  }
}

function insertAfter(profile: Element[], i: number, what: "bend" | "arc" | "leg"): Element[] {
  const bend: Element =
    what === "arc"
      ? { kind: "arc", id: freshElement(profile, "arc"), radius: "50", angle: "90", direction: "up" }
      : { kind: "bend", id: freshElement(profile, "bend"), angle: "90", direction: "up" };
  const leg: Element = { kind: "leg", id: freshElement(profile, "leg"), length: "40" };
  const added = what === "leg" ? [leg] : [bend, leg];
  return [...profile.slice(0, i + 1), ...added, ...profile.slice(i + 1)];
}

/** Taking a leg out takes a bend beside it too, so that the profile stays one chain. */
function without(profile: Element[], i: number): Element[] {
  const isLeg = profile[i]?.kind === "leg";
  const beside = isLeg ? (profile[i - 1] ? i - 1 : i + 1) : i + 1;
  return profile.filter((_, k) => k !== i && k !== beside);
}

/** `start strip`: the profile as a row of legs, bends and arcs from west to east. */
export function StripSentence({ say, at }: { say: Strip; at: string }) {
  const legs: [string, string][] = say.profile.filter((e) => e.kind === "leg").map((e) => [e.id, `leg ${e.id}`]);
  return (
    <>
      <b>Start</b> with a strip <Val path="/say/width" label="width" /> wide,{" "}
      <Choice
        path="/say/side"
        label="side"
        options={[
          ["symmetric", "symmetric"],
          ["north", "to the north"],
          ["south", "to the south"],
        ]}
      />{" "}
      of its profile, told from the{" "}
      <Choice
        path="/say/measure"
        label="told from"
        options={[
          ["outside", "outside"],
          ["inside", "inside"],
          ["middle", "middle"],
        ]}
      />
      ; <Choice path="/say/stays" label="leg that lies still" options={[["", "the first leg"], ...legs]} optional /> lies still.
      <span className="profile">
        {say.profile.map((e, i) => (
          <ElementChip key={e.id} e={e} i={i} at={at} profile={say.profile} />
        ))}
      </span>
    </>
  );
}

function ElementChip({ e, i, at, profile }: { e: Element; i: number; at: string; profile: Element[] }) {
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const hovered = useDraft((d) => d.hover.names.some((n) => n.endsWith(`.${e.id}`)));
  const p = `/say/profile/${i}`;
  const write = (next: Element[]) => {
    setMenu(null);
    if (next.length) writePiece(`${at}/say/profile`, next);
  };
  return (
    <span className={`element ${e.kind}${hovered ? " lit" : ""}`} data-element={e.id}>
      {e.kind === "leg" && (
        <>
          leg {e.id} <Val path={`${p}/length`} label={`length of leg ${e.id}`} />
        </>
      )}
      {e.kind === "bend" && (
        <>
          bend {e.id} <Choice path={`${p}/direction`} label={`direction of bend ${e.id}`} options={UP_DOWN} />{" "}
          <Val path={`${p}/angle`} label={`angle of bend ${e.id}`} />° R
          <Val path={`${p}/radius`} label={`radius of bend ${e.id}`} empty="own" optional />
        </>
      )}
      {e.kind === "arc" && (
        <Fragment>
          arc {e.id} <Choice path={`${p}/direction`} label={`direction of arc ${e.id}`} options={UP_DOWN} />{" "}
          <Val path={`${p}/angle`} label={`angle of arc ${e.id}`} />° R
          <Val path={`${p}/radius`} label={`radius of arc ${e.id}`} />
        </Fragment>
      )}
      <IconButton size="small" className="more" aria-label={`more for ${e.kind} ${e.id}`} onClick={(x) => setMenu(x.currentTarget)}>
        ⋯
      </IconButton>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        <MenuItem onClick={() => write(insertAfter(profile, i, e.kind === "leg" ? "bend" : "leg"))}>
          {e.kind === "leg" ? "add a bend and a leg after it" : "add a leg after it"}
        </MenuItem>
        {e.kind === "leg" && <MenuItem onClick={() => write(insertAfter(profile, i, "arc"))}>add an arc and a leg after it</MenuItem>}
        {profile.length > 2 && <MenuItem onClick={() => write(without(profile, i))}>take it out</MenuItem>}
      </Menu>
    </span>
  );
}
