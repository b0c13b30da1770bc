import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";

import { api, type Fit, type Offer } from "../api/client";
import { useStudy } from "../study/context";

/** Fits that a study holds at most. */
export const MOST_FITS = 6;

const NOTHING: Offer[] = [];

/** Every model and interpolation as the server offers them; it never changes while the page is open. Empty until it is here. */
export function useCatalogue(): Offer[] {
  const { data } = useQuery({
    queryKey: ["catalogue"],
    queryFn: async () => {
      const { data } = await api.GET("/api/catalogue");
      if (!data) throw new Error("no catalogue");
      return data;
    },
    retry: true, // without it no model can be chosen
  });
  return data ?? NOTHING;
}

/** Those of the catalogue that may be chosen in the study that is open: all, or those that its course has. */
export function useOffered(): Offer[] {
  const offers = useCatalogue();
  const models = useStudy().course?.models;
  return useMemo(() => (models?.length ? offers.filter(({ key }) => models.includes(key)) : offers), [offers, models]);
}

/**
 * The models that are called what is looked for, or known by it, by key; with the other name that they were found by, empty
 * where it is their own. Nothing looked for: all of them.
 */
export function matching(offers: Offer[], wanted: string): Map<string, string> {
  const words = wanted.trim().toLowerCase();
  const found = new Map<string, string>();
  for (const { key, name, synonyms } of offers) {
    const other = synonyms.find((one) => one.toLowerCase().includes(words)) ?? "";
    if (name.toLowerCase().includes(words)) found.set(key, "");
    else if (other) found.set(key, other);
  }
  return found;
}

/** The first of the usual models that is not laid over the readings yet. */
export function nextModel(offers: Offer[], fits: Fit[]): Offer {
  const taken = new Set(fits.map((fit) => fit.form));
  return offers.find((offer) => offer.group === "model" && !taken.has(offer.key)) ?? offers[0]!;
}
