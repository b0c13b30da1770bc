import { Bench } from "./bench/Bench";
import { Look } from "./look/Look";
import { navigate, useRoute } from "./route";
import { Shelf } from "./shelf/Shelf";
import { later } from "./ui/later";
import { Notices } from "./ui/Notices";

// Pages that few visits see: whoever opens a study does not wait for them.
const AccountPage = later(() => import("./account/AccountPage").then((one) => one.AccountPage));
const Outbox = later(() => import("./account/Outbox").then((one) => one.Outbox));
const JoinPage = later(() => import("./classes/JoinPage").then((one) => one.JoinPage));
const WorksheetPage = later(() => import("./classes/WorksheetPage").then((one) => one.WorksheetPage));

export function App() {
  const route = useRoute();
  return (
    <>
      {route.name === "shelf" && <Shelf />}
      {route.name === "account" && <AccountPage />}
      {route.name === "outbox" && <Outbox />}
      {route.name === "study" && <Bench key={route.id} id={route.id} />}
      {route.name === "copy" && <Bench key={`copy ${route.id}`} id={route.id} looking />}
      {route.name === "worksheet" && <WorksheetPage key={route.id} id={route.id} />}
      {route.name === "join" && <JoinPage code={route.code} />}
      {route.name === "look" && <Look key={route.token} token={route.token} />}
      {route.name === "nowhere" && (
        <main className="grid h-full place-content-center gap-3 text-center">
          <h1 className="font-book text-title font-semibold">There is nothing at this address</h1>
          <p>
            <button className="button-main" onClick={() => navigate("/")}>
              Go to the shelf
            </button>
          </p>
        </main>
      )}
      <Notices />
    </>
  );
}
