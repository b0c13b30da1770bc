import { Popover } from "radix-ui";
import { useState } from "react";

import type { FittedFit } from "../fits/kinds";
import { useChange, useStudy } from "../study/context";
import { Symbol } from "../ui/Symbol";
import { WholeNumber } from "../ui/WholeNumber";

const LEAST = -12;
const MOST = 15;
const MOST_DIGITS = 15;

/** How many decimals the equation shows: as many as it needs, or those of the course, with what they cost. */
export function Rounding({ fit }: { fit: FittedFit }) {
  const change = useChange();
  const settled = useStudy().course?.decimals ?? null;
  const decimals = fit.decimals;
  const put = (wanted: Record<string, number>) => change({ kind: "set_fit", letter: fit.letter, decimals: wanted });
  const chosen = Object.fromEntries(decimals.filter(({ shown, safe }) => shown !== safe).map(({ name, shown }) => [name, shown]));
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button className="rounded-sm text-note text-mute underline decoration-dotted underline-offset-2 hover:text-ink">rounding</button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          className="floating grid w-72 gap-2.5 text-plain"
          aria-label={`Rounding of fit ${fit.letter}`}
        >
          <p className="text-plain">{fit.rounding_cost || fit.rounding}</p>
          {settled !== null && <p>Your course has {settled === 1 ? "one decimal" : `${settled} decimals`}.</p>}
          {settled === null && decimals.length > 0 && (
            <>
              <table className="w-full">
                <caption className="sr-only">Decimals of each parameter</caption>
                <thead>
                  <tr className="text-left text-note text-mute">
                    <th scope="col" className="font-normal">
                      decimals of
                    </th>
                    <th scope="col" className="text-right font-normal">
                      shown
                    </th>
                    <th scope="col" className="text-right font-normal">
                      needed
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {decimals.map((one) => (
                    <tr key={one.name}>
                      <th scope="row" className="text-left font-normal">
                        <Symbol text={one.symbol} />
                      </th>
                      <td className="flex justify-end">
                        <WholeNumber
                          label=""
                          after=""
                          name={`Decimals of ${one.symbol}`}
                          value={one.shown}
                          low={LEAST}
                          high={MOST}
                          onPut={(places) => put({ ...chosen, [one.name]: places })}
                        />
                      </td>
                      <td className="numerals text-right">{one.safe}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <Alike
                onDecimals={(places) => put(Object.fromEntries(decimals.map(({ name }) => [name, places])))}
                onDigits={(digits) =>
                  put(Object.fromEntries(decimals.map(({ name, significant }) => [name, clipped(digits + significant)])))
                }
              />
              <button className="button justify-self-start" disabled={Object.keys(chosen).length === 0} onClick={() => put({})}>
                As many as it needs
              </button>
            </>
          )}
          <p className="text-note text-mute">
            Whatever is shown, answers come from the full values, and the equation that is copied has the decimals it needs.
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The same number for every parameter, as a course may ask for it. */
function Alike({ onDecimals, onDigits }: { onDecimals: (places: number) => void; onDigits: (digits: number) => void }) {
  const [count, setCount] = useState(3);
  return (
    <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="The same for all">
      all with
      <WholeNumber label="" after="" name="Number for all" value={count} low={0} high={MOST_DIGITS} onPut={setCount} />
      <button className="button !h-[26px]" onClick={() => onDecimals(count)}>
        decimals
      </button>
      <button className="button !h-[26px]" onClick={() => onDigits(Math.max(1, count))}>
        significant digits
      </button>
    </div>
  );
}

const clipped = (places: number) => Math.min(MOST, Math.max(LEAST, places));
