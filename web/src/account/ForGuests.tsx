import { useState } from "react";

import { type Account, api } from "../api/client";
import { must } from "../api/must";
import { EMAIL, NAME, NEW_PASSWORD, PASSWORD } from "./fields";
import { Form } from "./Form";
import { LostPassword } from "./LostPassword";
import { useAct } from "./useAccount";

interface Props {
  account: Account;
  onCodes: (codes: string[]) => void;
}

/** An account made out of a guest, or one that is there already. */
export function ForGuests({ account: { studies, shared, letters, outbox }, onCodes }: Props) {
  const keep = useAct(
    ({ name = "", password = "", email = "" }: Record<string, string>) =>
      must(api.POST("/api/account", { body: { name, password, email } })),
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
        asked={letters ? [NAME, NEW_PASSWORD, EMAIL] : [NAME, NEW_PASSWORD]}
        send="Keep my studies"
        busy={keep.isPending}
        problem={keep.error?.message ?? ""}
        onSend={keep.mutate}
      />
      <Entering shared={shared} letters={letters} outbox={outbox} />
    </div>
  );
}

type Here = Pick<Account, "shared" | "letters" | "outbox">;

function Entering({ shared, letters, outbox }: Here) {
  const [lost, setLost] = useState(false);
  const enter = useAct(({ name = "", password = "" }: Record<string, string>) =>
    must(api.POST("/api/account/sign_in", { body: { name, password } })),
  );
  return (
    <div className="grid gap-2">
      {lost ? (
        <LostPassword letters={letters} outbox={outbox} />
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
