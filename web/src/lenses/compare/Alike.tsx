import type { Comparison } from "../../api/client";
import { lookOf } from "../../fits/looks";
import { Symbol } from "../../ui/Symbol";
import { TableCard } from "../TableCard";

type Pair = Comparison["alike"][number];

/** Two fits of one model to different readings: each parameter beside its other, and whether one curve would do for both. */
export function Alike({ pair }: { pair: Pair }) {
  const heads = ["parameter", pair.first, pair.second, "difference"];
  return (
    <TableCard
      title={`${pair.first} and ${pair.second} compared`}
      label={`Parameters of ${pair.first} and ${pair.second}`}
      copy={{
        label: `Copy the comparison of ${pair.first} and ${pair.second}`,
        what: "The comparison",
        rows: () => [heads, ...pair.rows.map((row) => [row.symbol, row.first, row.second, row.says])],
      }}
      below={<p className="px-2.5 py-2 font-book text-plain leading-snug">{pair.sentence}</p>}
    >
      <thead>
        <tr className="border-y border-rule align-bottom text-note text-mute">
          {heads.map((head, place) => (
            <th
              key={head}
              scope="col"
              className={`px-2 py-1 ${place === 1 || place === 2 ? "font-semibold" : "font-normal"} ${place === 0 || place === 3 ? "text-left" : ""}`}
              style={place === 1 || place === 2 ? { color: lookOf(head).color } : undefined}
            >
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {pair.rows.map((row) => (
          <tr key={row.symbol} className="border-b border-rule/60">
            <th scope="row" className="px-2 py-1 text-left font-book font-normal">
              <Symbol text={row.symbol} />
            </th>
            <td className="px-2 py-1 whitespace-nowrap">{row.first}</td>
            <td className="px-2 py-1 whitespace-nowrap">{row.second}</td>
            <td className="px-2 py-1 text-left font-book leading-snug">{row.says}</td>
          </tr>
        ))}
      </tbody>
    </TableCard>
  );
}
