import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useEffect, useId, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../api/client";
import { keyWords } from "../commands/keys";
import { commandSets } from "../commands/registry";
import { placeOfPin, usePins } from "../kept/PinButton";
import { useRecent } from "../kept/useRecent";
import { isFound } from "../lists/listing";
import { useMe } from "../session/me";
import { usePeople } from "../ui/people";
import { unlessGoneOn } from "../ui/unlessGoneOn";
import { useSettled } from "../ui/useSettled";
import { FindField, findLook } from "./FindField";
import { placesOf } from "./placeList";
import { Veil } from "../ui/Veil";

/** How many of a kind are offered. */
const MOST = 6;

type Offer = { id: string; group: string; words: string; beside: string; run: () => void };
const nameOf = (offer: Offer) => `${offer.group} ${offer.id}`;

/** Finds commands, places, packages, documents and people by their words, and does what is chosen. */
export function FindAll({ firstWords, onClose }: { firstWords: string; onClose: () => void }) {
  const me = useMe();
  const navigate = useNavigate();
  const people = usePeople();
  const [words, setWords] = useState(firstWords);
  const asked = useSettled(words.trim());
  // By name: what is found later comes between.
  const [picked, setPicked] = useState<string | null>(null);
  const list = useRef<HTMLUListElement>(null);
  const id = useId();
  // Guests find the packages of their desk; all others those they may see.
  const { data: desk } = useQuery({ queryKey: ["desk"], queryFn: () => api.get("/desk"), enabled: me.isGuest });
  const {
    data: packages,
    isFetching,
    isPlaceholderData: arePackagesOld,
  } = useQuery({
    queryKey: ["packages", "found", asked],
    queryFn: () => api.get("/packages", { search: asked, standing: "" }),
    enabled: !me.isGuest && asked !== "",
    placeholderData: keepPreviousData,
    meta: { saysItself: true },
  });
  const { data: documents, isPlaceholderData: areDocumentsOld } = useQuery({
    queryKey: ["documents", "found", asked],
    queryFn: () => api.get("/documents", { search: asked }),
    enabled: asked !== "",
    placeholderData: keepPreviousData,
    meta: { saysItself: true },
  });
  // What the page offered when this opened: its own keys wait meanwhile.
  const [sets] = useState(commandSets);
  // What was found for other words stays while it fits these, too: Enter would lead to what nobody asked for.
  const isTyping = asked !== words.trim();
  const fitting = <Row extends { number: string; title: string }>(rows: readonly Row[], areOld: boolean) =>
    isTyping || areOld ? rows.filter((r) => isFound(words, r.number, r.title)) : rows;
  const go = (to: string) => () => void navigate(to);
  const rows = me.isGuest
    ? Object.values(desk ?? {})
        .filter(
          (g): g is NonNullable<typeof desk>["toSign"] => Array.isArray(g) && g.some((r) => "number" in Object(r)),
        )
        .flat()
        .filter((r) => isFound(words, r.number, r.title))
    : asked === ""
      ? []
      : fitting(packages?.rows ?? [], arePackagesOld);
  const recent = useRecent();
  const pins = usePins();
  const offers: Offer[] = [
    ...pins
      .filter((p) => isFound(words, p.number, p.title))
      .map((p) => ({ id: p.id, group: "Pinned", words: p.title, beside: p.number, run: go(placeOfPin(p)) })),
    ...(words.trim() === "" ? recent : []).map((r) => ({
      id: r.to,
      group: "Recent",
      words: r.words,
      beside: r.beside,
      run: go(r.to),
    })),
    ...sets.flatMap((set) =>
      set.commands
        .filter((c) => c.run && !c.isTold && isFound(words, c.words))
        .map((c) => ({
          id: `${set.place} ${c.id}`,
          group: set.place,
          words: c.words,
          beside: c.keys?.[0] ? keyWords(c.keys[0]) : "",
          run: c.run!,
        })),
    ),
    ...placesOf(me)
      .filter((p) => isFound(words, p.words))
      .map((p) => ({ id: p.to, group: "Places", words: p.words, beside: "", run: go(p.to) })),
    ...rows.slice(0, MOST).map((r) => ({
      id: r.id,
      group: "Packages",
      words: r.title,
      beside: `${r.number} · ${r.standing}`,
      run: go(`/packages/${r.id}`),
    })),
    ...(asked === "" ? [] : fitting(documents?.rows ?? [], areDocumentsOld)).slice(0, MOST).map((d) => ({
      id: d.id,
      group: "Documents",
      words: d.title,
      beside: `${d.number} ${d.revision}`,
      run: go(`/register/${d.id}`),
    })),
    ...(words.trim() === "" || me.isGuest ? [] : [...people.values()])
      .filter((p) => isFound(words, p.name, p.title))
      .slice(0, MOST)
      .map((p) => ({
        id: p.id,
        group: "People",
        words: p.name,
        beside: p.title,
        run: go(`/turnaround?standing=all&person=${p.id}`),
      })),
  ];
  const current = Math.max(
    0,
    offers.findIndex((o) => nameOf(o) === picked),
  );
  useEffect(() => {
    list.current?.querySelector("[aria-selected=true]")?.scrollIntoView({ block: "nearest" });
  }, [current]);
  const choose = (offer: Offer | undefined) => {
    if (!offer) return;
    onClose();
    // The dialog gives the focus back first: what is done may take it elsewhere.
    setTimeout(offer.run);
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Veil layer="z-[55]" />
        <Dialog.Content aria-describedby={undefined} onCloseAutoFocus={unlessGoneOn} className={findLook}>
          <Dialog.Title className="sr-only">Find or do</Dialog.Title>
          <FindField
            words={words}
            onWords={(next) => {
              setWords(next);
              setPicked(null);
            }}
            onEscape={onClose}
            aria-expanded
            aria-controls={`${id}-list`}
            aria-activedescendant={offers[current] ? `${id}-${current}` : undefined}
            onKeyDown={(e) => {
              const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
              if (step !== undefined && offers.length > 0) {
                e.preventDefault();
                setPicked(nameOf(offers[(current + step + offers.length) % offers.length]!));
              } else if (e.key === "Enter" && !e.nativeEvent.isComposing) {
                e.preventDefault();
                choose(offers[current]);
              }
            }}
          />
          <ul ref={list} role="listbox" id={`${id}-list`} aria-label="What was found" className="overflow-y-auto py-1">
            {offers.map((o, i) => (
              <li key={nameOf(o)} role="presentation">
                {offers[i - 1]?.group !== o.group && (
                  <span className="label block px-4 pt-2 pb-0.5" role="presentation">
                    {o.group}
                  </span>
                )}
                <div
                  id={`${id}-${i}`}
                  role="option"
                  aria-selected={i === current}
                  className={`flex cursor-pointer items-baseline gap-3 px-4 py-1.5 ${i === current ? "bg-picked shadow-[inset_3px_0_0_var(--color-spruce)]" : ""}`}
                  onPointerMove={() => setPicked(nameOf(o))}
                  onClick={() => choose(o)}
                >
                  <span className="min-w-0 flex-1 truncate">{o.words}</span>
                  <span className="shrink-0 font-mono text-sm text-soft">{o.beside}</span>
                </div>
              </li>
            ))}
          </ul>
          <p role="status" className="px-4 py-2 text-soft empty:hidden">
            {offers.length === 0 &&
              (isFetching || isTyping ? "Looking …" : "Nothing is called so. Try a part of a word.")}
          </p>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
