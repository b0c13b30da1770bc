import { api, messageOf } from "../api/client";
import type { Incoming } from "../study/view";
import { notify } from "../ui/Notices";

export const TYPES = ".csv,.tsv,.txt,.dat,.json,.ods,.xlsx";
const LARGEST = 20_000_000;

/** The table in a file, read by the server; raises an error that says why it cannot be. */
export async function readFile(file: File, how: { sheet?: string; encoding?: string } = {}): Promise<Incoming> {
  if (file.size > LARGEST) throw new Error("This file is larger than 20 MB. Save the part that is meant as a file of its own.");
  const body = new FormData();
  body.append("file", file);
  body.append("sheet", how.sheet ?? "");
  body.append("encoding", how.encoding ?? "");
  let answer;
  try {
    answer = await api.POST("/api/tables/file", { body: body as never, bodySerializer: (form: unknown) => form as FormData });
  } catch {
    throw new Error("The file could not be read: the server cannot be reached, or the file has gone. Try again.");
  }
  if (!answer.data) throw new Error(messageOf(answer.error));
  const { text, name, sheets, sheet, encoding, encodings } = answer.data;
  return { text, file, name, sheets, sheet, encoding, encodings };
}

/** Read a file and hand its table on; what is wrong with it is said. */
export async function takeFile(file: File, take: (incoming: Incoming) => void) {
  try {
    take(await readFile(file));
  } catch (error) {
    notify(`${file.name}: ${(error as Error).message}`);
  }
}
