import type { Offer } from "../api/client";
import { useCatalogue } from "../fits/catalogue";

export interface OfferedParameter {
  form: string;
  name: string;
  /** Its usual letter. */
  symbol: string;
  /** As it is told to a teacher: "line, m: change in y for one unit of x more". */
  said: string;
}

/** The parameters of a model, each with the model's name. */
const ofModel = ({ key, name, parameters }: Offer): OfferedParameter[] =>
  parameters.map((one) => ({
    form: key,
    name: one.name,
    symbol: one.symbol,
    said: `${name}, ${one.symbol.replace("_", "")}: ${one.meaning}`,
  }));

/** Every parameter of every model of the catalogue. */
export const useParameters = (): OfferedParameter[] => useCatalogue().flatMap(ofModel);
