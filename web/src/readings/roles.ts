import type { Role } from "../api/client";

/** What a column can be used as. */
export const ROLES: { role: Role; word: string }[] = [
  { role: "x", word: "x" },
  { role: "y", word: "y" },
  { role: "y_error", word: "uncertainty of y" },
  { role: "x_error", word: "uncertainty of x" },
  { role: "weight", word: "weight" },
  { role: "count", word: "count of repeats" },
  { role: "series", word: "series" },
  { role: "other", word: "label or other" },
];
