import type { Card } from "../api/client";

export const ORDERS = { changed: "last change", title: "title", readings: "number of readings" } as const;
export type Order = keyof typeof ORDERS;

/** The cards that have what is looked for in them, in the order that was chosen. */
export function chosenCards(cards: Card[], wanted: string, order: Order): Card[] {
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const found = cards.filter((card) => {
    const text = `${card.title} ${card.question} ${card.equation} ${card.summary}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
  if (order === "title") return found.sort((a, b) => a.title.localeCompare(b.title, "en", { numeric: true, sensitivity: "base" }));
  if (order === "readings") return found.sort((a, b) => b.readings - a.readings);
  return found; // as they come from the server: the last changed first
}
