import { sendFile } from "./client";
import type { PictureKept } from "./types";

/** Keeps a picture for a draft; how it is called from then on is what comes back. */
export const keepPicture = (draft: string, file: File): Promise<PictureKept> =>
  sendFile<PictureKept>(`/drafts/${draft}/pictures`, file, () => undefined, new AbortController().signal);

/** The first picture among what is pasted or dropped; null for none. */
export const pictureIn = (data: DataTransfer | null): File | null =>
  [...(data?.files ?? [])].find((f) => f.type.startsWith("image/")) ?? null;
