const STEPS = [1, 2, 5];

/**
 * How many times larger than the others' a fit's residuals are drawn so that their pattern is seen: 1, 2, 5, 10, 20 …,
 * the largest with which `own`, the largest of them, stays within `common`, the largest of all fits.
 */
export function enlarged(own: number, common: number): number {
  if (!(own > 0) || !(common > own)) return 1;
  const decade = Math.floor(Math.log10(common / own));
  const within = [decade, decade - 1]
    .flatMap((power) => STEPS.map((step) => step * 10 ** power))
    .filter((factor) => factor >= 1 && factor * own <= common * (1 + 1e-12));
  return Math.max(1, ...within);
}
