import { api } from "../api/client";
import { type DecimalSign } from "./decimalSign";
import { notify } from "./Notices";

/** Write numbers with this sign from now on, in all studies; whether the server knows. */
export async function chooseSign(sign: DecimalSign): Promise<boolean> {
  try {
    const { response } = await api.PUT("/api/decimal_sign", { body: { sign } });
    if (response.ok) return true;
  } catch {
    // Out of reach: said below.
  }
  notify("The server cannot be reached. Numbers stay as they are; try again.");
  return false;
}
