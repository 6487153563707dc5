import type { ReactNode } from "react";

/** Text with **bold**, lists with - and [links](address). Only web and mail addresses become links; nothing else is read. */
export function Formatted({ text }: { text: string }) {
  const parts: ReactNode[] = [];
  let list: string[] = [];
  const close = () => {
    if (list.length > 0)
      parts.push(
        <ul key={parts.length} className="ml-4 list-disc">
          {list.map((l, i) => (
            <li key={i}>{inline(l)}</li>
          ))}
        </ul>,
      );
    list = [];
  };
  for (const line of text.split("\n")) {
    if (/^\s*-\s+/.test(line)) list.push(line.replace(/^\s*-\s+/, ""));
    else {
      close();
      if (line.trim()) parts.push(<p key={parts.length}>{inline(line)}</p>);
    }
  }
  close();
  return <>{parts}</>;
}

function inline(line: string): ReactNode[] {
  return line.split(/(\*\*[^*]+\*\*|\[[^\]]+\]\([^)\s]+\))/).map((part, i) => {
    const bold = /^\*\*([^*]+)\*\*$/.exec(part);
    if (bold) return <b key={i}>{bold[1]}</b>;
    const link = /^\[([^\]]+)\]\(((?:https?:\/\/|mailto:)[^)\s]+)\)$/.exec(part);
    if (link)
      return (
        <a key={i} href={link[2]} target="_blank" rel="noreferrer noopener" className="underline">
          {link[1]}
        </a>
      );
    return part;
  });
}
