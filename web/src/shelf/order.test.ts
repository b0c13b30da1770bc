import { describe, expect, it } from "vitest";

import type { Card } from "../api/client";
import { chosenCards } from "./order";

const card = (title: string, readings: number, equation = "") => ({ title, readings, equation, question: "", summary: "" }) as Card;
const cards = [card("Study 10", 3), card("study 2", 30_000, "y = 2.1·x"), card("Tide", 300)];
const titles = (found: Card[]) => found.map(({ title }) => title);

describe("The shelf", () => {
  it("keeps the order of the server, the last changed first", () => {
    expect(titles(chosenCards([...cards], "", "changed"))).toEqual(["Study 10", "study 2", "Tide"]);
  });
  it("sorts by title as people count, and by how many readings are in use", () => {
    expect(titles(chosenCards([...cards], "", "title"))).toEqual(["study 2", "Study 10", "Tide"]);
    expect(titles(chosenCards([...cards], "", "readings"))).toEqual(["study 2", "Tide", "Study 10"]);
  });
  it("finds every word anywhere, whatever its case", () => {
    expect(titles(chosenCards([...cards], "STUDY 2.1", "changed"))).toEqual(["study 2"]);
    expect(chosenCards([...cards], "tide study", "changed")).toEqual([]);
  });
});
