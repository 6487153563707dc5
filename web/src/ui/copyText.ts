/** Puts text on the clipboard; gives whether it is there. Browsers keep the newer way for pages that came by TLS or from this machine. */
export async function copyText(text: string): Promise<boolean> {
  try {
    if (navigator.clipboard) {
      await navigator.clipboard.writeText(text);
      return true;
    }
  } catch {
    // Not allowed: the older way may be.
  }
  const had = document.activeElement;
  const held = document.createElement("textarea");
  held.value = text;
  held.setAttribute("readonly", "");
  held.style.position = "fixed";
  held.style.opacity = "0";
  document.body.append(held);
  held.select();
  // The only way there is without TLS; browsers still have it for that.
  const isCopied = document.execCommand("copy");
  held.remove();
  if (had instanceof HTMLElement) had.focus({ preventScroll: true });
  return isCopied;
}
