import type { Role } from "../api/client";

/** What a column of a table is taken as; "skip" leaves it out. */
export type TakenRole = Role | "skip";
/** The unit in which times count; empty to leave them as text. */
export type Elapsed = "s" | "min" | "h" | "d" | "";

/** What the user made of one column of a table. */
export interface TakenColumn {
  name: string;
  symbol: string;
  unit: string;
  role: TakenRole;
  elapsed?: Elapsed;
}
