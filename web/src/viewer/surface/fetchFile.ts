import { mayHelpAgain } from "../../api/again";
import { offline, Refusal } from "../../api/client";

/** How often something is asked for where the line breaks, and milliseconds until it is asked for again, each time twice as long. */
const TRIES = 4;
const PAUSE = 500;

const pause = (milliseconds: number, stop: AbortSignal) =>
  new Promise<void>((over) => {
    const timer = setTimeout(over, milliseconds);
    stop.addEventListener("abort", () => (clearTimeout(timer), over()));
  });

/** Does what asks the server for a part of a drawing, again where the line broke meanwhile or the server was away. */
async function steadily<T>(ask: () => Promise<T>, stop: AbortSignal): Promise<T> {
  for (let tried = 1; ; tried++) {
    try {
      return await ask();
    } catch (e) {
      if (stop.aborted) throw new DOMException("Not wanted any more.", "AbortError");
      if (tried === TRIES || !mayHelpAgain(e)) throw e;
    }
    await pause(PAUSE * 2 ** (tried - 1), stop);
  }
}

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
export const fetchPicture = (url: string, stop: AbortSignal): Promise<ImageBitmap> =>
  steadily(async () => {
    const response = await answered(url, stop);
    return createImageBitmap(await response.blob().catch(offline));
  }, stop);
