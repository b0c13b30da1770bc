import { api, type LaidPicture, messageOf, type PicturePlace } from "../api/client";
import { exponentsOf } from "../study/changes";
import { useView } from "../study/view";
import type { GestureQueue } from "../study/queue";
import { messageIn } from "../ui/messageIn";
import { notify } from "../ui/Notices";

export const PICTURES = ".png,.jpg,.jpeg,.webp";
const LARGEST = 25_000_000;
/** How wide a picture without readings is laid, in the plot's own units. */
const ACROSS = 10;

/** Whether a file says that it is a picture; an SVG too, so that it can be said why that is not taken. */
export const isPicture = (file: File) => file.type.startsWith("image/") || /\.(png|jpe?g|webp|svg)$/i.test(file.name);

/** A picture taken from its file by the server, written anew. Raises an error that says why it is not taken. */
export async function sendPicture(study: string, file: File) {
  if (file.size > LARGEST) throw new Error(`The picture has ${Math.round(file.size / 1e6)} MB; 25 at most.`);
  const form = new FormData();
  form.append("file", file, file.name || "picture");
  let answer;
  try {
    const params = { path: { study_id: study } };
    answer = await api.POST("/api/studies/{study_id}/pictures", { params, body: { file: file.name }, bodySerializer: () => form });
  } catch {
    throw new Error("The picture could not be sent: the server cannot be reached, or the file has gone. Try again.");
  }
  if (!answer.data) throw new Error(messageOf(answer.error));
  return answer.data;
}

type Opened = Awaited<ReturnType<typeof sendPicture>>;

/** A picture as it lies at first. */
export const laidAt = ({ digest, media_type, width, height }: Opened, place: PicturePlace, log: [boolean, boolean]): LaidPicture => ({
  digest,
  media_type,
  width,
  height,
  place,
  log_x: log[0],
  log_y: log[1],
});

/** Where a picture lies in a study without readings: as wide as the plot's own ten units. */
export function ofItsOwn({ width, height }: { width: number; height: number }): PicturePlace {
  const up = (ACROSS * height) / width;
  return { x: ACROSS / 2, y: up / 2, width: ACROSS, height: up, turn: 0 };
}

/** Open a picture under the plot; what is wrong with it is said. */
export async function openPicture(queue: GestureQueue, file: File) {
  try {
    const { study } = queue.read();
    const opened = await sendPicture(study.id, file);
    if (opened.remark) notify(opened.remark);
    const { study: now } = queue.read();
    const bare = now.row_count === 0 && !now.picture;
    const log: [boolean, boolean] = [now.plot.x_scale === "log", now.plot.y_scale === "log"];
    const before = now.picture?.laid;
    const place = bare ? ofItsOwn(opened) : withinView(opened, exponentsOf(now), log);
    const kept = before && { shine: before.shine, credit: "", licence: "", description: "" };
    // A picture by itself is not stretched.
    const equal = bare && !log[0] && !log[1] ? { equal: true } : {};
    queue.change({ kind: "put_picture", picture: { ...laidAt(opened, place, log), ...kept }, ...equal });
  } catch (error) {
    notify(`${file.name || "The picture"}: ${messageIn(error)}`);
  }
}

/** Within what the plot shows, unstretched as it is drawn now. */
function withinView(size: { width: number; height: number }, exponents: [number, number], log: [boolean, boolean]): PicturePlace {
  const { seen } = useView.getState();
  if (!seen) return ofItsOwn(size);
  const stretch = (ends: [number, number], axis: 0 | 1): [number, number] => {
    if (!log[axis]) return [ends[0] / 10 ** exponents[axis], ends[1] / 10 ** exponents[axis]];
    return [Math.log10(ends[0]) - exponents[axis], Math.log10(ends[1]) - exponents[axis]];
  };
  const [x, y] = [stretch(seen.x, 0), stretch(seen.y, 1)];
  const [across, up] = [x[1] - x[0], y[1] - y[0]];
  // Of the picture's height over its width, so much of the plot's.
  const share = size.height / size.width / seen.shape;
  const [width, height] = share <= 1 ? [across, up * share] : [across / share, up];
  return { x: (x[0] + x[1]) / 2, y: (y[0] + y[1]) / 2, width, height, turn: 0 };
}
