import type { CSSProperties, Ref } from "react";
import { offsetPoint } from "./camera/points";
import { picturePath } from "./picturePath";
import { toWindow, type Box, type Size, type View } from "./camera/view";

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

/** How a picture that fills a box lies in a window. */
export function lying(box: Box, view: View, size: Size) {
  const { x, y } = toWindow(view, offsetPoint(box.left, box.top), size);
  return {
    width: `${(box.right - box.left) * view.scale}px`,
    height: `${(box.top - box.bottom) * view.scale}px`,
    transform: `translate(${x}px, ${y}px)`,
  };
}

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
      className="absolute top-0 left-0 max-w-none origin-top-left bg-paper will-change-transform shadow-[0_1px_2px_#0003,0_6px_22px_#0002]"
      style={{
        ...style,
        objectPosition: isCovered ? "-100000px 0" : undefined,
        objectFit: isCovered ? "none" : "fill",
      }}
    />
  );
}
