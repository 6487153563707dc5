import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api } from "../api/client";
import { planOf, stepsOf, type DocumentDetail, type DocumentRow, type Preview } from "../api/types";
import { useSettled } from "../ui/useSettled";
import type { StripState } from "../strip/state";
import type { SendForm } from "./form";

/** A plan's strip before sending: every seat with the people who would fill it. */
const stripBefore = (preview: Preview): StripState => ({
  plan: planOf(preview),
  seats: preview.seats.map((s) => ({ ...s, signed: [] })),
  open: [],
  passed: [],
  released: false,
});

const rowsOf = (all: readonly { data: DocumentDetail | undefined }[]): DocumentRow[] =>
  all.flatMap((q) => (q.data ? [q.data.document] : []));

/** What a package would do as it is put together now: which plans fit, which way it would go, and what is known of its documents. */
export function usePlanned(form: SendForm, listed: readonly DocumentRow[]) {
  const { data: plans } = useQuery({ queryKey: ["plans"], queryFn: () => api.get("/plans") });
  const fitting = useQuery({
    queryKey: ["fitting", form.picked],
    queryFn: () => api.post("/plans/fitting", { documents: form.picked }),
    placeholderData: keepPreviousData,
    meta: { saysItself: true },
  });
  const fits = fitting.data;
  // What is picked is known whatever is searched for, and also when it came with the address or a prepared package.
  const pickedRows = useQueries({
    queries: form.picked.map((id) => ({
      queryKey: ["document", id],
      queryFn: () => api.get(`/documents/${id}`),
    })),
    combine: rowsOf,
  });
  const known = useMemo(
    () => new Map<string, DocumentRow>([...listed, ...pickedRows].map((d) => [d.id, d])),
    [listed, pickedRows],
  );
  const likely = fits?.find((f) => !f.misfit) ?? fits?.[0];
  const chosen = plans?.find((p) => p.id === form.planId) ?? plans?.find((p) => p.id === likely?.id);
  const plan = chosen && planOf(chosen);
  const answers = useSettled(form.answers);
  const { data: preview } = useQuery({
    queryKey: ["preview", chosen?.id, form.picked, answers, form.chosen],
    queryFn: () =>
      api.post("/plans/preview", {
        plan: null,
        planId: chosen!.id,
        documents: form.picked,
        answers,
        chosen: form.chosen,
      }),
    enabled: chosen !== undefined,
    placeholderData: keepPreviousData,
  });
  const strip = useMemo(() => (preview ? stripBefore(preview) : null), [preview]);
  /** Seats that the sender fills. */
  const openSeats = plan
    ? stepsOf(plan).flatMap((s) =>
        s.seats.flatMap((seat) => (seat.holder.holder === "chosen" ? [{ s, seat, group: seat.holder.group }] : [])),
      )
    : [];
  /** When steps ask the sender whom to tell. */
  const asked = plan
    ? stepsOf(plan).flatMap((s) => (s.tells ?? []).filter((t) => t.asksSender).map((t) => ({ step: s, at: t.at })))
    : [];
  const firstStep = strip && stepsOf(strip.plan)[0];
  const first = strip
    ? [...new Set(strip.seats.filter((s) => firstStep?.seats.some((x) => x.key === s.key)).flatMap((s) => s.people))]
    : [];
  return { plans, fitting, fits, known, chosen, plan, preview, strip, openSeats, asked, first };
}

export type Planned = ReturnType<typeof usePlanned>;
