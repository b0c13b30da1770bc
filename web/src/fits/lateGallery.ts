import { later } from "../ui/later";

export const Gallery = later(() => import("./Gallery").then((one) => one.Gallery));
