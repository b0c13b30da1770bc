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
  const count = (card: Card) => Number(/^[\d\u202f\u2009\u00a0 ]+/.exec(card.summary)?.[0].replace(/\D/g, "") ?? 0);
  if (order === "title") return found.sort((a, b) => a.title.localeCompare(b.title, "en", { numeric: true, sensitivity: "base" }));
  if (order === "readings") return found.sort((a, b) => count(b) - count(a));
  return found; // as they come from the server: the last changed first
}
