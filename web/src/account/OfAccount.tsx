import { Download, LogOut } from "lucide-react";

import { type Account, api } from "../api/client";
import { done } from "../api/done";
import { must } from "../api/must";
import { notify } from "../ui/Notices";
import { SaveLink } from "../ui/SaveLink";
import { EMAIL, PASSWORD } from "./fields";
import { Form } from "./Form";
import { useAct } from "./useAccount";

interface Props {
  account: Account;
  onCodes: (codes: string[]) => void;
}

/** What somebody with an account can do about it. */
export function OfAccount({ account, onCodes }: Props) {
  const leave = useAct(() => done(api.POST("/api/account/sign_out")));
  const everywhere = useAct(
    () => must(api.POST("/api/account/sign_out_everywhere")),
    () => notify("Signed out everywhere but here."),
  );
  const problem = leave.error ?? everywhere.error;
  return (
    <>
      <section className="grid gap-3 border border-rule bg-sheet p-5" aria-label="You">
        <p>
          Signed in as <strong className="font-semibold">{account.name}</strong>.{" "}
          {account.studies === 1 ? "One study" : `${account.studies} studies`} on the shelf.
        </p>
        <p className="flex flex-wrap gap-2">
          <SaveLink className="button" href="/api/account/studies.zip">
            <Download size={14} /> Take everything along
          </SaveLink>
          <button className="button" onClick={() => leave.mutate(undefined)}>
            <LogOut size={14} /> Sign out
          </button>
          <button className="button" onClick={() => everywhere.mutate(undefined)}>
            Sign out everywhere else
          </button>
        </p>
        {problem && (
          <p role="alert" className="text-plain text-amber">
            {problem.message}
          </p>
        )}
      </section>
      <div className="grid items-start gap-4 md:grid-cols-2">
        <NewPassword />
        <NewCodes left={account.codes} onCodes={onCodes} />
        {account.letters && <Email key={account.email} email={account.email} />}
        <Deleting studies={account.studies} />
      </div>
    </>
  );
}

function NewPassword() {
  const change = useAct(
    ({ password = "", next = "" }: Record<string, string>) =>
      must(api.POST("/api/account/password", { body: { old: password, new: next } })),
    () => notify("The password is changed. Other computers are signed out."),
  );
  return (
    <Form
      key={change.submittedAt}
      title="Change the password"
      asked={[PASSWORD, { name: "next", label: "New password", type: "password", complete: "new-password" }]}
      send="Change it"
      busy={change.isPending}
      problem={change.error?.message ?? ""}
      onSend={change.mutate}
    />
  );
}

function NewCodes({ left, onCodes }: { left: number; onCodes: (codes: string[]) => void }) {
  const make = useAct(
    ({ password = "" }: Record<string, string>) => must(api.POST("/api/account/codes", { body: { password } })),
    ({ codes }) => onCodes(codes),
  );
  return (
    <Form
      title="Recovery codes"
      note={`${left === 1 ? "One is" : `${left} are`} left for a lost password. New ones take the place of the old ones.`}
      asked={[PASSWORD]}
      send="Make new codes"
      busy={make.isPending}
      problem={make.error?.message ?? ""}
      onSend={make.mutate}
    />
  );
}

function Email({ email }: { email: string }) {
  const change = useAct(
    ({ password = "", email = "" }: Record<string, string>) => must(api.PUT("/api/account/email", { body: { password, email } })),
    ({ email }) => notify(email ? `Letters go to ${email}.` : "No letters are sent to you any more."),
  );
  return (
    <Form
      title="E-mail"
      note={email ? `Letters go to ${email}. Left empty, there are none.` : "You have given none."}
      asked={[PASSWORD, { ...EMAIL, label: "E-mail" }]}
      send="Use this one"
      busy={change.isPending}
      problem={change.error?.message ?? ""}
      onSend={change.mutate}
    />
  );
}

function Deleting({ studies }: { studies: number }) {
  const end = useAct(
    ({ password = "" }: Record<string, string>) => done(api.DELETE("/api/account", { body: { password } })),
    () => notify("The account and everything in it is deleted."),
  );
  return (
    <Form
      title="Delete the account"
      note={`With ${studies === 1 ? "its study" : `all its ${studies} studies`}, those in the bin too, for good. Take everything along first, if it may still be wanted.`}
      asked={[PASSWORD]}
      send="Delete the account"
      grave
      busy={end.isPending}
      problem={end.error?.message ?? ""}
      onSend={end.mutate}
    />
  );
}
