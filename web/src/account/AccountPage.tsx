import { useEffect, useState } from "react";

import { ByLetter } from "./ByLetter";
import { Codes } from "./Codes";
import { ForGuests } from "./ForGuests";
import { OfAccount } from "./OfAccount";
import { PlainPage } from "./PlainPage";
import { useAccount } from "./useAccount";

/** Who one is here: keeping what was made as a guest, signing in, and all that concerns an account. */
export function AccountPage() {
  const account = useAccount();
  const [codes, setCodes] = useState<string[]>([]);
  // The key of a letter stands behind the #, where no server sees it.
  const [letter, setLetter] = useState(() => window.location.hash.slice(1));
  useEffect(() => {
    document.title = "Account · Ridge";
  }, []);
  const used = () => {
    window.history.replaceState(null, "", "/account");
    setLetter("");
  };
  return (
    <PlainPage title="Account">
      {codes.length > 0 && <Codes codes={codes} onKept={() => setCodes([])} />}
      {letter && <ByLetter letter={letter} onDone={used} />}
      {account && (account.guest ? <ForGuests account={account} onCodes={setCodes} /> : <OfAccount account={account} onCodes={setCodes} />)}
    </PlainPage>
  );
}
