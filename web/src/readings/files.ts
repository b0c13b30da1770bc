import { api, messageOf } from "../api/client";
import { isPicture, PICTURES } from "../picture/openPicture";
import type { Incoming } from "../study/view";
import { navigate } from "../route";
import { notify } from "../ui/Notices";
import { messageIn } from "../ui/messageIn";

export const TYPES = `.csv,.tsv,.txt,.dat,.json,.ods,.xlsx,${PICTURES}`;
const LARGEST = 20_000_000;

/** The table in a file, read by the server; raises an error that says why it cannot be. */
export async function readFile(file: File, how: { sheet?: string; encoding?: string } = {}): Promise<Incoming> {
  if (file.size > LARGEST) throw new Error("This file is larger than 20 MB. Save the part that is meant as a file of its own.");
  const body = { file: file.name, sheet: how.sheet ?? "", encoding: how.encoding ?? "" };
  const form = new FormData();
  for (const [name, value] of Object.entries({ ...body, file })) form.append(name, value);
  let answer;
  try {
    answer = await api.POST("/api/tables/file", { body, bodySerializer: () => form });
  } catch {
    throw new Error("The file could not be read: the server cannot be reached, or the file has gone. Try again.");
  }
  if (!answer.data) throw new Error(messageOf(answer.error));
  const { text, name, sheets, sheet, encoding, encodings, remarks } = answer.data;
  return { text, file, name, sheets, sheet, encoding, encodings, remarks };
}

const IS_STUDY = /"format"\s*:\s*"ridge-study"/;
const LARGEST_STUDY = 40_000_000;

/** The address of the study that a file holds, taken in as a new one; null where the file is no study. */
async function openStudy(file: File): Promise<string | null> {
  if (!file.name.toLowerCase().endsWith(".json")) return null;
  if (!IS_STUDY.test(await file.slice(0, 4000).text())) return null;
  if (file.size > LARGEST_STUDY) throw new Error("This is larger than a study can be.");
  const { data, error } = await api.POST("/api/study_files", { body: { text: await file.text() } });
  if (!data) throw new Error(messageOf(error));
  return `/study/${data.id}`;
}

/** Open the study that a file holds, lay it under the plot where it is a picture, or read its table and hand it on; what is wrong is said. */
export async function takeFile(file: File, take: (incoming: Incoming) => void, lay: (file: File) => Promise<void>) {
  if (isPicture(file)) return lay(file);
  try {
    const study = await openStudy(file);
    if (study) navigate(study);
    else take(await readFile(file));
  } catch (error) {
    notify(`${file.name}: ${messageIn(error)}`);
  }
}
