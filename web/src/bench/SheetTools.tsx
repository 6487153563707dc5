import {
  Group,
  Hand,
  Maximize,
  MessageSquarePlus,
  PencilLine,
  Redo2,
  Shapes,
  Trash2,
  Undo2,
  ZoomIn,
  ZoomOut,
} from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import type { SheetHandle } from "../viewer/sheet";
import { keyWords } from "../commands/keys";
import { arrangings, type Arranging, type ArrangingName } from "./arranging";
import type { DrawnName } from "../viewer/shapes";
import { drawings, foremost } from "./drawing";
import type { ToolName } from "./useHand";
import { focusSheet } from "../viewer/focusSheet";

type Props = {
  tool: ToolName;
  setTool: (tool: ToolName) => void;
  canDraw: boolean;
  /** What can be drawn on what is looked at; nothing on a table. */
  names: readonly DrawnName[];
  /** On the overlay that is drawn on; null where there is nothing to be undone or done again. */
  onUndo: (() => void) | null;
  onRedo: (() => void) | null;
  /** Begins a note to what is picked, or writes its words anew; null where that cannot be. */
  onNote: (() => void) | null;
  onWrite: (() => void) | null;
  arranging: Arranging;
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
      className="absolute top-3 left-2 z-20 flex max-h-[calc(100%-1.5rem)] flex-col flex-wrap gap-1"
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
          {p.names.length > 0 && (
            <>
              {foremost
                .filter((name) => p.names.includes(name))
                .map((name) => {
                  const { words, key, icon: Icon } = drawings[name];
                  return (
                    <ToolButton
                      key={name}
                      words={words}
                      shortcut={key.toUpperCase()}
                      active={p.tool === name}
                      onClick={() => p.setTool(name)}
                      icon={<Icon {...sign} />}
                    />
                  );
                })}
              <MoreTools tool={p.tool} setTool={p.setTool} names={p.names} />
              <span className="h-2" />
            </>
          )}
          <ToolButton words="Undo" shortcut="⌃Z" onClick={p.onUndo} icon={<Undo2 {...sign} />} />
          <ToolButton words="Redo" shortcut="⌃Y" onClick={p.onRedo} icon={<Redo2 {...sign} />} />
          {p.onNote && (
            <ToolButton words="Note to it" shortcut="↵" onClick={p.onNote} icon={<MessageSquarePlus {...sign} />} />
          )}
          {p.onWrite && (
            <ToolButton words="Its words" shortcut="F2" onClick={p.onWrite} icon={<PencilLine {...sign} />} />
          )}
          <ArrangeMenu arranging={p.arranging} />
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

type MenuProps = { label: string; icon: ReactNode; hint: string; isHeld?: boolean; children: ReactNode };

/** A menu beside the toolbar. The sheet beside it stays a part of the page, and has the keys next, to be drawn on. */
function ToolMenu({ label, icon, hint, isHeld, children }: MenuProps) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={label}
        title={label}
        className={`flex h-[42px] w-[34px] flex-col items-center justify-center rounded-[5px] ${isHeld ? "bg-ink text-raised" : "bg-ground/80 hover:bg-raised"}`}
      >
        {icon}
        <span className="font-mono text-[9px] leading-3">{hint}</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Content
        side="right"
        align="start"
        sideOffset={6}
        className="z-50 min-w-56 rounded-md border border-rule bg-raised p-1 shadow-lg"
        onCloseAutoFocus={(e) => {
          e.preventDefault();
          focusSheet();
        }}
      >
        {children}
      </DropdownMenu.Content>
    </DropdownMenu.Root>
  );
}

type EntryProps = { icon?: ReactNode; words: string; keys: string; onSelect: () => void };

function ToolEntry({ icon, words, keys, onSelect }: EntryProps) {
  return (
    <DropdownMenu.Item
      onSelect={onSelect}
      className="flex cursor-pointer items-center gap-3 rounded px-2.5 py-1.5 data-[highlighted]:bg-picked"
    >
      {icon}
      <span className="flex-1">{words}</span>
      <span className="font-mono text-sm text-soft">{keys}</span>
    </DropdownMenu.Item>
  );
}

/** The tools that do not stand in the toolbar by themselves; the one in hand shows there instead of the button's own sign. */
function MoreTools({ tool, setTool, names }: Pick<Props, "tool" | "setTool" | "names">) {
  const more = names.filter((name) => !foremost.includes(name));
  const held = more.find((name) => name === tool);
  const Icon = held ? drawings[held].icon : Shapes;
  return (
    <ToolMenu
      label={held ? `${drawings[held].words}, more to draw with` : "More to draw with"}
      icon={<Icon {...sign} />}
      hint={held ? drawings[held].key.toUpperCase() : "…"}
      isHeld={held !== undefined}
    >
      {more.map((name) => {
        const { words, key, icon: Sign } = drawings[name];
        return (
          <ToolEntry
            key={name}
            icon={<Sign size={16} strokeWidth={1.6} />}
            words={words}
            keys={key.toUpperCase()}
            onSelect={() => setTool(name)}
          />
        );
      })}
    </ToolMenu>
  );
}

/** How what is picked lies among the others, and what it is moved with. */
function ArrangeMenu({ arranging }: { arranging: Arranging }) {
  const offered = (Object.keys(arrangings) as ArrangingName[]).filter((name) => arranging[name] !== null);
  if (offered.length === 0) return null;
  return (
    <ToolMenu label="Arrange what is picked" icon={<Group {...sign} />} hint="…">
      {offered.map((name) => {
        const { words, ...keys } = arrangings[name];
        return <ToolEntry key={name} words={words} keys={keyWords(keys)} onSelect={() => arranging[name]?.()} />;
      })}
    </ToolMenu>
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
