import { messageOf } from "./client";

/** A request whose answer has no body; an error that says why where it is refused. */
export async function done(request: Promise<{ error?: unknown; response: Response }>): Promise<null> {
  const { error, response } = await request;
  if (!response.ok) throw new Error(messageOf(error));
  return null;
}
