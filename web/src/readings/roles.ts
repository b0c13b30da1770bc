import type { Role } from "../api/client";
import type { Words } from "../ui/Select";

/** What a column can be used as. */
export const ROLES: Words<Role> = [
  ["x", "x"],
  ["y", "y"],
  ["y_error", "uncertainty of y"],
  ["x_error", "uncertainty of x"],
  ["weight", "weight"],
  ["count", "count of repeats"],
  ["series", "series"],
  ["other", "label or other"],
];
