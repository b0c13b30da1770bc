/** How numbers are written: with a decimal point, or with a comma. One choice for all of a user's studies, known to the server. */
export type DecimalSign = "point" | "comma";

let sign: DecimalSign = "point";

/** What the server says, told as soon as a study or the shelf is here: before anything of it is drawn. */
export function setDecimalSign(next: DecimalSign) {
  sign = next;
}

export const decimalSign = () => sign;

/** A number that was written with a point, in the user's sign. */
export const inSign = (number: string) => (sign === "comma" ? number.replace(/(\d)\.(?=\d)/, "$1,") : number);

const NUMBER = /^\s*[-+−]?\d*[.,]\d+(?:[eE][-+−]?\d+)?\s*$/;

/** The text of a cell: in the user's sign where it is a number, as it was typed where it is none. */
export const cellInSign = (text: string) => (NUMBER.test(text) ? text.replace(/[.,]/, sign === "comma" ? "," : ".") : text);
