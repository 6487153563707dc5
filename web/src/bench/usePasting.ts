import { useEffect, useRef } from "react";
import { keepPicture, pictureIn } from "../api/pictures";
import type { Shape } from "../api/types";
import { tell } from "../ui/announce";
import type { SheetHandle } from "../viewer/sheet";

/** How much of what is in view a picture takes that is put there. */
const SHARE = 0.4;

type Props = {
  draft: string;
  sheet: React.RefObject<SheetHandle | null>;
  /** Whether pictures can be put where one looks. */
  canPaste: boolean;
  /** Draws what was copied on this page; null where nothing was. */
  copied: (() => void) | null;
  onDrawn: (shape: Shape) => void;
  onFault: (words: string) => void;
};

/** What was copied here is drawn again in its place; a picture from the clipboard is put in the middle of what is in view, as large as it is easily seen and taken hold of. */
export function usePasting(p: Props) {
  const now = useRef(p);
  now.current = p;
  useEffect(() => {
    const paste = (e: ClipboardEvent) => {
      const { draft, sheet, canPaste, copied, onDrawn, onFault } = now.current;
      // Not what the event is aimed at: a field that was left keeps its caret, which is where browsers aim it.
      const into = document.activeElement;
      const file = pictureIn(e.clipboardData);
      // Whoever writes means what they write.
      if (!canPaste || into?.closest("input, textarea, select, [contenteditable], [role=dialog]")) return;
      const seen = sheet.current?.inView?.();
      if (!file) copied?.();
      if (!file || !seen) return;
      e.preventDefault();
      tell("The picture is being put on the sheet …");
      keepPicture(draft, file).then(
        ({ picture, width, height }) => {
          const size = SHARE * Math.min(seen.width / width, seen.height / height);
          const [w, h] = [(width * size) / 2, (height * size) / 2];
          const { x, y } = seen.middle;
          // Another sheet may be looked at by now: it is put on the one that it was meant for.
          onDrawn({ shape: "picture", from: { x: x - w, y: y - h }, to: { x: x + w, y: y + h }, picture });
        },
        (fault: Error) => onFault(fault.message),
      );
    };
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  }, []);
}
