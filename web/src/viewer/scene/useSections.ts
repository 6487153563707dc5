import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState, type RefObject } from "react";
import { api } from "../../api/client";
import type { SectionCut } from "../../api/types";
import type { SceneDrawing } from "./drawing";
import type { SceneProps } from "./sceneProps";
import type { V3 } from "../camera/eye";
import {
  acrossAxis,
  askedOf,
  cuttingOf,
  flipped,
  nextName,
  stretchWords,
  throughPoints,
  turnedTo,
  type AcrossAxis,
  type Cutting,
  type SectionPlane,
} from "./sections";

/** How long a plane rests before it is filled, milliseconds. */
const REST = 160;
/** Most sections of a model: as many as a note's eye holds (PinEye.MostSections). */
const MOST = 12;

export type Sections = {
  all: readonly SectionPlane[];
  /** The planes that cut, and what they cut as far as the server has said; none while they move. */
  cutting: readonly Cutting[];
  cuts: readonly SectionCut[] | undefined;
  /** Whether there are as many as a note or a kept view holds. */
  isFull: boolean;
  /** Which one is being set; null for none. */
  chosen: SectionPlane | null;
  choose: (id: string | null) => void;
  /** Whether what is taken away is seen as a ghost. */
  isVeiled: boolean;
  setVeiled: (isVeiled: boolean) => void;
  addAcross: (axis: AcrossAxis) => void;
  add: (plane: Cutting) => void;
  change: (id: string, change: Partial<SectionPlane>) => void;
  flip: (id: string) => void;
  remove: (id: string) => void;
  /** Cuts by some planes alone, as a note saw them; the others stay, and are left out. */
  set: (planes: readonly Omit<SectionPlane, "id" | "name" | "isOn">[]) => void;
  /** Sets all of them anew, as a view was kept. */
  setAll: (planes: readonly SectionPlane[]) => void;
  /** Points that were pressed for a plane through three; null while none is wanted. */
  points: readonly V3[] | null;
  wantPoints: (isWanted: boolean) => void;
  addPoint: (point: V3, back: V3) => void;
  /** What the chosen plane cuts; undefined while that is found. */
  cut: SectionCut | undefined;
  fault: string | null;
};

type Given = {
  draft: string;
  position: number;
  box: readonly number[];
  /** Components that are not there to be cut. */
  without: ReadonlySet<number>;
  /** Whether the model is taken apart: then it cannot be cut. */
  isApart: boolean;
  drawing: RefObject<SceneDrawing | null>;
  /** Those it was left with, as long as the page is open; null where it was not looked at yet. */
  begun: readonly SectionPlane[] | null;
  /** Where they are kept between visits. */
  kept: SceneProps["keptSections"];
};

/** The sections of a model that is looked at: set here, found by the server, drawn. */
export function useSections({ draft, position, box, without, isApart, drawing, ...given }: Given): Sections {
  // What was set on an earlier visit is there by its name, and cuts when it is switched on.
  const begun = given.begun ?? given.kept?.now.map((s) => ({ ...s, isOn: false })) ?? [];
  const [all, setAll] = useState<readonly SectionPlane[]>(begun);
  const [chosenId, choose] = useState<string | null>(begun[0]?.id ?? null);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- where they are kept goes with the model
  useEffect(() => given.kept?.keep(all), [all]);
  const [isVeiled, setVeiled] = useState(false);
  const [points, setPoints] = useState<readonly V3[] | null>(null);
  // By what it says: a section that gets another name cuts as before.
  const told = JSON.stringify(isApart ? [] : cuttingOf(all));
  const cutting = useMemo(() => JSON.parse(told) as Cutting[], [told]);
  const left = useMemo(() => stretchWords(without), [without]);
  useEffect(() => drawing.current?.setSections(cutting, isVeiled), [drawing, cutting, isVeiled, left]);

  // What is filled follows once the hand rests: it comes from the server.
  const [settled, setSettled] = useState({ cutting, left });
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled({ cutting, left }), REST);
    return () => clearTimeout(timer);
  }, [cutting, left]);
  const { data, error } = useQuery({
    queryKey: ["section", draft, position, settled],
    queryFn: async () => {
      // One after the other: many at once would be more than a person may have under way.
      const found: SectionCut[] = [];
      for (const c of settled.cutting)
        found.push(await api.get(`/drafts/${draft}/leaves/${position}/section`, askedOf(c, settled.left)));
      return found;
    },
    enabled: settled.cutting.length > 0,
    staleTime: Infinity,
    retry: 1,
    meta: { saysItself: true },
  });
  const isSettled = settled.cutting === cutting && settled.left === left;
  const cuts = isSettled ? data : undefined;
  useEffect(() => {
    if (cuts) drawing.current?.fillSections(cuts);
  }, [drawing, cuts, isVeiled]);

  const chosen = all.find((s) => s.id === chosenId) ?? null;
  const change = (id: string, by: (s: SectionPlane) => SectionPlane) =>
    setAll((was) => was.map((s) => (s.id === id ? by(s) : s)));
  const isFull = all.length >= MOST;
  const add = (plane: Cutting) => {
    if (isFull) return;
    const id = crypto.randomUUID();
    setAll((was) => [...was, { ...plane, id, name: nextName(was.map((s) => s.name)), thickness: null, isOn: true }]);
    choose(id);
  };
  return {
    all,
    isFull,
    chosen,
    choose,
    isVeiled,
    setVeiled,
    add,
    addAcross: (axis) => add(acrossAxis(axis, box)),
    change: (id, by) => change(id, (s) => ({ ...s, ...by })),
    flip: (id) => change(id, flipped),
    remove: (id) => {
      setAll((was) => was.filter((s) => s.id !== id));
      if (id === chosenId) choose(all.find((s) => s.id !== id)?.id ?? null);
    },
    set: (planes) => {
      const anew = turnedTo(all, planes, () => crypto.randomUUID());
      setAll(anew);
      choose((anew.find((s) => s.isOn) ?? anew[0])?.id ?? null);
    },
    setAll: (planes) => {
      setAll(planes);
      choose(planes[0]?.id ?? null);
    },
    points,
    wantPoints: (isWanted) => setPoints(isWanted ? [] : null),
    addPoint: (point, back) => {
      const now = [...(points ?? []), point];
      const [a, b, c] = now;
      if (!a || !b || !c) {
        setPoints(now);
        return;
      }
      const plane = throughPoints([a, b, c], back);
      // Three that lie in a line leave the plane open: the last is asked for again.
      setPoints(plane ? null : [a, b]);
      if (plane) add(plane);
    },
    ...{ cutting, cuts },
    // A slice has two planes in the list; the chosen one's own comes first.
    cut: chosen?.isOn ? cuts?.[cuttingOf(all.slice(0, all.indexOf(chosen))).length] : undefined,
    fault: error && isSettled ? error.message : null,
  };
}
