/** Fetches a file, telling how much of it has come. */
export async function fetchFile(
  url: string,
  onShare: (share: number) => void,
  stop: AbortSignal,
): Promise<ArrayBuffer> {
  const response = await fetch(url, { signal: stop });
  if (!response.ok || !response.body)
    throw new Error("The sheet could not be fetched. Check the connection and load it again.");
  // Of the file itself: what travels is compressed.
  const total = Number(response.headers.get("X-Froe-Size") ?? 0);
  const parts: Uint8Array[] = [];
  let size = 0;
  for (const reader = response.body.getReader(); ;) {
    const { done, value } = await reader.read();
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
}
