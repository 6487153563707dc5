import type { ReactNode } from "react";
import { partedAtPictures } from "./pictureWord";

type Props = {
  text: string;
  /** The draft that its pictures were put on; without one they stay words. */
  draft?: string;
};

/** Text with **bold**, lists with - and [links](address), and with pictures. Only web and mail addresses become links; nothing else is read. */
export function Formatted({ text, draft }: Props) {
  const parts: ReactNode[] = [];
  let list: string[] = [];
  const close = () => {
    if (list.length > 0)
      parts.push(
        <ul key={parts.length} className="ml-4 list-disc">
          {list.map((l, i) => (
            <li key={i}>{inline(l, draft)}</li>
          ))}
        </ul>,
      );
    list = [];
  };
  for (const line of text.split("\n")) {
    if (/^\s*-\s+/.test(line)) list.push(line.replace(/^\s*-\s+/, ""));
    else {
      close();
      if (line.trim()) parts.push(<p key={parts.length}>{inline(line, draft)}</p>);
    }
  }
  close();
  return <>{parts}</>;
}

function inline(line: string, draft: string | undefined): ReactNode[] {
  const parts = partedAtPictures(line);
  if (!draft || parts.length === 1) return worded(line);
  return parts.map((part, i) => {
    if (i % 2 === 0) return <span key={i}>{worded(part)}</span>;
    const url = `/api/drafts/${draft}/pictures/${part}`;
    return (
      <a
        key={i}
        href={url}
        target="_blank"
        rel="noreferrer"
        title="The picture in full"
        onClick={(e) => e.stopPropagation()}
      >
        <img src={url} alt="Picture" loading="lazy" className="my-1 max-h-40 max-w-full border border-rule bg-paper" />
      </a>
    );
  });
}

function worded(line: string): ReactNode[] {
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
