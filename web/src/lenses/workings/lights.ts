import type { Lit, Spot, Traced } from "./origins";

/** What is lit in one step: the number that is pointed at, where it came from and where it goes. */
export interface Lights {
  at: Spot | null;
  from: Lit[] | undefined;
  to: Lit[] | undefined;
  fromNumbers: number[] | undefined;
  toNumbers: number[] | undefined;
}

const DARK: Lights = { at: null, from: undefined, to: undefined, fromNumbers: undefined, toNumbers: undefined };

/** The lights of the step at this place; the same object for all that are dark, so that they are not drawn anew. */
export function lightsOf(place: number, spot: Spot | null, traced: Traced | null): Lights {
  const lights = {
    at: spot?.step === place ? spot : null,
    from: traced?.from.get(place),
    to: traced?.to.get(place),
    fromNumbers: traced?.fromNumbers.get(place),
    toNumbers: traced?.toNumbers.get(place),
  };
  return Object.values(lights).some((light) => light) ? lights : DARK;
}
