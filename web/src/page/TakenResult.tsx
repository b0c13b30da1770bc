import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api } from "../api/client";
import { useStudy } from "../study/context";
import type { Known } from "./KnownValues";

const SYMBOL = /^\p{L}[\p{L}\d_]{0,19}$/u;

/** A result of another study of one's own, to be taken over with its uncertainty and its unit. */
export function TakenResult({ onTake }: { onTake: (known: Known) => void }) {
  const own = useStudy();
  const [of, setOf] = useState("");
  const shelf = useQuery({
    queryKey: ["studies to take from"],
    staleTime: 0,
    queryFn: async () => (await api.GET("/api/shelf")).data ?? null,
  });
  const results = useQuery({
    queryKey: ["results", of],
    enabled: of !== "",
    staleTime: 0,
    queryFn: async () => (await api.GET("/api/studies/{study_id}/results", { params: { path: { study_id: of } } })).data ?? null,
  });
  const others = shelf.data?.cards.filter((study) => study.id !== own.id) ?? [];
  const take = (place: string) => {
    const one = results.data?.[Number(place)];
    const title = others.find((study) => study.id === of)?.title ?? "";
    if (one)
      onTake({
        symbol: SYMBOL.test(one.symbol) ? one.symbol : "q",
        value: one.value,
        uncertainty: one.uncertainty,
        unit: one.unit,
        origin: `${title}: ${one.name}`.slice(0, 120),
      });
  };
  if (shelf.data && others.length === 0) return <p className="text-note text-mute">There is no other study on your shelf.</p>;
  return (
    <span className="grid gap-1">
      <select className="field min-w-0" aria-label="Study to take a result from" value={of} onChange={(event) => setOf(event.target.value)}>
        <option value="">Choose a study</option>
        {others.map((study) => (
          <option key={study.id} value={study.id}>
            {study.title}
          </option>
        ))}
      </select>
      {of !== "" && results.data && (
        <select className="field min-w-0" aria-label="Result to take" value="" onChange={(event) => take(event.target.value)}>
          <option value="">{results.data.length > 0 ? "Choose a result" : "It has no results yet"}</option>
          {results.data.map((one, place) => (
            <option key={place} value={place}>
              {one.name}: {one.text}
            </option>
          ))}
        </select>
      )}
    </span>
  );
}
