import { useMutation, useQuery } from "@tanstack/react-query";

import { api } from "../api/client";
import { must } from "../api/must";
import { navigate } from "../route";
import { notify } from "../ui/Notices";

/** Worksheets that were made here, on the shelf. */
export function Worksheets() {
  const { data } = useQuery({ queryKey: ["worksheets"], staleTime: 0, queryFn: () => must(api.GET("/api/worksheets")) });
  return (
    <section className="mt-10" aria-labelledby="worksheets">
      <h2 id="worksheets" className="font-book text-title font-semibold">
        Worksheets for a class
      </h2>
      <p className="mt-0.5 text-plain text-mute">
        Steps for students, each with a copy of their own. Any study becomes one under <em>Hand in</em>; three come with the field week.
      </p>
      <ul className="mt-3 divide-y divide-rule border-y border-rule">
        {data?.map((sheet) => (
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
        <Shipped />
      </ul>
    </section>
  );
}

/** Those that come with Ridge; using one makes it one's own. */
function Shipped() {
  const { data } = useQuery({ queryKey: ["shipped worksheets"], queryFn: () => must(api.GET("/api/shipped_worksheets")) });
  const use = useMutation({
    mutationFn: (name: string) => must(api.POST("/api/shipped_worksheets/{name}", { params: { path: { name } } })),
    onSuccess: (sheet) => navigate(`/worksheet/${sheet.id}`),
    onError: (problem) => notify(problem.message),
  });
  return data?.map(({ name, title, about, steps }) => (
    <li key={name} className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 py-3">
      <div className="min-w-0 grow basis-80">
        <h3 className="font-medium">{title}</h3>
        <p className="text-plain text-mute">
          {about} {steps} steps.
        </p>
      </div>
      <button className="button" aria-label={`Use the worksheet ${title}`} onClick={() => use.mutate(name)}>
        Use it
      </button>
    </li>
  ));
}
