import { afterEach, describe, expect, it } from "vitest";

import { cellInSign, inSign, setDecimalSign } from "./decimalSign";
import { inField, percent, readNumber, shownToStep, tickText } from "./numbers";

afterEach(() => setDecimalSign("point"));

describe("the decimal sign", () => {
  it("is a point unless the server says otherwise", () => {
    expect([inSign("−1.25"), cellInSign("1.5"), tickText(0.25, 0.25), percent(0.125)]).toEqual(["−1.25", "1.5", "0.25", "12.5 %"]);
  });
  it("is a comma wherever a number is written", () => {
    setDecimalSign("comma");
    expect([inSign("−1.25"), tickText(0.25, 0.25), percent(0.125), inField(-3.5), shownToStep(2.345, 0.01)]).toEqual([
      "−1,25",
      "0,25",
      "12,5 %",
      "−3,5",
      "2,35",
    ]);
    expect(tickText(1.5e7, 5e6)).toBe("1,5×10⁷");
  });
  it("is read back as it was written", () => {
    for (const sign of ["point", "comma"] as const) {
      setDecimalSign(sign);
      for (const value of [0, 1.5, -2.25, 1e-7, 123456.789]) expect(readNumber(inField(value))).toBe(value);
    }
  });
  it("leaves in a cell what is no number", () => {
    setDecimalSign("comma");
    for (const text of ["12.05.2026", "v1.5", "1.5 m", "", "n/a", "13:30", "1,5", "1,5; 2"]) expect(cellInSign(text)).toBe(text);
    expect([".5", "-1.5e-3", " 2.0 "].map(cellInSign)).toEqual([",5", "-1,5e-3", " 2,0 "]);
    setDecimalSign("point");
    expect([",5", "-1,5e-3", "12,05,2026", "1,5; 2"].map(cellInSign)).toEqual([".5", "-1.5e-3", "12,05,2026", "1,5; 2"]);
  });
});
