import { notify } from "../ui/Notices";

/** Put a text on the clipboard and say so; where the browser forbids it, say what to do. */
export async function copyText(text: string, what: string) {
  try {
    await navigator.clipboard.writeText(text);
    notify(`${what} copied.`);
  } catch {
    notify("The browser does not let this page write to the clipboard. Select the text and copy it with Ctrl+C.");
  }
}
