import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, messageOf } from "../api/client";
import { copyText } from "../page/copy";
import { useStudy } from "../study/context";

/** Keys with which others add rows to this study: made, shown once, withdrawn. */
export function Keys() {
  const { id } = useStudy();
  const client = useQueryClient();
  const params = { path: { study_id: id } };
  const { data: keys = [] } = useQuery({
    queryKey: ["keys", id],
    queryFn: async () => (await api.GET("/api/studies/{study_id}/keys", { params })).data ?? [],
  });
  const [made, setMade] = useState<{ key: string; address: string } | null>(null);
  const [problem, setProblem] = useState("");
  const refresh = () => client.invalidateQueries({ queryKey: ["keys", id] });
  const make = async () => {
    const { data, error } = await api.POST("/api/studies/{study_id}/keys", { params });
    setMade(data ?? null);
    setProblem(data ? "" : messageOf(error));
    await refresh();
  };
  const withdraw = async (key_id: number) => {
    await api.DELETE("/api/studies/{study_id}/keys/{key_id}", { params: { path: { study_id: id, key_id } } });
    setMade(null);
    await refresh();
  };
  const held = keys.filter(({ withdrawn }) => !withdrawn);
  return (
    <div className="grid gap-1.5 text-note">
      <p className="text-mute">
        Whatever can send an HTTP request posts readings to this study with a key. It opens nothing else. README has a script.
      </p>
      {made && (
        <div className="grid gap-1 rounded bg-tint p-2">
          <p className="font-semibold">Copy the key now: it is not shown again.</p>
          <code data-testid="key" className="break-all">
            {made.key}
          </code>
          <p className="break-all text-mute">POST {made.address}</p>
          <button className="button !h-[24px] justify-self-start !text-note" onClick={() => void copyText(made.key, "Key")}>
            Copy the key
          </button>
        </div>
      )}
      {held.map(({ id: number, made: when, posted }) => (
        <p key={number} className="flex items-center justify-between gap-2">
          <span>
            key of {new Date(when).toLocaleDateString("en-GB", { day: "numeric", month: "short" })}, {posted} posted
          </span>
          <button className="button !h-[24px] !text-note" onClick={() => void withdraw(number)}>
            Withdraw
          </button>
        </p>
      ))}
      <button className="button justify-self-start" onClick={() => void make()}>
        Make a key
      </button>
      <p role="alert" className="text-amber empty:hidden">
        {problem}
      </p>
    </div>
  );
}
