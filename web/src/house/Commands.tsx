import { useState } from "react";
import { useNavigate } from "react-router";
import { tell } from "../ui/announce";
import { copyText } from "../ui/copyText";
import { lazyPart } from "../ui/lazyPart";
import { useCommandKeys, useCommands, type Command } from "../commands/registry";
import { FindComing } from "./FindField";
import { useFocusKept } from "./useFocusKept";

const FindAll = lazyPart(async () => (await import("./FindAll")).FindAll);
const KeysSheet = lazyPart(async () => (await import("../commands/KeysSheet")).KeysSheet);

/** The keys of everything on the page, and what they open from anywhere. */
export function Commands() {
  const [open, setOpen] = useState<"find" | "keys" | null>(null);
  // Typed before what finds has come.
  const [words, setWords] = useState("");
  const close = () => {
    setOpen(null);
    setWords("");
  };
  const navigate = useNavigate();
  useCommandKeys();
  useFocusKept();
  const everywhere: readonly Command[] = [
    {
      id: "find-all",
      words: "Find or do anything",
      keys: [{ key: "k", ctrl: true }],
      evenTyping: true,
      run: () => setOpen("find"),
    },
    {
      id: "find-here",
      words: "Find in this place",
      keys: [{ key: "/" }],
      run: () => document.querySelector<HTMLElement>("[data-find]")?.focus(),
    },
    { id: "keys", words: "Show the keys of this place", keys: [{ key: "?" }], run: () => setOpen("keys") },
    {
      id: "copy-link",
      words: "Copy a link to this place",
      run: () =>
        void copyText(window.location.href).then((done) =>
          tell(
            done ? "The link is copied." : "The browser did not let the link be copied. Take it from its address line.",
          ),
        ),
    },
    { id: "desk", words: "Go to the desk", keys: [{ key: "h" }], run: () => void navigate("/") },
  ];
  useCommands("Everywhere", null, everywhere, "house");
  return (
    <>
      {open === "find" && (
        <FindAll
          firstWords={words}
          onClose={close}
          coming={<FindComing words={words} onWords={setWords} onClose={close} />}
          onFailed={close}
        />
      )}
      {open === "keys" && <KeysSheet onClose={close} onFailed={close} />}
    </>
  );
}
