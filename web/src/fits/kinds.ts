import type { Fit } from "../api/client";

export type RefusedFit = Extract<Fit, { kind: "refused" }>;
export type FittedFit = Extract<Fit, { kind: "fit" }>;
export type HandFit = Extract<Fit, { kind: "hand" }>;
export type InterpolationFit = Extract<Fit, { kind: "interpolation" }>;
/** Of which there is a curve. */
export type DrawnFit = Exclude<Fit, RefusedFit>;
/** Whose curve has parameters. */
export type ComputedFit = Exclude<DrawnFit, InterpolationFit>;

/** A quantity of one's own as it was asked for. */
export type OwnQuantityWanted = NonNullable<ComputedFit["follows"]>[number];

export type Parameter = ComputedFit["parameters"][number];

export const isDrawn = (fit: Fit): fit is DrawnFit => fit.kind !== "refused";
export const isComputed = (fit: Fit): fit is ComputedFit => isDrawn(fit) && fit.kind !== "interpolation";

/** The fit where its curve has parameters. */
export const computed = (fit: Fit | undefined): ComputedFit | undefined => (fit && isComputed(fit) ? fit : undefined);
/** The samples of its curve, where there are any. */
export const curveOf = (fit: Fit | undefined) => (fit && isDrawn(fit) ? (fit.curve ?? null) : null);
/** How it differs from the leading fit, where it was given rather than fitted. */
export const differenceOf = (fit: Fit) => (fit.kind === "hand" || fit.kind === "known" ? fit.difference : null);
