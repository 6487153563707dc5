import type { NoteRow } from "../api/types";

/** What was done in a note's thread, as it is told. */
const actWords: Readonly<Record<string, string>> = {
  "advice asked": "asked for advice",
  "advice given": "gave advice",
  done: "answered: done",
  "done differently": "answered: done differently",
  cannot: "answered: cannot",
  "already so": "answered: already so",
  answer: "answered",
  close: "closed it",
  reopen: "reopened it",
  leave: "leaves it to others to close",
  reply: "replied",
  edit: "changed the words, which were",
  "brought along": "brought it along from",
  "carried over": "took it along into",
};

/** What was done in a note's thread, in words, with what was said: of a change that left the words as they were, nothing. */
export const actsTold = ({ acts, body }: Pick<NoteRow, "acts" | "body">) =>
  acts.map((a, i) => {
    const later = acts.slice(i + 1).find((next) => next.act === "edit");
    return a.act === "edit" && a.body === (later?.body ?? body)
      ? { ...a, told: "changed urgency, day or tags", body: "" }
      : { ...a, told: actWords[a.act] ?? a.act };
  });
