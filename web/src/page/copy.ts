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

/** Put a picture that is still being made on the clipboard. */
export async function copyPicture(address: string, what: string) {
  const made = fetch(address).then((response) => {
    if (!response.ok) throw new Error("The picture could not be made.");
    return response.blob();
  });
  try {
    // The promise, not the picture: browsers allow it only at once after the press.
    await navigator.clipboard.write([new ClipboardItem({ "image/png": made })]);
    notify(`${what} copied.`);
  } catch {
    notify(`${what} could not be copied. Save it as a file instead.`);
  }
}
