import { api } from "../api/client";
import { must } from "../api/must";
import { notify } from "../ui/Notices";
import { NEW_PASSWORD } from "./fields";
import { Form } from "./Form";
import { useAct } from "./useAccount";

/** A new password for whoever comes by the link of a letter; `letter`: its key. */
export function ByLetter({ letter, onDone }: { letter: string; onDone: () => void }) {
  const choose = useAct(
    ({ password = "" }: Record<string, string>) => must(api.POST("/api/account/by_letter", { body: { key: letter, password } })),
    () => {
      notify("The new password is set. Other computers are signed out.");
      onDone();
    },
  );
  return (
    <Form
      title="Choose a new password"
      asked={[{ ...NEW_PASSWORD, label: "New password" }]}
      send="Set the new password"
      busy={choose.isPending}
      problem={choose.error?.message ?? ""}
      onSend={choose.mutate}
    />
  );
}
