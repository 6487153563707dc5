import { isSheet, type Leaf, type PackageItem } from "../api/types";

type Props = {
  notShown: PackageItem["notShown"];
  leaf: Leaf | undefined;
  /** Where a picture that lies on the sheet is to be had; null where it is not at hand. */
  pictureOf: (file: string) => string | null;
};

/** What a reviewer must know of the sheet before trusting it: what it leaves out, and whether its size is known. */
export function SheetWarnings({ notShown, leaf, pictureOf }: Props) {
  const pictures = isSheet(leaf) ? (leaf.frame.pictures ?? []) : [];
  const away = [...new Set(pictures.map((p) => p.file))].filter((file) => !pictureOf(file));
  // Pictures of this sheet are told by name, and only where they are not to be seen.
  const rest = pictures.length > 0 ? notShown.filter((n) => n.type !== "IMAGE") : notShown;
  const lines = [
    ...(rest.length > 0 ? [`Not shown: ${rest.map((n) => `${n.count} × ${n.type}`).join(", ")}`] : []),
    ...(away.length > 0 ? [`Pictures that are not in this package: ${away.join(", ")}`] : []),
    ...(isSheet(leaf) && leaf.frame.surface === "tiles" && leaf.frame.unit === "unknown"
      ? ["Size on paper unknown: the picture does not say how many points it has an inch."]
      : []),
  ];
  if (lines.length === 0) return null;
  return (
    <div className="absolute bottom-2 left-14 z-20 bg-raised px-2 py-0.5 text-sm text-ochre">
      {lines.map((l) => (
        <p key={l} className="max-w-md wrap-anywhere">
          {l}
        </p>
      ))}
    </div>
  );
}
