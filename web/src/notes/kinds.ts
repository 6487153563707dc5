/** Ink of a note's kind, for lines and words, and for what is filled. */
export const kindColour = {
  remark: "text-slate stroke-slate",
  question: "text-iris stroke-iris",
  request: "text-rust stroke-rust",
} as const;
export const kindFill = { remark: "bg-slate", question: "bg-iris", request: "bg-rust" } as const;
