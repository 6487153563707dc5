/** How the button of one's account looks, before its menu is there and with it. */
export const accountLook =
  "grid h-8 w-8 place-items-center rounded-full border border-ink text-sm font-semibold hover:bg-picked";
