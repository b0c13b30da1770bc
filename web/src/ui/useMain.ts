import { useEffect, useState } from "react";

/** The main part of the page, known once it is there: while a page is being drawn, it is still that of the page before. */
export function useMain(): Element | null {
  const [main, setMain] = useState<Element | null>(null);
  useEffect(() => setMain(document.querySelector("main")), []);
  return main;
}
