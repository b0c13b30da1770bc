import { useEffect, useRef, useState } from "react";

import { api, messageOf, type Understood } from "../api/client";
import type { Choices } from "./taken";

const LONG = 200_000;
const BEGINNING = 60_000;

/** How a table reads under the choices made. Of a long one the beginning is told at once, the whole when it is counted. */
export function useUnderstood(text: string, choices: Choices) {
  const [found, setFound] = useState<Understood | null>(null);
  const [counted, setCounted] = useState(false);
  const [problem, setProblem] = useState("");
  const newest = useRef(0);
  useEffect(() => {
    const asked = ++newest.current;
    const understand = async (part: string, whole: boolean) => {
      const { data, error } = await api.POST("/api/tables/understand", { body: { text: part, ...choices } });
      if (asked !== newest.current) return;
      if (data) setFound(data);
      // What is wrong with the beginning alone may be no fault of the whole.
      if (data || whole) {
        setProblem(data ? "" : messageOf(error));
        setCounted(whole);
      }
      if (!data && whole) setFound(null);
    };
    const beginning =
      text.length > LONG ? understand(text.slice(0, text.lastIndexOf("\n", BEGINNING) + 1) || text.slice(0, BEGINNING), false) : null;
    void Promise.resolve(beginning)
      .then(() => understand(text, true))
      .catch(() => {
        if (asked === newest.current) setProblem("The server cannot be reached. Close this and try again; nothing is lost.");
      });
  }, [text, choices]);
  return { found, counted, problem, setProblem };
}
