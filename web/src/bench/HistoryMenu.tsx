import { useQuery } from "@tanstack/react-query";
import { History } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";

import { api } from "../api/client";
import { useQueue, useSnapshot } from "../study/context";
import { Hint } from "../ui/Hint";

const clock = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

/** Every step that was made, in words; pressing one goes back, or forward, to it. */
export function HistoryMenu() {
  const queue = useQueue();
  const { study, saving } = useSnapshot();
  const [open, setOpen] = useState(false);
  const { data } = useQuery({
    queryKey: ["history", study.id, study.version],
    enabled: open && saving === "saved",
    queryFn: async () => (await api.GET("/api/studies/{study_id}/history", { params: { path: { study_id: study.id } } })).data ?? null,
  });
  const now = data?.steps.find((step) => step.done)?.number;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Hint text="History">
        <Popover.Trigger asChild>
          <button className="bar-button" aria-label="History">
            <History size={15} />
          </button>
        </Popover.Trigger>
      </Hint>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          className="floating max-h-[70vh] w-80 overflow-auto"
          aria-label="History"
        >
          <h2 className="text-note font-semibold text-mute">History, the newest first</h2>
          <ol className="mt-1">
            {data?.steps.map((step) => (
              <li key={step.number}>
                <button
                  aria-current={step.number === now ? "step" : undefined}
                  className={`flex w-full items-baseline justify-between gap-3 rounded px-2 py-1 text-left hover:bg-well ${step.number === now ? "bg-lichen font-semibold text-on-lichen hover:bg-lichen" : step.done ? "" : "text-mute italic"}`}
                  onClick={() => step.number !== now && queue.goTo(step.number)}
                >
                  <span>{step.label}</span>
                  <span className="numerals text-note whitespace-nowrap">{step.made ? clock.format(new Date(step.made)) : ""}</span>
                </button>
              </li>
            ))}
          </ol>
          {data && data.more > 0 && <p className="px-2 pt-1 text-note text-mute">and {data.more} older steps, which Undo reaches</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
