/** How the buttons beside a list look, and what they open. */
export const trigger =
  "inline-flex min-h-8 items-center gap-1.5 rounded-[5px] border border-edge bg-raised px-2.5 font-medium whitespace-nowrap hover:bg-lit data-[state=open]:bg-picked";
export const panel = "z-50 rounded-md border border-rule bg-raised shadow-lg";
