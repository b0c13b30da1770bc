const RAISED = "⁰¹²³⁴⁵⁶⁷⁸⁹";

/** A whole exponent in raised digits. */
export const raised = (exponent: number) =>
  (exponent < 0 ? "⁻" : "") + [...String(Math.abs(exponent))].map((digit) => RAISED[Number(digit)]).join("");

/** 10³ in front of the unit of a column whose cells count in thousands; nothing for ones. */
export const powerOfTen = (exponent: number) => (exponent ? `10${raised(exponent)}` : "");
