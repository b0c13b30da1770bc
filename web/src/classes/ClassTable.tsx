import { useMutation } from "@tanstack/react-query";
import { CircleCheck } from "lucide-react";
import { useState } from "react";

import { api, type ClassCopy } from "../api/client";
import { must } from "../api/must";
import { navigate } from "../route";
import { notify } from "../ui/Notices";

const clock = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

type By = "student" | "reached" | "readings" | "model" | "handed_in";

const HEADS: [By | null, string][] = [
  ["student", "Student"],
  ["reached", "Steps"],
  ["readings", "Readings"],
  ["model", "Model"],
  [null, "Parameters"],
  [null, "R²"],
  [null, "Typical miss"],
  [null, "Answers"],
  ["handed_in", "Handed in"],
];

const order = (by: By) => (one: ClassCopy, other: ClassCopy) => {
  const [a, b] = [one[by] ?? "", other[by] ?? ""];
  return typeof a === "number" && typeof b === "number" ? a - b : String(a).localeCompare(String(b), undefined, { sensitivity: "base" });
};

/** Every copy in one row; pressing a name opens it, to be looked at. */
export function ClassTable({ worksheet, copies }: { worksheet: string; copies: ClassCopy[] }) {
  const [by, setBy] = useState<By>("student");
  const [down, setDown] = useState(false);
  const sorted = [...copies].sort(order(by));
  if (down) sorted.reverse();
  const sort = (next: By) => {
    setDown(next === by ? !down : false);
    setBy(next);
  };
  if (!copies.length) return <p className="text-plain text-mute">Nobody has joined yet. Give the code to your class.</p>;
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="The class">
      <table className="numerals w-full border-collapse text-plain">
        <caption className="sr-only">Copies of the class</caption>
        <thead>
          <tr className="border-b border-ink text-left">
            {HEADS.map(([name, word]) => (
              <th
                key={word}
                scope="col"
                className="p-1.5 font-semibold whitespace-nowrap"
                aria-sort={name !== by ? undefined : down ? "descending" : "ascending"}
              >
                {name ? (
                  <button className="rounded-sm underline-offset-2 hover:underline" onClick={() => sort(name)}>
                    {word}
                    {name === by && <span aria-hidden>{down ? " ↓" : " ↑"}</span>}
                  </button>
                ) : (
                  word
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sorted.map((copy) => (
            <Row key={copy.id} worksheet={worksheet} copy={copy} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Row({ worksheet, copy }: { worksheet: string; copy: ClassCopy }) {
  const path = `/copy/${copy.study}`;
  const cell = "border-b border-rule p-1.5 align-top";
  return (
    <tr>
      <th scope="row" className={`${cell} text-left font-normal`}>
        <a
          href={path}
          className="text-accent underline underline-offset-2 [overflow-wrap:anywhere]"
          onClick={(event) => {
            if (event.metaKey || event.ctrlKey || event.shiftKey) return;
            event.preventDefault();
            navigate(path);
          }}
        >
          {copy.student}
        </a>
      </th>
      <td className={cell}>
        {copy.reached} of {copy.steps.length}
      </td>
      <td className={cell}>{copy.readings}</td>
      <td className={cell}>{copy.model || "none"}</td>
      <td className={cell}>
        {copy.parameters.map((one) => (
          <span key={one} className="block whitespace-nowrap">
            {one}
          </span>
        ))}
      </td>
      <td className={cell}>{copy.r_squared}</td>
      <td className={`${cell} whitespace-nowrap`}>{copy.typical_miss}</td>
      <td className={`${cell} min-w-44`}>
        {copy.answers.map((one) => (
          <span key={one} className="block">
            {one}
          </span>
        ))}
      </td>
      <td className={`${cell} whitespace-nowrap`}>
        {copy.handed_in && (
          <>
            <span className="flex items-center gap-1">
              <CircleCheck size={14} className="text-pine" aria-hidden /> {clock.format(new Date(copy.handed_in))}
              {copy.number > 1 && ` (${copy.number})`}
            </span>
            <OpenHandedIn worksheet={worksheet} copy={copy} />
          </>
        )}
      </td>
    </tr>
  );
}

/** What was handed in, as it was then: a study on one's own shelf. */
function OpenHandedIn({ worksheet, copy }: { worksheet: string; copy: ClassCopy }) {
  const path = { worksheet_id: worksheet, copy_id: copy.id };
  const open = useMutation({
    mutationFn: () => must(api.POST("/api/worksheets/{worksheet_id}/copies/{copy_id}/handed_in", { params: { path } })),
    onSuccess: ({ id }) => navigate(`/study/${id}`),
    onError: (problem) => notify(problem.message),
  });
  return (
    <button
      className="rounded-sm text-note text-mute underline underline-offset-2 hover:text-ink"
      aria-label={`Open what ${copy.student} handed in`}
      onClick={() => open.mutate()}
    >
      as it was then
    </button>
  );
}
