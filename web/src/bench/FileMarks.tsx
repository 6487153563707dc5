import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import { isSheet, type FileMark, type Leaf } from "../api/types";
import { exactly } from "../ui/time";

/** What others drew and wrote on a page before it came here; of a leaf that is no page there is nothing. */
export function useFileMarks(draft: string, leaf: Leaf | undefined): readonly FileMark[] {
  const isPage = isSheet(leaf) && (leaf.frame.surface === "page" || leaf.frame.surface === "heavyPage");
  const { data } = useQuery({
    queryKey: ["page", draft, leaf?.position],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${leaf!.position}/page`),
    enabled: isPage,
    staleTime: Infinity,
  });
  return isPage ? (data?.marks ?? []) : [];
}

/** Nobody needs to be led to a mark that says nothing and was answered by nobody. */
const speaks = (m: FileMark, all: readonly FileMark[]) => m.words !== "" || all.some((o) => o.replyTo === m.id);

type Props = {
  marks: readonly FileMark[];
  onGo: (mark: FileMark) => void;
  /** Begins a note at its place; null when nothing can be written. */
  onAnswer: ((mark: FileMark) => void) | null;
};

/** The marks that came with the file, each with its replies. They stay as they are; a note answers them. */
export function FileMarks({ marks, onGo, onAnswer }: Props) {
  const first = marks.filter((m) => !marks.some((o) => o.id === m.replyTo) && speaks(m, marks));
  if (first.length === 0) return null;
  return (
    <section aria-label="Marks from the file" className="border-t border-rule">
      <h2 className="label flex justify-between px-3.5 pt-3 pb-1">
        From the file <span className="text-ink">{first.length}</span>
      </h2>
      {first.map((m) => {
        const replies = marks.filter((o) => o.replyTo === m.id);
        const states = replies.filter((r) => r.state);
        return (
          <article key={m.id} className="border-l-[3px] border-ochre px-3 py-2">
            <button type="button" className="w-full text-left" onClick={() => onGo(m)}>
              <span className="flex flex-wrap items-baseline gap-x-2 text-sm text-soft">
                <span className="font-medium text-ink">{m.author || "Nobody named"}</span>
                <span>{m.kind}</span>
                {m.at && <span>{exactly(m.at)}</span>}
              </span>
              {m.words && <span className="block break-words whitespace-pre-wrap">{m.words}</span>}
            </button>
            {replies
              .filter((r) => !r.state && r.words)
              .map((r) => (
                <p key={r.id} className="mt-1 border-l border-rule pl-2 text-sm break-words">
                  <span className="text-soft">{r.author || "Nobody named"}:</span> {r.words}
                </p>
              ))}
            {states.map((r) => (
              <p key={r.id} className="mt-1 text-sm text-soft">
                {r.state} by {r.author || "nobody named"}
              </p>
            ))}
            {onAnswer && (
              <button type="button" className="mt-1 text-sm underline" onClick={() => onAnswer(m)}>
                Answer with a note
              </button>
            )}
          </article>
        );
      })}
    </section>
  );
}
