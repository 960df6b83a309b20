import type { FrameList } from "../api/types";
import { draft, NOWHERE } from "../document/draft";

/** Welds joint by joint, copies in one row, with the smallest leg that the rule allows. */
export function Welds({ list, unit, mass }: { list: FrameList; unit: string; mass: string }) {
  const { setHover } = draft.getState();
  return (
    <section
      className="list-scroll"
      aria-label="welds, to scroll"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by the keyboard
      tabIndex={0}
    >
      <table className="cut-table" aria-label="welds">
        <thead>
          <tr>
            <th>at</th>
            <th>between</th>
            <th>kind</th>
            <th className="num">size {unit}</th>
            <th className="num" title="smallest fillet leg by the thicker part, AWS D1.1">
              at least
            </th>
            <th className="num">length {unit}</th>
            <th className="num">times</th>
            <th className="num">metal, all {mass}</th>
          </tr>
        </thead>
        <tbody>
          {list.welds.map((w, i) => (
            <tr
              key={i}
              onPointerEnter={() => setHover({ names: w.names })}
              onPointerLeave={() => setHover(NOWHERE)}
            >
              <td>{w.at}</td>
              <td>{w.between}</td>
              <td>{w.kind}</td>
              <td className="num strong">{w.size}</td>
              <td className="num">{w.least}</td>
              <td className="num">{w.length}</td>
              <td className="num">{w.count}</td>
              <td className="num">{w.metal}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="total">
            <td colSpan={5}>
              geometry only: sizes are the rule’s smallest where none is told, no load is looked at; their
              metal is not in the frame’s mass
            </td>
            <td className="num">{list.weld_length}</td>
            <td />
            <td className="num">{list.weld_metal}</td>
          </tr>
        </tfoot>
      </table>
      {list.welds.length === 0 && <p className="empty">Nothing meets yet.</p>}
    </section>
  );
}
