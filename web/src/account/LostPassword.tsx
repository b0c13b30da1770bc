import { type Account, api } from "../api/client";
import { done } from "../api/done";
import { must } from "../api/must";
import { navigate } from "../route";
import { NAME, NEW_PASSWORD } from "./fields";
import { Form } from "./Form";
import { useAct } from "./useAccount";

type Props = Pick<Account, "letters" | "outbox">;

/** Two ways to a new password: a recovery code, and a letter where e-mail is sent from here. */
export function LostPassword({ letters, outbox }: Props) {
  const recover = useAct(({ name = "", code = "", password = "" }: Record<string, string>) =>
    must(api.POST("/api/account/recover", { body: { name, code, password } })),
  );
  return (
    <>
      {letters && <ByLetter outbox={outbox} />}
      <Form
        title={letters ? "By a recovery code" : "Lost password"}
        note="One of the recovery codes that you were given with the account lets you choose a new password. Each works once."
        asked={[NAME, { name: "code", label: "Recovery code", complete: "off" }, { ...NEW_PASSWORD, label: "New password" }]}
        send="Set the new password"
        busy={recover.isPending}
        problem={recover.error?.message ?? ""}
        onSend={recover.mutate}
      />
    </>
  );
}

function ByLetter({ outbox }: Pick<Account, "outbox">) {
  const ask = useAct(({ name = "" }: Record<string, string>) => done(api.POST("/api/account/letter", { body: { name } })));
  return (
    <>
      <Form
        title="By e-mail"
        note="A letter to the address that you gave with the account lets you choose a new password. It holds for a day."
        asked={[{ ...NAME, label: "Name or e-mail" }]}
        send="Send the letter"
        busy={ask.isPending}
        problem={ask.error?.message ?? ""}
        onSend={ask.mutate}
      />
      {ask.isSuccess && (
        <p role="status" className="border border-edge bg-sheet px-5 py-3 text-plain">
          If there is such an account and it has an e-mail address, the letter is on its way.{" "}
          {outbox && (
            <button className="text-accent underline" onClick={() => navigate("/outbox")}>
              The letters of this demo
            </button>
          )}
        </p>
      )}
    </>
  );
}
