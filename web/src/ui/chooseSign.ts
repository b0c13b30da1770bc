import { api } from "../api/client";
import { type DecimalSign } from "./decimalSign";
import { notify } from "./Notices";

let offered = false;

/** Offer to write numbers as they were typed just now, once. */
export function offerSign(sign: DecimalSign | null | undefined) {
  if (!sign || offered) return;
  offered = true;
  notify(`You typed a decimal ${sign}.`, {
    label: `Write all numbers with a ${sign}`,
    run: () => void chooseSign(sign).then((known) => known && window.location.reload()),
  });
}

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
