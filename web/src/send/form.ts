import { newKey } from "../api/key";
import type { Telling } from "../api/types";
import { useKept } from "../kept/useKept";
import { nothingSaid, type Saying } from "../slip/WhoHears";

/** A package as it is being put together, kept until it is sent or put aside. */
export type SendForm = {
  /** By which the server sends it once, however often the button is pressed; with each document where each goes alone. */
  key: string;
  keys: Readonly<Record<string, string>>;
  picked: readonly string[];
  planId: string | null;
  title: string;
  note: string;
  /** Number of the change order that it carries out. */
  changeOrder: string;
  inform: readonly string[];
  answers: Readonly<Record<string, string>>;
  /** Who signs in seats that the sender fills, by seat. */
  chosen: Readonly<Record<string, string>>;
  /** Whom the sender names to hear, by step and moment. */
  told: Readonly<Record<string, readonly string[]>>;
  say: Saying;
  /** Whether each document goes in a package of its own. */
  isApart: boolean;
  /** The prepared package it comes from, or is put aside as. */
  prepared: string | null;
};

/** The same each time: what is asked for them waits until they have not changed for a while. */
const noAnswers: Readonly<Record<string, string>> = {};

const empty = (picked: readonly string[]): SendForm => ({
  key: newKey(),
  keys: {},
  picked,
  planId: null,
  title: "",
  note: "",
  changeOrder: "",
  inform: [],
  answers: noAnswers,
  chosen: {},
  told: {},
  say: nothingSaid,
  isApart: false,
  prepared: null,
});

/** The form for these documents, or for a prepared package. */
export function useSendForm(documents: readonly string[], prepared: string | null) {
  const kept = useKept<SendForm | null>(`sending ${prepared ?? documents.join(" ")}`, null);
  const form = { ...empty(documents), ...kept.value };
  const set = (patch: Partial<SendForm>) => kept.set((was) => ({ ...(was ?? form), ...patch }));
  return { form, set, discard: kept.discard, isKept: kept.isKept };
}

/** Where in the form the people are kept whom a step tells at a moment. */
export const toldAt = (step: string, at: Telling["at"]) => `${step} ${at}`;
