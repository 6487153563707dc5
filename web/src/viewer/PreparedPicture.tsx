import type { CSSProperties, Ref } from "react";
import { pictureLook } from "./lying";
import { picturePath } from "./picturePath";

type Props = {
  draft: string;
  position: number;
  ref?: Ref<HTMLImageElement>;
  /** How it lies, by `lying`; where it is not given, whoever holds it lays it. */
  style?: CSSProperties;
  /** Whether the sharp picture lies over it, so that only its paper is wanted. */
  isCovered?: boolean;
  onLoad?: (() => void) | undefined;
};

/** The picture of a sheet that the server made when it was read: there at once, whatever is still to come. */
export function PreparedPicture({ draft, position, ref, style, isCovered = false, onLoad }: Props) {
  return (
    <img
      ref={ref}
      src={picturePath(draft, position)}
      alt=""
      draggable={false}
      // It was there a moment before, while the sheet was coming: it does not go and come again.
      decoding="sync"
      onLoad={onLoad}
      className={pictureLook}
      style={{
        ...style,
        objectPosition: isCovered ? "-100000px 0" : undefined,
        objectFit: isCovered ? "none" : "fill",
      }}
    />
  );
}
