import { create } from "zustand";

const KEY = "ridge.equations-in-letters";

const useWish = create<{ wished: boolean }>(() => ({ wished: localStorage.getItem(KEY) === "yes" }));

/** Whether equations stand on the page in letters beside their numbers: a wish that this browser keeps for all studies. */
export const useInLetters = () => useWish((state) => state.wished);

export function setInLetters(wished: boolean) {
  useWish.setState({ wished });
  try {
    localStorage.setItem(KEY, wished ? "yes" : "no");
  } catch {
    // A browser that keeps nothing holds it while the page is open.
  }
}
