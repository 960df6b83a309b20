import { answer, api } from "../../api/client";
import type { Frame, FrameView } from "../../api/types";
import { docOf, editDoc } from "../../document/bench";
import { issue } from "../../document/ids";
import { nextNode, nodeNames } from "../../verbs/nodes";

/** A spot of the working plane: a node that stands there, or a place. */
export interface Spot {
  node?: string;
  at: [number, number, number];
}

/** A node as it was typed: what its line says. */
export interface TypedNode {
  name: string;
  say: unknown;
}

const near = (a: readonly number[], b: readonly number[]) =>
  Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!);

/** Snaps to a node that is told by name nearby, else to the step. */
export function snap(frame: FrameView | undefined, p: readonly number[], step: number): Spot {
  const named = frame?.nodes.filter((n) => !n.name.includes("."));
  const best = named?.map((n) => ({ n, d: near(n.at, p) })).sort((a, b) => a.d - b.d)[0];
  if (best && best.d < step * 0.75)
    return { node: best.n.name, at: best.n.at as [number, number, number] };
  return { at: p.map((v) => Math.round(v / step) * step) as [number, number, number] };
}

/** A length as it is typed in the frame's unit. */
const typed = (mm: number, inch: boolean) =>
  String(Number((inch ? mm / 25.4 : mm).toFixed(inch ? 4 : 3)));

/**
 * Puts a leg down: nodes that are missing, and a member line that goes on from `from`. Returns the node at
 * its end.
 */
export function putLeg(
  from: string | null,
  line: string | null,
  to: Spot | TypedNode,
  inch: boolean,
): { node: string; line: string | null } {
  let node = ("node" in to && to.node) || "";
  let member = line;
  editDoc("frame", "", (doc) => {
    const frame = doc as unknown as Frame;
    let lines = [...(frame.lines ?? [])];
    let { issued } = frame;
    const fresh = (stem: string) => {
      const got = issue(
        stem,
        lines.map((l) => l.id),
        issued,
      );
      issued = got.issued;
      return got.id;
    };
    // Nodes stand before the members that use them.
    const place = () => lines.findIndex((l) => l.say.verb === "members" || l.say.verb === "joint");
    if (!node) {
      const at = place();
      let say: unknown;
      if ("say" in to) {
        node = to.name;
        say = to.say;
      } else {
        node = nextNode(nodeNames(frame));
        const [x, y, z] = to.at.map((v) => typed(v, inch));
        say = { verb: "node", name: node, x: x!, y: y!, z: z! };
      }
      lines.splice(at < 0 ? lines.length : at, 0, { id: fresh("node"), say: say as never });
    }
    if (from && from !== node) {
      const going = lines.find((l) => l.id === member);
      if (going && going.say.verb === "members" && going.say.path?.at(-1) === from) {
        const say = { ...going.say, path: [...(going.say.path ?? []), node] };
        lines = lines.map((l) => (l === going ? { ...l, say } : l));
      } else {
        const id = fresh("rail");
        member = id;
        lines.push({ id, say: { verb: "members", name: "rail", path: [from, node] } });
      }
    }
    return { ...frame, issued, lines };
  });
  return { node, line: member };
}

/** Reads a place as it is said: `600 east`, `300 east, 450 up`, from a node or from zero. */
export async function typedNode(
  from: string | null,
  text: string,
): Promise<TypedNode | { wrong: string }> {
  const doc = docOf("frame");
  const name = nextNode(nodeNames(doc as unknown as Frame));
  const line = `node ${name} ${text.trim()}${from ? `, from ${from}` : ""}`;
  const lines = (doc?.lines ?? []).map((l) => ({ id: l.id, say: l.say as never }));
  const read = answer(
    await api.POST("/api/lines", { body: { bench: "frame", text: line, lines, above: lines.length } }),
  );
  const fault = read.faults[0]?.fault;
  const say = read.lines[0]?.say;
  if (fault || !say) return { wrong: fault ? `${fault.message}; ${fault.mend}` : "nothing is said" };
  return { name, say };
}
