import { offline, Refusal } from "./client";

/**
 * Fetches a file that the server makes, and gives it to the browser to keep. A link alone would lead away from the page where the server refuses.
 * @returns whether its pages are pictures, because the draft's own file takes nothing more
 */
export async function download(path: string): Promise<boolean> {
  const response = await fetch(path).catch(offline);
  if (!response.ok) {
    if (response.status === 401) window.dispatchEvent(new Event("froe-signed-out"));
    const problem = (await response.json().catch(() => null)) as { title?: string; code?: string } | null;
    throw new Refusal(
      problem?.title ?? "The file could not be made. Try again; if it keeps failing, tell your administrator.",
      problem?.code ?? "unknown",
      response.status,
    );
  }
  const named = /filename\*=UTF-8''([^;]+)/.exec(response.headers.get("Content-Disposition") ?? "");
  const link = document.createElement("a");
  link.href = URL.createObjectURL(await response.blob().catch(offline));
  link.download = named ? decodeURIComponent(named[1]!) : "file";
  link.click();
  // The browser has taken it by then.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
  return response.headers.get("X-Froe-Pages") === "pictures";
}
