import type { SectionCard } from "../api/types";
import { draft, NOWHERE } from "../document/draft";
import { useDraft } from "../hooks/useDraft";

/** The sections that members are of: true shape, and each figure worked out beside the published one. */
export function Sections() {
  const view = useDraft((d) => d.result?.frame);
  const cards = view?.sections ?? [];
  return (
    <section
      className="list-scroll section-cards"
      aria-label="sections, to scroll"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by the keyboard
      tabIndex={0}
    >
      {cards.map((c) => (
        <Card key={c.section} card={c} />
      ))}
      <p className="hint">
        A section that the catalogue lacks is told by size (RHS 90x35x2, FLAT 45x6, ROUND 18), or by the
        mark of a piece: its flat becomes the section.
      </p>
    </section>
  );
}

function Card({ card }: { card: SectionCard }) {
  const { setHover } = draft.getState();
  const members =
    useDraft((d) => d.result?.frame)?.members.filter((m) => m.section === card.section) ?? [];
  return (
    <section
      className="section-card"
      aria-label={card.section}
      onPointerEnter={() => setHover({ names: members.map((m) => m.name) })}
      onPointerLeave={() => setHover(NOWHERE)}
    >
      <Shape card={card} />
      <div>
        <h3>
          {card.section} <small>{card.series}</small>
        </h3>
        <table className="cut-table" aria-label={`figures of ${card.section}`}>
          <thead>
            <tr>
              <th />
              <th className="num">worked out</th>
              <th className="num">published</th>
              <th className="num">apart</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {card.figures.map((f) => (
              <tr key={f.label}>
                <td>{f.label}</td>
                <td className="num">{f.worked}</td>
                <td className="num">{f.published}</td>
                <td className="num">{f.apart}</td>
                <td>{f.unit}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="hint">
          {card.source}
          {card.note && `; ${card.note}`}. {card.members === 1 ? "1 member" : `${card.members} members`}{" "}
          of it here.
        </p>
      </div>
    </section>
  );
}

/** To its own scale, with its width and height. */
function Shape({ card }: { card: SectionCard }) {
  const [w, h] = card.size as [number, number];
  const most = Math.max(w, h);
  const k = 104 / most;
  const [left, low] = [74 - (w * k) / 2, 66 + (h * k) / 2];
  const x = (v: number) => 74 + v * k;
  const y = (v: number) => 66 - v * k;
  const loop = (l: number[]) =>
    `M${l.map((v, i) => (i % 2 ? y(v).toFixed(2) : x(v).toFixed(2))).join(" ")}Z`;
  const [cx, cy] = [x(card.centroid[0]!), y(card.centroid[1]!)];
  return (
    <svg
      viewBox="0 0 150 150"
      width="150"
      height="150"
      className="section-shape"
      role="img"
      aria-label={`${card.told[0]} wide, ${card.told[1]} high`}
    >
      <path d={card.loops.map(loop).join("")} fillRule="evenodd" />
      <path className="axis" d={`M${cx - 5} ${cy}h10M${cx} ${cy - 5}v10`} />
      <path className="axis" d={`M${left} ${low + 8}h${w * k}m0 -3v6m${-w * k} 0v-6`} />
      <text x={74} y={low + 20} textAnchor="middle">
        {card.told[0]}
      </text>
      <path className="axis" d={`M${left - 8} ${low}v${-h * k}m-3 0h6m0 ${h * k}h-6`} />
      <text x={left - 11} y={66} textAnchor="middle" transform={`rotate(-90 ${left - 11} 66)`}>
        {card.told[1]}
      </text>
    </svg>
  );
}
