import { AccountPage } from "./account/AccountPage";
import { Outbox } from "./account/Outbox";
import { Bench } from "./bench/Bench";
import { JoinPage } from "./classes/JoinPage";
import { WorksheetPage } from "./classes/WorksheetPage";
import { Look } from "./look/Look";
import { navigate, useRoute } from "./route";
import { Shelf } from "./shelf/Shelf";
import { Notices } from "./ui/Notices";

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
