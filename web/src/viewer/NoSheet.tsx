import { Download } from "lucide-react";

/** In the place of a sheet where a file has none that could be shown. */
export function NoSheet({ draft }: { draft: string }) {
  return (
    <div className="absolute inset-0 grid place-items-center">
      <div className="max-w-sm border border-rule bg-raised px-6 py-5 text-center">
        <p className="font-semibold">This file cannot be shown here.</p>
        <p className="mt-1 text-soft">It travels with the package as a supporting file. Download it to look at it.</p>
        <a
          className="mt-3 inline-flex min-h-9 items-center gap-2 rounded-[5px] bg-ink px-3 font-medium text-raised"
          href={`/api/drafts/${draft}/file`}
          download
        >
          <Download size={15} /> Download
        </a>
      </div>
    </div>
  );
}
