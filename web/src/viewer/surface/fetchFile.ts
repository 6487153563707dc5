import { steadily } from "../../api/again";
import { offline, Refusal } from "../../api/client";

async function answered(url: string, stop: AbortSignal): Promise<Response> {
  const response = await fetch(url, { signal: stop }).catch(offline);
  if (response.ok) return response;
  const problem = (await response.json().catch(() => null)) as { title?: string; code?: string } | null;
  throw new Refusal(
    problem?.title ?? "The sheet could not be fetched. Load it again; if it keeps failing, tell your administrator.",
    problem?.code ?? "unknown",
    response.status,
  );
}

/** Fetches a file, telling how much of it has come; from the beginning where the line breaks. */
export const fetchFile = (url: string, onShare: (share: number) => void, stop: AbortSignal): Promise<ArrayBuffer> =>
  steadily(async () => {
    const response = await answered(url, stop);
    // Of the file itself: what travels is compressed.
    const total = Number(response.headers.get("X-Froe-Size") ?? 0);
    const parts: Uint8Array[] = [];
    let size = 0;
    for (const reader = response.body!.getReader(); ;) {
      const { done, value } = await reader.read().catch(offline);
      if (done) break;
      parts.push(value);
      size += value.length;
      if (total > 0) onShare(size / total);
    }
    const all = new Uint8Array(size);
    let at = 0;
    for (const part of parts) {
      all.set(part, at);
      at += part.length;
    }
    return all.buffer;
  }, stop);

/** Fetches a picture. */
export async function fetchPicture(url: string, stop: AbortSignal): Promise<ImageBitmap> {
  const blob = await steadily(async () => (await answered(url, stop)).blob().catch(offline), stop);
  return createImageBitmap(blob);
}
