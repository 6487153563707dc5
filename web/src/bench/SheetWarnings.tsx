import { isSheet, type Leaf, type PackageItem } from "../api/types";

/** What a reviewer must know of the sheet before trusting it: what it leaves out, and whether its size is known. */
export function SheetWarnings({ notShown, leaf }: { notShown: PackageItem["notShown"]; leaf: Leaf | undefined }) {
  const lines = [
    ...(notShown.length > 0 ? [`Not shown: ${notShown.map((n) => `${n.count} × ${n.type}`).join(", ")}`] : []),
    ...(isSheet(leaf) && leaf.frame.surface === "tiles" && leaf.frame.unit === "unknown"
      ? ["Size on paper unknown: the picture does not say how many points it has an inch."]
      : []),
  ];
  if (lines.length === 0) return null;
  return (
    <div className="absolute bottom-2 left-14 z-20 bg-raised px-2 py-0.5 text-sm text-ochre">
      {lines.map((l) => (
        <p key={l}>{l}</p>
      ))}
    </div>
  );
}
