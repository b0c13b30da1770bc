import { useEffect, useState } from "react";

import { navigate } from "../route";
import { Mark } from "../ui/Mark";
import { Codes } from "./Codes";
import { ForGuests } from "./ForGuests";
import { OfAccount } from "./OfAccount";
import { useAccount } from "./useAccount";

/** Who one is here: keeping what was made as a guest, signing in, and all that concerns an account. */
export function AccountPage() {
  const account = useAccount();
  const [codes, setCodes] = useState<string[]>([]);
  useEffect(() => {
    document.title = "Account · Ridge";
  }, []);
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex h-[46px] shrink-0 items-center justify-between bg-bar px-4 text-on-bar">
        <Mark />
        <button className="bar-button" onClick={() => navigate("/")}>
          To the shelf
        </button>
      </header>
      <main className="mx-auto grid w-full max-w-[820px] grow content-start gap-4 px-5 pt-7 pb-16">
        <h1 className="font-book text-title font-semibold">Account</h1>
        {codes.length > 0 && <Codes codes={codes} onKept={() => setCodes([])} />}
        {account &&
          (account.guest ? (
            <ForGuests studies={account.studies} shared={account.shared} onCodes={setCodes} />
          ) : (
            <OfAccount account={account} onCodes={setCodes} />
          ))}
      </main>
    </div>
  );
}
