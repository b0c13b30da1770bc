import { api, messageOf } from "../api/client";
import { navigate } from "../route";
import { messageIn } from "../ui/messageIn";
import { notify } from "../ui/Notices";
import { laidAt, ofItsOwn, sendPicture } from "./openPicture";

/** A new study with a picture under its plot; where the picture is refused, it is said why, and nothing is left behind. */
export async function beginWithPicture(file: File) {
  try {
    const made = await api.POST("/api/studies", { body: { title: file.name.replace(/\.\w+$/, "").slice(0, 200) } });
    if (!made.data) throw new Error(messageOf(made.error));
    const params = { path: { study_id: made.data.id } };
    const opened = await sendPicture(made.data.id, file).catch(async (problem: unknown) => {
      await api.DELETE("/api/studies/{study_id}", { params });
      throw problem;
    });
    if (opened.remark) notify(opened.remark);
    const picture = laidAt(opened, ofItsOwn(opened), [false, false]);
    // A picture by itself is not stretched.
    const change = { kind: "put_picture" as const, picture, equal: true };
    const laid = await api.POST("/api/studies/{study_id}/changes", { params, body: { version: 0, change } });
    if (!laid.data) throw new Error(messageOf(laid.error));
    navigate(`/study/${made.data.id}`);
  } catch (error) {
    notify(`${file.name || "The picture"}: ${messageIn(error)}`);
  }
}
