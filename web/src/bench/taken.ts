import type { MarkedFileTaken } from "../api/types";

const count = (n: number, one: string) => (n === 1 ? `1 ${one}` : `${n} ${one.replace(/y$/, "ie")}s`);

/** What came of a marked file, in a sentence. */
export function takenWords(t: MarkedFileTaken): string {
  const came = [
    t.replies > 0 && count(t.replies, "reply"),
    t.remarks > 0 && count(t.remarks, "new remark"),
    t.markups > 0 && count(t.markups, "markup"),
  ].filter((w) => w !== false);
  const stayed = [
    t.already > 0 && `${t.already} ${t.already === 1 ? "was" : "were"} here already`,
    t.leftOut > 0 &&
      `${t.leftOut} say${t.leftOut === 1 ? "s" : ""} nothing and lie${t.leftOut === 1 ? "s" : ""} nowhere on this draft`,
  ].filter((w) => w !== false);
  const said = came.length === 0 ? "Nothing new was in it" : `Brought in: ${came.join(", ")}`;
  return `${[said, ...stayed].join("; ")}.`;
}
