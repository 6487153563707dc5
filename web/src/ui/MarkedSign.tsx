import { PencilLine } from "lucide-react";
import { Link } from "react-router";

type Props = {
  /** The number of what is drawn on. */
  of: string;
  package: string;
  /** The document, where it is about one of the package's. */
  document?: string;
  /** Whether Tab leads to it; in lists whose rows are gone through by arrows it does in one row. */
  isReached?: boolean;
};

/** Says that something is drawn on a draft, and leads to the first of it. */
export function MarkedSign({ of, document = "", package: id, isReached = true }: Props) {
  const words = "Drawn on: show the first markup";
  return (
    <Link
      to={`/packages/${id}?marked=${document}`}
      title={`${words} on ${of}`}
      aria-label={words}
      tabIndex={isReached ? 0 : -1}
      className="inline-flex h-6 w-6 shrink-0 items-center justify-center rounded text-spruce hover:bg-lit"
    >
      <PencilLine size={14} aria-hidden />
    </Link>
  );
}
