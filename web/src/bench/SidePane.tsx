import { useQuery } from "@tanstack/react-query";
import { Link2, Link2Off, X } from "lucide-react";
import { useMemo, useRef } from "react";
import { api } from "../api/client";
import { isScene, isSheet, isTable, type NoteRow, type PackageView } from "../api/types";
import { SignButton } from "../ui/SignButton";
import { markOf } from "../viewer/markup/marking";
import { NamedCells } from "../viewer/named/NamedCells";
import { NamedMarks } from "../viewer/named/NamedMarks";
import { valueOn } from "../viewer/measure";
import { NoSheet } from "../viewer/NoSheet";
import { ScaleMenu } from "../viewer/scale/ScaleMenu";
import { SheetView } from "../viewer/SheetView";
import type { SheetHandle } from "../viewer/sheet";
import { SceneView } from "../viewer/scene/SceneView";
import { emptyHand } from "../viewer/tools/inHand";
import { TableView } from "../viewer/table/TableView";
import type { Together } from "../viewer/camera/together";
import { sheetsQuery } from "../viewer/sheetsQuery";
import { looksOf, lyingOf } from "./lying";
import type { Lying } from "./lying";
import { Overlay } from "./Overlay";
import { lyingOn } from "./useMarking";
import { RangeMarks } from "./RangeMarks";
import type { Panes } from "./usePanes";
import { pictureOf, type Beside } from "./useShown";

type Props = {
  p: PackageView;
  panes: Panes;
  at: Beside;
  onChange: (at: Beside | null) => void;
  together: Together | null;
  setTogether: (together: boolean) => void;
  pickedNote: string | null;
  onPick: (note: NoteRow) => void;
};

/** A second leaf to look at beside the first: any sheet, table or model of any draft in the package, or of a document that one of them names. */
export function SidePane({ p, panes, at, onChange, together, setTogether, pickedNote, onPick }: Props) {
  const handle = useRef<SheetHandle>(null);
  const { data: leaves, error } = useQuery({ ...sheetsQuery(at.draft), meta: { saysItself: true } });
  const isOfPackage = p.items.some((i) => i.draft === at.draft || i.earlierDrafts.some((e) => e.draft === at.draft));
  const { data: outside } = useQuery({
    queryKey: ["draft", at.draft],
    queryFn: () => api.get(`/drafts/${at.draft}`),
    enabled: !isOfPackage,
    meta: { saysItself: true },
  });
  const { data: drawn } = useQuery(lyingOn(at.draft));
  const byId = useMemo(() => new Map(p.notes.map((n) => [n.id, n])), [p.notes]);
  const leaf = leaves?.find((l) => l.position === at.leaf) ?? leaves?.[0];
  const valueOf = useMemo(() => valueOn(leaf), [leaf]);
  const marks = leaf
    ? lyingOf(
        leaf.position,
        drawn?.overlays.flatMap((o) => o.markups.map(markOf)) ?? [],
        [],
        byId,
        looksOf(drawn?.overlays ?? [], null),
      )
    : [];
  const pick = (m: Lying) => m.note && onPick(m.note);
  return (
    <section aria-label="Beside" className="flex min-w-0 flex-1 flex-col border-l-2 border-ink">
      <div className="flex h-10 shrink-0 items-center gap-2 border-b border-rule bg-ground px-2">
        <select
          aria-label="Document beside"
          className="field min-w-0 flex-1"
          value={at.draft}
          onChange={(e) => onChange({ draft: e.target.value, leaf: 0 })}
        >
          {!isOfPackage && (
            <option value={at.draft}>
              {outside
                ? `${outside.number} ${outside.label} ${outside.title}, not in this package`
                : "Another document"}
            </option>
          )}
          {p.items.flatMap((i) => [
            <option key={i.draft} value={i.draft}>
              {i.number} {i.revision}.{i.ordinal} {i.title}
            </option>,
            ...[...i.earlierDrafts].reverse().map((e) => (
              <option key={e.draft} value={e.draft}>
                {i.number} {i.revision}.{e.ordinal}, round {e.round}
              </option>
            )),
          ])}
        </select>
        {leaves && leaves.length > 1 && (
          <select
            aria-label="Sheet beside"
            className="field"
            style={{ width: 120, flex: "none" }}
            value={leaf?.position}
            onChange={(e) => onChange({ ...at, leaf: Number(e.target.value) })}
          >
            {leaves.map((l) => (
              <option key={l.position} value={l.position}>
                {l.name}
              </option>
            ))}
          </select>
        )}
        <SignButton
          words={together ? "Moves together; press to part them" : "Move both together"}
          pressed={together !== null}
          onClick={() => setTogether(!together)}
        >
          {together ? <Link2 size={16} /> : <Link2Off size={16} />}
        </SignButton>
        <SignButton words="Close this pane" onClick={() => onChange(null)}>
          <X size={16} />
        </SignButton>
      </div>
      <div className="relative min-h-0 flex-1 bg-table">
        {error && (
          <p role="alert" className="m-auto max-w-sm p-6 text-center">
            {error.message}
          </p>
        )}
        {leaves?.length === 0 && <NoSheet draft={at.draft} />}
        {isTable(leaf) && (
          <TableView
            handle={handle}
            draft={at.draft}
            leaf={leaf}
            together={together}
            onNote={null}
            overlay={(over) => (
              <>
                <RangeMarks marks={marks} over={over} pickedMark={null} pickedNote={pickedNote} onPick={pick} />
                <NamedCells links={panes.besideLinks} over={over} />
              </>
            )}
          />
        )}
        {isScene(leaf) && (
          <SceneView
            isSecond
            handle={handle}
            draft={at.draft}
            leaf={leaf}
            lookAt={panes.look.beside}
            onNumbers={panes.onNumbers}
          />
        )}
        {!error && leaves?.length !== 0 && !isTable(leaf) && !isScene(leaf) && (
          <SheetView
            handle={handle}
            isSecond
            draft={at.draft}
            leaf={isSheet(leaf) ? leaf : undefined}
            layersOn={null}
            onLayers={() => undefined}
            together={together}
            pictureOf={(file) => pictureOf(p, file)}
            corner={isSheet(leaf) && <ScaleMenu draft={at.draft} leaf={leaf} scaling={null} />}
            overlay={(place, unit) => (
              <>
                <NamedMarks links={panes.besideLinks} place={place} />
                <Overlay
                  draft={at.draft}
                  marks={marks}
                  inHand={emptyHand}
                  place={place}
                  unit={unit}
                  valueOf={valueOf}
                  pickedMark={null}
                  pickedNote={pickedNote}
                  onPick={pick}
                />
              </>
            )}
          />
        )}
      </div>
    </section>
  );
}
