import type { HowRead, Role, Understood } from "../api/client";
import { ROLES } from "./roles";

/** What a column of a table is taken as; "skip" leaves it out. */
export type TakenRole = Role | "skip";
/** What was chosen about the reading of a table; what is missing is decided by Ridge. */
export type Choices = Partial<HowRead>;
/** The unit in which times count, or the one that keeps clock readings as they are; empty to leave them as text. */
export type Elapsed = NonNullable<HowRead["elapsed"]>[string];
/** Where a table goes in a study that has readings. */
export type Where = "replace" | "below" | "beside" | "at";

/** What the user made of one column of a table. */
export interface TakenColumn {
  name: string;
  symbol: string;
  unit: string;
  role: TakenRole;
}

const MOST_COLUMNS = 12;
/** Questions about what x and y are; where a table goes beside others or to a cell they need no answer. */
const ABOUT_ROLES = ["alone", "several", "numbering"];

/** The choices of one answer on top of those made before. */
export function withChoices(before: Choices, chosen: Choices): Choices {
  const given = Object.fromEntries(Object.entries(chosen).filter(([name, value]) => value !== null && name !== "elapsed"));
  return { ...before, ...given, elapsed: { ...before.elapsed, ...chosen.elapsed } };
}

/**
 * The roles after one is changed by hand. x and y change places where each is held once; a role that only one column can
 * hold goes from its holder. Nothing else is changed, so that roles can be given in any order.
 */
export function withRole(roles: TakenRole[], place: number, role: TakenRole): TakenRole[] {
  const old = roles[place]!;
  const held = (one: TakenRole) => roles.filter((other) => other === one).length;
  const opposite = (role === "x" && old === "y") || (role === "y" && old === "x");
  const swapped = opposite && held("x") === 1 && held("y") === 1;
  const single = ["weight", "count", "series"].includes(role);
  return roles.map((other, i) => {
    if (i === place) return role;
    if (swapped && other === role) return old;
    return single && other === role ? "other" : other;
  });
}

/** Why the columns cannot be taken as they are; empty where they can. */
export function problemOf(columns: TakenColumn[], found: Understood, choices: Choices, where: Where): string {
  if (found.nothing) return found.nothing;
  const kept = columns.filter((column) => column.role !== "skip").length;
  if (!kept) return "Every column is skipped: choose x and y.";
  if (where === "at" || where === "beside") return "";
  const count = (role: TakenRole) => columns.filter((column) => column.role === role).length;
  const [xs, ys] = [count("x"), count("y")];
  const empty = columns.findIndex(
    (column, place) =>
      (column.role === "x" || column.role === "y") && found.row_count > 0 && found.columns[place]!.wrong_count >= found.row_count,
  );
  if (empty >= 0) return `No cell of column ${empty + 1}, chosen as ${columns[empty]!.role}, is a number.`;
  if (!xs && !ys) return "Choose x and y.";
  if (!xs && ys > 1 && choices.alone !== "rows") return "Several columns are y: choose their x.";
  if (xs > 1 && xs > ys)
    return `${xs} columns are x, but ${ys === 1 ? "only one is" : `${ys} are`} y: each x needs a y of its own, or choose one x.`;
  const twice =
    ROLES.find(([role]) => ["weight", "count", "series"].includes(role) && count(role) > 1) ??
    (count("y_error") > Math.max(1, ys)
      ? ROLES.find(([role]) => role === "y_error")
      : count("x_error") > Math.max(1, xs)
        ? ROLES.find(([role]) => role === "x_error")
        : undefined);
  if (twice) return `Only one column can be ${twice[1]}.`;
  return kept > MOST_COLUMNS && ys < 2 ? `A study holds ${MOST_COLUMNS} columns; ${kept} are chosen. Skip some.` : "";
}

/** The questions that have to be answered before a table can be taken. */
export function openQuestions(found: Understood, where: Where) {
  return found.questions.filter((question) => (where !== "at" && where !== "beside") || !ABOUT_ROLES.includes(question.about));
}
