import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { isSheet, type PackageView } from "../api/types";
import { packageQuery } from "../slip/packageQuery";
import { Afterwards } from "../ui/Afterwards";
import { Unfetched } from "../ui/Unfetched";
import { Waiting } from "../ui/Waiting";
import { SheetStrip } from "../viewer/SheetStrip";
import { BenchBar } from "./BenchBar";
import { FilesMenu } from "./FilesMenu";
import { ItemList } from "./ItemList";
import { OverlaysMenu } from "./OverlaysMenu";
import { ReviewSide, SIDE } from "./ReviewSide";
import { RoundLine } from "./RoundLine";
import { SidePane } from "./SidePane";
import { Stage } from "./Stage";
import { useBench } from "./useBench";
import { usePanes } from "./usePanes";

export function Bench() {
  const { id } = useParams();
  const { data, error } = useQuery({ ...packageQuery(id!), meta: { saysItself: true } });
  // What could not be fetched anew takes nothing away that somebody is typing.
  if (data) return <LoadedBench key={data.id} p={data} />;
  if (!error) return <Waiting>Opening the package …</Waiting>;
  return <Unfetched title="This package could not be opened" error={error} />;
}

function LoadedBench({ p }: { p: PackageView }) {
  const b = useBench(p);
  const { draft, state, act } = b;
  const panes = usePanes(b);
  return (
    <div className="flex min-h-0 flex-1 flex-col" data-keys="bench">
      <BenchBar
        p={p}
        onFind={b.find.open}
        isBeside={b.beside !== null}
        onBeside={b.showBeside}
        layers={b.layers}
        setLayers={b.setLayers}
        overlays={
          <OverlaysMenu
            draft={draft}
            overlays={b.overlays}
            mayDraw={b.canDraw}
            carried={b.carried.length}
            fromFile={b.fileMarks.length}
            hidden={state.hidden}
            setHidden={(hidden) => act({ does: "hide", hidden })}
            active={b.drawnOn}
            setActive={(overlay) => act({ does: "draw on", overlay })}
            mayShare={b.mayShare}
            onMove={(from, to) =>
              b.marking.move(
                from.markups.map((m) => m.id),
                to.id,
              )
            }
          />
        }
        files={
          <FilesMenu
            package={p.id}
            draft={draft}
            leaf={b.leaf?.position ?? 0}
            isSheet={isSheet(b.leaf)}
            mayBring={p.may.bringIn}
            fromFile={b.fileMarks.length}
            hidden={state.hidden}
          />
        }
      />
      <main className="flex min-h-0 flex-1 max-[900px]:flex-col max-[900px]:overflow-y-auto">
        <ItemList
          p={p}
          index={b.index}
          choices={b.verdicts.value}
          onOpen={b.open}
          drawn={b.drawn}
          others={b.here}
          isNarrow={b.beside !== null}
        />
        <div className="flex min-w-0 flex-1 flex-col bg-table max-[900px]:h-[72dvh] max-[900px]:flex-none">
          <div className="flex min-h-0 flex-1">
            <Stage b={b} panes={panes} />
            {b.beside && (
              <SidePane
                p={p}
                panes={panes}
                at={b.beside}
                onChange={b.setBeside}
                together={b.together}
                setTogether={b.setTogetherOn}
                pickedNote={state.pickedNote}
                onPick={(n) => act({ does: "pick mark", mark: null, note: n.id })}
              />
            )}
          </div>
          <SheetStrip draft={draft} sheets={b.sheets} position={b.position} onPick={b.setPosition} />
          <RoundLine p={p} item={b.item} draft={draft} onDraft={b.setDraftOf} />
        </div>
        <Afterwards meanwhile={<div className={SIDE} />}>{() => <ReviewSide b={b} />}</Afterwards>
      </main>
    </div>
  );
}
