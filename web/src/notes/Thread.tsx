import { Link } from "react-router";
import type { ListedNote } from "../api/types";
import { actsTold } from "./acts";
import { Clamped } from "../ui/Clamped";
import { exactly } from "../ui/time";
import { placeOf } from "./words";

/** One note in a list: all it says, everything said and done since, and the way to its place on the sheet. */
export function Thread({ n }: { n: ListedNote }) {
  return (
    <div className="flex gap-6">
      <div className="w-[160px] shrink-0">
        <Link
          to={`/packages/${n.package}?note=${n.number}`}
          tabIndex={-1}
          aria-hidden
          className="block border border-rule bg-paper hover:border-ink"
        >
          <img src={`/api/drafts/${n.draft}/leaves/0/small`} alt="" className="h-[112px] w-[158px] object-contain" />
        </Link>
        <p className="mt-1 font-mono text-sm break-words text-soft">
          {n.documentNumber} {placeOf(n)}
        </p>
      </div>
      <div className="max-w-2xl min-w-0 flex-1">
        <p className="text-soft">
          {n.documentTitle}, in <span className="font-mono text-sm">{n.packageNumber}</span> {n.packageTitle}
        </p>
        <ol className="mt-2">
          <Said name={n.authorName} act={`asked ${n.originatorName}`} at={n.at} words={n.body} />
          {actsTold(n).map((a, i) => (
            <Said key={i} name={a.name} act={a.told} at={a.at} words={a.body} />
          ))}
        </ol>
        <Link
          to={`/packages/${n.package}?note=${n.number}`}
          className="mt-3 inline-flex min-h-8 items-center rounded-[5px] border border-spruce bg-spruce px-3 font-medium text-on hover:bg-spruce-deep"
        >
          Show it on the sheet
        </Link>
      </div>
    </div>
  );
}

function Said({ name, act, at, words }: { name: string; act: string; at: string; words: string }) {
  return (
    <li className="border-b border-dotted border-rule py-1.5">
      <div className="flex gap-2">
        <span className="min-w-0 flex-1">
          <b className="font-semibold">{name}</b> {act}
        </span>
        <span className="shrink-0 text-sm text-soft">{exactly(at)}</span>
      </div>
      {words && <Clamped>{words}</Clamped>}
    </li>
  );
}
