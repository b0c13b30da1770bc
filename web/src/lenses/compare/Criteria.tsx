import type { Comparison } from "../../api/client";
import { lookOf } from "../../fits/looks";
import { Term } from "../../ui/Hint";
import { TableCard } from "../TableCard";

/** Each criterion with its value for every fit: a row for each, so that a narrow window holds them all. */
export function Criteria({ found }: { found: Comparison }) {
  const table = () => [
    ["criterion", ...found.fits.map((fit) => `${fit.letter} ${fit.name}`)],
    ...found.criteria.map((one, place) => [one.label, ...found.fits.map((fit) => fit.values[place]!.text)]),
  ];
  return (
    <TableCard
      title="Criteria"
      label="Criteria of the fits"
      copy={{ label: "Copy the criteria", what: "The criteria", rows: table }}
      below={
        <div className="grid gap-1 px-2.5 py-2 font-book text-plain leading-snug">
          {found.remark && <p className="text-amber">{found.remark}</p>}
          {found.nested.map((test) => (
            <p key={test.smaller + test.larger}>{test.sentence}</p>
          ))}
          {found.fits.length > 1 && (
            <p className="text-note text-mute">The best of each criterion is marked. R² is not: it cannot choose between models.</p>
          )}
        </div>
      }
    >
      <thead>
        <tr className="border-y border-rule align-bottom text-note text-mute">
          <th scope="col" className="px-2 py-1 text-left font-normal">
            criterion
          </th>
          {found.fits.map((fit) => (
            <th key={fit.letter} scope="col" title={fit.name} className="max-w-24 px-1.5 py-1 font-normal">
              <span className="font-semibold" style={{ color: lookOf(fit.letter).color }}>
                {fit.letter}
              </span>{" "}
              <span className="line-clamp-2 font-book text-ink">{fit.name}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {found.criteria.map((one, place) => (
          <tr key={one.name} className="border-b border-rule/60">
            <th scope="row" className="px-2 py-1 text-left font-normal">
              <Term word={one.label} meaning={one.meaning} />
            </th>
            {found.fits.map((fit) => {
              const { text, best } = fit.values[place]!;
              return (
                <td key={fit.letter} className={`px-1.5 py-1 whitespace-nowrap ${best ? "bg-tint font-semibold" : ""}`}>
                  {text}
                  {best && <span className="sr-only"> (best)</span>}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </TableCard>
  );
}
