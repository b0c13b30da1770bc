import { useMutation } from "@tanstack/react-query";
import { ListChecks } from "lucide-react";

import { api } from "../api/client";
import { must } from "../api/must";
import { navigate } from "../route";

/** A worksheet whose copies begin with the study as it is now. */
export function MakeWorksheet({ id }: { id: string }) {
  const make = useMutation({
    mutationFn: () => must(api.POST("/api/studies/{study_id}/worksheet_of_it", { params: { path: { study_id: id } } })),
    onSuccess: (sheet) => navigate(`/worksheet/${sheet.id}`),
  });
  return (
    <>
      <p className="text-note text-mute">Steps for a class; every student works on a copy of this study as it is now.</p>
      <button className="button" onClick={() => make.mutate()}>
        <ListChecks size={14} /> Make a worksheet of it
      </button>
      {make.error && (
        <p role="alert" className="text-plain text-amber">
          {make.error.message}
        </p>
      )}
    </>
  );
}
