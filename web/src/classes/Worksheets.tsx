import { useQuery } from "@tanstack/react-query";

import { api } from "../api/client";
import { must } from "../api/must";
import { navigate } from "../route";

/** Worksheets that were made here, on the shelf. */
export function Worksheets() {
  const { data } = useQuery({ queryKey: ["worksheets"], staleTime: 0, queryFn: () => must(api.GET("/api/worksheets")) });
  if (!data?.length) return null;
  return (
    <section className="mt-10" aria-labelledby="worksheets">
      <h2 id="worksheets" className="font-book text-title font-semibold">
        Worksheets for a class
      </h2>
      <ul className="mt-3 divide-y divide-rule border-y border-rule">
        {data.map((sheet) => (
          <li key={sheet.id} className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 py-3">
            <div className="min-w-0 grow basis-80">
              <h3 className="font-medium">{sheet.title}</h3>
              <p className="text-plain text-mute">
                Code <span className="font-mono">{sheet.code}</span>
                {sheet.closed && ", closed"} · {sheet.copies} joined, {sheet.handed_in} handed in
              </p>
            </div>
            <button className="button" aria-label={`Open the worksheet ${sheet.title}`} onClick={() => navigate(`/worksheet/${sheet.id}`)}>
              Open
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
