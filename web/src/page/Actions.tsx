import type { RefusedFit } from "../fits/kinds";
import { useChange, useLooking } from "../study/context";

/** What can be done about something, each at one press. */
export function Actions({ actions }: { actions: RefusedFit["actions"] }) {
  const change = useChange();
  const looking = useLooking();
  if (looking) return null;
  return (
    <>
      {actions.map((action) => (
        <button
          key={action.label}
          className="button h-auto min-h-[28px] max-w-full shrink py-0.5 text-left whitespace-normal"
          onClick={() => change(action.change)}
        >
          {action.label}
        </button>
      ))}
    </>
  );
}
