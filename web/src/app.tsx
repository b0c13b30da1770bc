import { navigate, useRoute } from "./route";
import { Shelf } from "./shelf/Shelf";
import { later } from "./ui/later";
import { Notices } from "./ui/Notices";

const Bench = later(() => import("./bench/Bench").then((one) => one.Bench));

export function App() {
  const route = useRoute();
  return (
    <>
      {route.name === "shelf" && <Shelf />}
      {route.name === "study" && <Bench key={route.id} id={route.id} />}
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
