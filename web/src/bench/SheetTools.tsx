import { ArrowUpRight, Cloud, Hand, Maximize, Redo2, Trash2, Undo2, ZoomIn, ZoomOut } from "lucide-react";
import type { ReactNode } from "react";
import type { SheetHandle } from "../viewer/sheet";
import type { ToolName } from "./useHand";

type Props = {
  tool: ToolName;
  setTool: (tool: ToolName) => void;
  canDraw: boolean;
  /** Whether what is looked at is a table: its cells are picked, nothing is drawn. */
  isTable: boolean;
  canUndo: boolean;
  canRedo: boolean;
  onUndo: () => void;
  onRedo: () => void;
  /** Erases what is picked; null when nothing of one's own is. */
  onErase: (() => void) | null;
  sheet: React.RefObject<SheetHandle | null>;
};

const sign = { size: 18, strokeWidth: 1.6 };

/** The tools beside the sheet. */
export function SheetTools(p: Props) {
  return (
    <div
      role="toolbar"
      aria-label="Sheet tools"
      aria-orientation="vertical"
      className="absolute top-3 left-2 z-20 flex flex-col gap-1"
    >
      <ToolButton
        words="Look"
        shortcut="V"
        active={p.tool === "look"}
        onClick={() => p.setTool("look")}
        icon={<Hand {...sign} />}
      />
      {p.canDraw && (
        <>
          {!p.isTable && (
            <>
              <ToolButton
                words="Cloud"
                shortcut="C"
                active={p.tool === "cloud"}
                onClick={() => p.setTool("cloud")}
                icon={<Cloud {...sign} />}
              />
              <ToolButton
                words="Arrow"
                shortcut="A"
                active={p.tool === "arrow"}
                onClick={() => p.setTool("arrow")}
                icon={<ArrowUpRight {...sign} />}
              />
              <span className="h-2" />
            </>
          )}
          <ToolButton words="Undo" shortcut="⌃Z" onClick={p.canUndo ? p.onUndo : null} icon={<Undo2 {...sign} />} />
          <ToolButton words="Redo" shortcut="⌃Y" onClick={p.canRedo ? p.onRedo : null} icon={<Redo2 {...sign} />} />
          {p.onErase && <ToolButton words="Erase" shortcut="Del" onClick={p.onErase} icon={<Trash2 {...sign} />} />}
        </>
      )}
      <span className="h-2" />
      <ToolButton words="Zoom in" shortcut="+" onClick={() => p.sheet.current?.zoom(1.4)} icon={<ZoomIn {...sign} />} />
      <ToolButton
        words="Zoom out"
        shortcut="−"
        onClick={() => p.sheet.current?.zoom(1 / 1.4)}
        icon={<ZoomOut {...sign} />}
      />
      <ToolButton words="Fit" shortcut="F" onClick={() => p.sheet.current?.fit()} icon={<Maximize {...sign} />} />
    </div>
  );
}

type ToolProps = { words: string; shortcut: string; icon: ReactNode; active?: boolean; onClick: (() => void) | null };

function ToolButton({ words, shortcut, icon, active, onClick }: ToolProps) {
  return (
    <button
      type="button"
      aria-label={words}
      aria-pressed={active}
      disabled={onClick === null}
      title={`${words} (${shortcut})`}
      className={`flex h-[42px] w-[34px] flex-col items-center justify-center rounded-[5px] disabled:opacity-40 ${active ? "bg-ink text-raised" : "bg-ground/80 hover:bg-raised"}`}
      onClick={() => onClick?.()}
    >
      {icon}
      <span className="font-mono text-[9px] leading-3">{shortcut}</span>
    </button>
  );
}
