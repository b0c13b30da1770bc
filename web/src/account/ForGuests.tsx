import { useState } from "react";

import { api } from "../api/client";
import { must } from "../api/must";
import { Form } from "./Form";
import { useAct } from "./useAccount";

const NAME = { name: "name", label: "Name", complete: "username" };
const PASSWORD = { name: "password", label: "Password", type: "password", complete: "current-password" } as const;
const NEW_PASSWORD = {
  ...PASSWORD,
  complete: "new-password",
  note: "Eight characters at least: three or four words that do not belong together are good.",
};

interface Props {
  studies: number;
  /** Whether the shelf is the demo's, which belongs to everybody. */
  shared: boolean;
  onCodes: (codes: string[]) => void;
}

/** An account made out of a guest, or one that is there already. */
export function ForGuests({ studies, shared, onCodes }: Props) {
  const keep = useAct(
    ({ name = "", password = "" }: Record<string, string>) => must(api.POST("/api/account", { body: { name, password } })),
    ({ codes }) => onCodes(codes),
  );
  const held = studies === 1 ? "The study on your shelf" : `The ${studies} studies on your shelf`;
  return (
    <div className="grid items-start gap-4 md:grid-cols-2">
      <Form
        title="Keep my studies"
        note={
          shared
            ? "This is the demo: its shelf belongs to everybody. Copies of its studies go into your account."
            : studies
              ? `${held} will belong to the account, and can be reached from any computer. Until then only this browser knows them.`
              : "What you make will belong to the account, and can be reached from any computer."
        }
        asked={[NAME, NEW_PASSWORD]}
        send="Keep my studies"
        busy={keep.isPending}
        problem={keep.error?.message ?? ""}
        onSend={keep.mutate}
      />
      <Entering shared={shared} />
    </div>
  );
}

function Entering({ shared }: { shared: boolean }) {
  const [lost, setLost] = useState(false);
  const enter = useAct(({ name = "", password = "" }: Record<string, string>) =>
    must(api.POST("/api/account/sign_in", { body: { name, password } })),
  );
  const recover = useAct(({ name = "", code = "", password = "" }: Record<string, string>) =>
    must(api.POST("/api/account/recover", { body: { name, code, password } })),
  );
  return (
    <div className="grid gap-2">
      {lost ? (
        <Form
          title="Lost password"
          note="One of the recovery codes that you were given with the account lets you choose a new password. Each works once."
          asked={[NAME, { name: "code", label: "Recovery code", complete: "off" }, { ...NEW_PASSWORD, label: "New password" }]}
          send="Set the new password"
          busy={recover.isPending}
          problem={recover.error?.message ?? ""}
          onSend={recover.mutate}
        />
      ) : (
        <Form
          title="Sign in"
          note={shared ? "To an account that you have." : "To an account that you have. What you made here as a guest goes along."}
          asked={[NAME, PASSWORD]}
          send="Sign in"
          busy={enter.isPending}
          problem={enter.error?.message ?? ""}
          onSend={enter.mutate}
        />
      )}
      <button className="button justify-self-start" onClick={() => setLost(!lost)}>
        {lost ? "Sign in with a password" : "Lost your password?"}
      </button>
    </div>
  );
}
