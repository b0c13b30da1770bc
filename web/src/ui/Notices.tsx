import { X } from "lucide-react";
import { create } from "zustand";

interface Notice {
  id: number;
  text: string;
  action?: { label: string; run: () => void };
}

const useNotices = create<{ notices: Notice[] }>(() => ({ notices: [] }));
let count = 0;

/** Say something at the foot of the window; it goes by itself, later when it offers something. */
export function notify(text: string, action?: Notice["action"]) {
  const id = ++count;
  useNotices.setState(({ notices }) => ({ notices: [...notices.slice(-2), { id, text, action }] }));
  window.setTimeout(() => dismiss(id), action ? 12000 : 5000);
}

function dismiss(id: number) {
  useNotices.setState(({ notices }) => ({ notices: notices.filter((notice) => notice.id !== id) }));
}

export function Notices() {
  const notices = useNotices((state) => state.notices);
  return (
    <div
      role="status"
      aria-live="polite"
      className="no-print pointer-events-none fixed inset-x-0 bottom-16 z-50 flex flex-col items-center gap-2 px-4"
    >
      {notices.map((notice) => (
        <div
          key={notice.id}
          className="pointer-events-auto flex items-center gap-3 rounded-(--radius) bg-bar py-1.5 pr-1.5 pl-4 text-plain text-on-bar"
        >
          <span>{notice.text}</span>
          {notice.action && (
            <button
              className="bar-button"
              onClick={() => {
                notice.action?.run();
                dismiss(notice.id);
              }}
            >
              {notice.action.label}
            </button>
          )}
          <button className="on-bar grid size-6 place-content-center rounded" aria-label="Dismiss" onClick={() => dismiss(notice.id)}>
            <X size={14} />
          </button>
        </div>
      ))}
    </div>
  );
}
