import { useState } from "react";
import { useMe } from "../session/me";
import type { PackageRow } from "../api/types";
import { lazyPart } from "../ui/lazyPart";
import { batches, type Batch, type Looked } from "./batches";

const SignManySheet = lazyPart(async () => (await import("./SignManySheet")).SignManySheet);

/** Offers to sign several packages of one step at once, when each of their items has been opened. */
export function SignManyBar({ rows, opened, seen }: { rows: readonly PackageRow[] } & Looked) {
  const me = useMe();
  const [batch, setBatch] = useState<Batch | null>(null);
  return (
    <>
      {batches(rows, me.id).map((b) => (
        <p key={b.step.key + b.rows[0]!.id} className="flex items-center gap-3 px-4 pb-1.5 text-soft">
          {b.rows.length} packages wait at {b.step.name}.
          <button type="button" className="text-ink underline" onClick={() => setBatch(b)}>
            Sign several at once
          </button>
        </p>
      ))}
      {batch && (
        <SignManySheet
          batch={batch}
          opened={opened}
          seen={seen}
          onClose={() => setBatch(null)}
          onFailed={() => setBatch(null)}
        />
      )}
    </>
  );
}
