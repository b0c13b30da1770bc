/** Levels of intervals that can be chosen. */
export const LEVELS = [0.68, 0.9, 0.95, 0.99];
