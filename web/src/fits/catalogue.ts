import type { Family, Fit, FitOptions } from "../api/client";

export interface Choice {
  value: string;
  word: string;
  family: Family;
  options: FitOptions;
}

/** The models as they are offered: families, and the forms of a family that go by a name of their own. */
export const CHOICES: Choice[] = [
  { value: "line", word: "line", family: "line", options: {} },
  { value: "quadratic", word: "quadratic", family: "polynomial", options: { degree: 2 } },
  { value: "cubic", word: "cubic", family: "polynomial", options: { degree: 3 } },
  { value: "polynomial", word: "polynomial of higher degree", family: "polynomial", options: { degree: 4 } },
  { value: "exponential", word: "exponential", family: "exponential", options: { level: false } },
  { value: "exponential-level", word: "exponential with level", family: "exponential", options: { level: true } },
  { value: "logarithmic", word: "logarithmic", family: "logarithmic", options: { shift: false } },
  { value: "logarithmic-shift", word: "logarithmic with shift", family: "logarithmic", options: { shift: true } },
  { value: "power", word: "power law", family: "power", options: {} },
  { value: "reciprocal", word: "reciprocal", family: "reciprocal", options: {} },
  { value: "sinusoid", word: "sinusoid", family: "sinusoid", options: {} },
  { value: "logistic", word: "logistic", family: "logistic", options: { level: false } },
  { value: "logistic-level", word: "logistic with level", family: "logistic", options: { level: true } },
  { value: "gaussian", word: "Gaussian peak", family: "gaussian", options: {} },
  { value: "constant", word: "constant", family: "constant", options: {} },
  { value: "formula", word: "own formula", family: "formula", options: {} },
];

/** Curves through every reading. */
export const INTERPOLATIONS: Choice[] = [
  { value: "linear", word: "straight pieces", family: "interpolation", options: { kind: "linear" } },
  { value: "monotone", word: "monotone cubic", family: "interpolation", options: { kind: "monotone" } },
  { value: "cubic-spline", word: "cubic spline", family: "interpolation", options: { kind: "cubic-spline" } },
  { value: "spline", word: "spline of another degree", family: "interpolation", options: { kind: "spline" } },
  { value: "through-all", word: "polynomial through all", family: "interpolation", options: { kind: "polynomial" } },
];

/** The choice that a fit stands for. */
export function choiceOf(fit: Fit): Choice {
  if (fit.family === "interpolation") return INTERPOLATIONS.find((choice) => choice.options.kind === fit.options.kind)!;
  const degree = Number(fit.options.degree ?? 0);
  if (fit.family === "polynomial") return CHOICES.find((choice) => choice.options.degree === Math.min(degree, 4))!;
  return (
    CHOICES.find(
      (choice) =>
        choice.family === fit.family &&
        (choice.options.level ?? false) === (fit.options.level ?? false) &&
        (choice.options.shift ?? false) === (fit.options.shift ?? false),
    ) ?? CHOICES[0]!
  );
}

/** The first of the usual models that is not laid over the readings yet. */
export function nextModel(fits: Fit[]): Pick<Choice, "family" | "options"> {
  const taken = new Set(fits.map((fit) => choiceOf(fit).value));
  const { family, options } = CHOICES.find((choice) => !taken.has(choice.value)) ?? CHOICES[0]!;
  return { family, options };
}
