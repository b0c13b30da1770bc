import { useSyncExternalStore } from "react";

const never = () => () => undefined;
const find = () => document.querySelector("main");

/** The main part of the page. Looked for again once a page is drawn: until then it is still that of the page before. */
export const useMain = (): Element | null => useSyncExternalStore(never, find);
