import { messageOf } from "./client";

/** What is answered to a request; an error that says why where there is nothing. */
export async function must<T>(request: Promise<{ data?: T; error?: unknown }>): Promise<T> {
  let result;
  try {
    result = await request;
  } catch {
    throw new Error("The server cannot be reached. Nothing was changed; try again.");
  }
  if (result.data === undefined) throw new Error(messageOf(result.error));
  return result.data;
}
