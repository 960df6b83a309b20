import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { answer, api } from "../api/client";
import type { FrameLine } from "../api/types";
import { get } from "../draft/pointer";
import { useDraft, useFrame, writeFrame } from "../draft/store";
import { materialOptions } from "../parts/Materials";
import { Choice, Val, Words } from "../recipe/Field";
import { useBook } from "../recipe/PieceHead";

const WAYS: [string, string][] = [
  ["east", "east"],
  ["north", "north"],
  ["up", "up"],
];
const FACES: [string, string][] = [
  ["top", "top"],
  ["bottom", "bottom"],
  ["left", "left"],
  ["right", "right"],
];
const SITS: [string, string][] = [
  ["middle", "its middle"],
  ["centroid", "its centroid"],
  ["top", "its top face"],
  ["bottom", "its bottom face"],
  ["left", "its left face"],
  ["right", "its right face"],
  ["top_left", "its top left corner"],
  ["top_right", "its top right corner"],
  ["bottom_left", "its bottom left corner"],
  ["bottom_right", "its bottom right corner"],
];

/** Names in a row, written as they are read: `A B C`. */
export function Names({ path, label, empty = "…" }: { path: string; label: string; empty?: string }) {
  return <Words path={path} label={label} empty={empty} between=" " />;
}

/** A section, with the catalogue behind it. */
export function SectionField({ path, label, empty = "" }: { path: string; label: string; empty?: string }) {
  const { frame } = useFrame();
  const pieces = useDraft((d) => d.job)?.pieces ?? [];
  const id = useId();
  const value = String(get(frame, path) ?? "");
  const [asked, setAsked] = useState(false);
  const found = useQuery({
    queryKey: ["sections", value],
    enabled: asked,
    queryFn: async () => answer(await api.GET("/api/sections", { params: { query: { q: value } } })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
  });
  return (
    <>
      <input
        className="val words"
        aria-label={label}
        list={id}
        placeholder={empty}
        value={value}
        spellCheck={false}
        autoComplete="off"
        style={{ width: `${Math.max(value.length, empty.length, 6) + 2.5}ch` }}
        onFocus={() => setAsked(true)}
        onChange={(e) => writeFrame(path, e.target.value === "" && empty ? undefined : e.target.value, true)}
      />
      <datalist id={id}>
        {found.data?.sections.map((s) => (
          <option key={s.designation} value={s.designation}>
            {`${(s.published ?? s.worked).toFixed(2)} kg/m · ${s.series}`}
          </option>
        ))}
        {pieces.map((p) => (
          <option key={p.id} value={p.mark}>
            {`the flat of ${p.name || "a piece"}`}
          </option>
        ))}
      </datalist>
    </>
  );
}

/** Of what a bar is, where it is not the frame's material. */
function MaterialChoice() {
  const book = useBook();
  const materials = materialOptions(book.data?.materials, useDraft.getState().job);
  return <Choice path="/say/material" label="material of the bar" options={[["", "usual material"], ...materials]} optional />;
}

/** How far along the way between two nodes, or along a member. */
function Along() {
  return (
    <>
      <Choice
        path="/say/by"
        label="measured by"
        options={[
          ["share", "this part of the way:"],
          ["length", "this far along:"],
        ]}
      />{" "}
      <span className="end">
        <Val path="/say/at" label="at" />.
      </span>
    </>
  );
}

/** A line of a frame read out as a fabricator would say it, its values open to change. */
export function FrameSentence({ line, at }: { line: FrameLine; at: string }) {
  const say = line.say;
  const s = `${at}/say`;
  switch (say.verb) {
    case "node":
      return (
        <>
          <b>Node</b> <Val path="/say/name" label="name" /> east <Val path="/say/x" label="east" />, north <Val path="/say/y" label="north" />, up{" "}
          <Val path="/say/z" label="up" /> from{" "}
          <span className="end">
            <Val path="/say/from" label="from" empty="zero" optional />.
          </span>
        </>
      );
    case "between":
      return (
        <>
          <b>Node</b> <Val path="/say/name" label="name" /> between <Val path="/say/from" label="from" /> and <Val path="/say/to" label="to" />, <Along />
        </>
      );
    case "on":
      return (
        <>
          <b>Node</b> <Val path="/say/name" label="name" /> on <Val path="/say/member" label="member" />, <Along />
        </>
      );
    case "members":
      return (
        <>
          <Val path="/say/name" label="call" /> along <Names path={`${s}/path`} label="path" />
          <Choice
            path="/say/closed"
            label="closed"
            flag
            options={[
              ["false", "open"],
              ["true", "closed"],
            ]}
          />{" "}
          of <SectionField path={`${s}/section`} label="section" empty="usual section" /> on <Choice path="/say/sits" label="sits" options={SITS} />, turned{" "}
          <Val path="/say/turn" label="turn" empty="0" optional />
          {(say.path.length === 3 || say.arc) && (
            <>
              ,{" "}
              <Choice
                path="/say/arc"
                label="way"
                flag
                options={[
                  ["false", "from node to node"],
                  ["true", "as one arc through them"],
                ]}
              />
            </>
          )}
          {say.path.length > 2 && !say.arc && (
            <>
              , bent <Val path="/say/radius" label="bend radius" empty="not" optional />
            </>
          )}
          ,{" "}
          <span className="end">
            <MaterialChoice />.
          </span>
        </>
      );
    case "joint":
      return (
        <>
          <Choice
            path="/say/how"
            label="joint"
            options={[
              ["mitre", "Mitre"],
              ["butt", "Butt"],
            ]}
          />{" "}
          at <Names path={`${s}/at`} label="nodes" />, {say.how === "butt" ? "through:" : "the two:"}{" "}
          <Names path={`${s}/first`} label="first" empty="as ranked" />, gap{" "}
          <span className="end">
            <Val path="/say/gap" label="gap" empty="usual" optional />.
          </span>
        </>
      );
    case "trim":
      return (
        <>
          <b>Trim</b> <Val path="/say/member" label="member" />{" "}
          <Choice
            path="/say/tip"
            label="end"
            options={[
              ["start", "at its start"],
              ["end", "at its end"],
            ]}
          />{" "}
          <select
            className="choice"
            aria-label="trimmed by"
            value={say.by.by}
            onChange={(e) =>
              writeFrame(
                `${s}/by`,
                e.target.value === "plane"
                  ? { by: "plane", way: "up", at: "0" }
                  : e.target.value === "nodes"
                    ? { by: "nodes", nodes: [] }
                    : { by: "member", member: "" },
              )
            }
          >
            <option value="plane">by the plane</option>
            <option value="nodes">by the plane of nodes</option>
            <option value="member">by the face of</option>
          </select>{" "}
          {say.by.by === "plane" && (
            <>
              <Choice path="/say/by/way" label="direction" options={WAYS} /> <Val path="/say/by/at" label="plane at" />
            </>
          )}
          {say.by.by === "nodes" && <Names path={`${s}/by/nodes`} label="nodes" />}
          {say.by.by === "member" && <Val path="/say/by/member" label="by member" />}, gap <Val path="/say/gap" label="gap" empty="0" optional />,{" "}
          <Choice
            path="/say/lengthen"
            label="lengthen"
            flag
            options={[
              ["false", "never longer"],
              ["true", "lengthen to it"],
            ]}
          />
          .
        </>
      );
    case "mirror_frame":
      return (
        <>
          <b>Mirror</b> <Names path={`${s}/of`} label="lines" empty="everything above" /> across <Choice path="/say/across" label="across" options={WAYS} /> at{" "}
          <span className="end">
            <Val path="/say/at" label="at" />.
          </span>
        </>
      );
    case "repeat_frame":
      return (
        <>
          <b>Repeat</b> <Names path={`${s}/of`} label="lines" empty="everything above" /> <Val path="/say/count" label="count" /> times, each east{" "}
          <Val path="/say/x" label="east" />, north <Val path="/say/y" label="north" />, up <Val path="/say/z" label="up" /> further.
        </>
      );
    case "hole":
      return (
        <>
          <b>Drill</b> <Names path={`${s}/members`} label="members" /> ⌀ <Val path="/say/diameter" label="diameter" /> (slot{" "}
          <Val path="/say/slot" label="slot length" empty="no" optional />) in the <Choice path="/say/face" label="face" options={FACES} />,{" "}
          <Val path="/say/at" label="along" /> from its start, <Val path="/say/off" label="off the middle" empty="0" optional /> off the middle,{" "}
          <Choice
            path="/say/through"
            label="walls"
            flag
            options={[
              ["false", "near wall"],
              ["true", "both walls"],
            ]}
          />
          , <Val path="/say/count" label="count" empty="1" optional /> at pitch{" "}
          <span className="end">
            <Val path="/say/pitch" label="pitch" empty="–" optional />.
          </span>
        </>
      );
    case "notch_end":
      return (
        <>
          <b>Notch</b> <Names path={`${s}/members`} label="members" />{" "}
          <Choice
            path="/say/tip"
            label="end"
            options={[
              ["start", "at the start"],
              ["end", "at the end"],
            ]}
          />
          , in the <Choice path="/say/face" label="face" options={FACES} />, <Val path="/say/width" label="width" /> wide and{" "}
          <Val path="/say/length" label="length" /> long,{" "}
          <Choice
            path="/say/through"
            label="walls"
            flag
            options={[
              ["false", "near wall"],
              ["true", "both walls"],
            ]}
          />
          .
        </>
      );
    case "cap":
      return (
        <>
          <b>Cap</b> the ends at <Names path={`${s}/at`} label="nodes" /> with <Val path="/say/thickness" label="thickness" />, inset{" "}
          <span className="end">
            <Val path="/say/inset" label="inset" empty="0" optional />.
          </span>
        </>
      );
    case "base":
      return (
        <>
          <b>Foot</b> at <Names path={`${s}/at`} label="nodes" />: <Val path="/say/width" label="width" /> × <Val path="/say/length" label="length" /> ×{" "}
          <Val path="/say/thickness" label="thickness" />, holes ⌀ <Val path="/say/hole" label="hole" empty="none" optional />,{" "}
          <Val path="/say/edge" label="edge" empty="2 d" optional /> from the edges. The post gives way.
        </>
      );
    case "gusset":
      return (
        <>
          <b>Gusset</b> at <Val path="/say/at" label="node" /> between <Names path={`${s}/between`} label="between" />: legs <Val path="/say/leg" label="leg" />{" "}
          × <Val path="/say/leg_2" label="second leg" empty="same" optional />, <Val path="/say/thickness" label="thickness" /> thick, nose{" "}
          <Val path="/say/nose" label="nose" empty="0" optional />, snipe <Val path="/say/snipe" label="snipe" empty="0" optional />,{" "}
          <Choice
            path="/say/place"
            label="place"
            options={[
              ["middle", "in the middle"],
              ["near", "flush, near side"],
              ["far", "flush, far side"],
              ["both", "one on each side"],
            ]}
          />
          .
        </>
      );
    case "fit":
      return (
        <>
          <b>Plate</b>{" "}
          <Choice
            path="/say/over"
            label="fitted"
            flag
            options={[
              ["false", "between"],
              ["true", "over"],
            ]}
          />{" "}
          the members round <Names path={`${s}/around`} label="around" />, <Val path="/say/thickness" label="thickness" /> thick, clearance{" "}
          <Val path="/say/clearance" label="clearance" empty="0" optional />, off the plane by{" "}
          <span className="end">
            <Val path="/say/off" label="off" empty="none" optional />.
          </span>
        </>
      );
    case "lug":
      return (
        <>
          <b>Lug</b> on the <Choice path="/say/face" label="face" options={FACES} /> of <Val path="/say/member" label="member" />,{" "}
          <Val path="/say/at" label="along" /> from its start: base <Val path="/say/base_length" label="base length" /> ×{" "}
          <Val path="/say/base_width" label="base width" /> × <Val path="/say/base" label="base thickness" empty="none" optional />, upright{" "}
          <Val path="/say/thickness" label="thickness" /> thick, R <Val path="/say/radius" label="radius" />, eye ⌀ <Val path="/say/eye" label="eye" />{" "}
          <Val path="/say/height" label="eye height" /> up, welded{" "}
          <span className="end">
            <Choice
              path="/say/weld"
              label="welded"
              options={[
                ["all_round", "all round"],
                ["sides", "along its sides"],
                ["ends", "across its ends"],
              ]}
            />
            .
          </span>
        </>
      );
    case "ring_clamp":
      return (
        <>
          <b>Clamp ring</b> round <Val path="/say/member" label="member" />, <Val path="/say/at" label="along" /> from its start: outside ⌀{" "}
          <Val path="/say/outside" label="outside" />, <Val path="/say/width" label="width" /> wide, clearance{" "}
          <Val path="/say/clearance" label="clearance" empty="0" optional />, split <Val path="/say/split" label="split" />, ears{" "}
          <Val path="/say/ear" label="ear" /> long, <Val path="/say/ear_width" label="ear width" empty="as the ring" optional /> wide,{" "}
          <Val path="/say/thickness" label="thickness" /> thick, bolt hole <Val path="/say/bolt" label="bolt hole" /> at{" "}
          <span className="end">
            <Val path="/say/bolt_at" label="bolt from the ring" empty="the middle" optional />.
          </span>
        </>
      );
    case "stack":
      return (
        <>
          <b>Stack</b> on <Val path="/say/at" label="node" />:{" "}
          {say.blocks.map((_, i) => (
            <span key={i}>
              {i > 0 && ", then "}
              <Val path={`/say/blocks/${i}/name`} label={`block ${i + 1} name`} /> <Val path={`/say/blocks/${i}/length`} label={`block ${i + 1} east`} /> ×{" "}
              <Val path={`/say/blocks/${i}/width`} label={`block ${i + 1} north`} /> × <Val path={`/say/blocks/${i}/height`} label={`block ${i + 1} up`} />
            </span>
          ))}{" "}
          <button type="button" className="chip" onClick={() => writeFrame(`${s}/blocks/-`, { name: "block", length: "100", width: "100", height: "20" })}>
            + block
          </button>
        </>
      );
    case "weld":
      return (
        <>
          <b>Weld</b> <Names path={`${s}/at`} label="nodes" empty="everywhere" />:{" "}
          <Choice
            path="/say/kind"
            label="kind"
            options={[
              ["fillet", "fillet, leg"],
              ["butt", "butt weld,"],
            ]}
          />{" "}
          <span className="end">
            <Val path="/say/size" label="size" empty="smallest by rule" optional />.
          </span>
        </>
      );
    case "assembly":
      return (
        <>
          <b>Weld first</b> <Val path="/say/mark" label="mark" /> <Val path="/say/name" label="name" />:{" "}
          <span className="end">
            <Names path={`${s}/of`} label="lines" />.
          </span>
        </>
      );
  }
}
