import { useEffect, useLayoutEffect, useRef, useState } from "react";
import type { SheetLeaf } from "../api/types";
import { Button } from "../ui/kit";
import { Waiting } from "../ui/Waiting";
import { ComingSheet } from "./ComingSheet";
import { LoadedSheet } from "./LoadedSheet";
import { PlacedPictures } from "./placed/PlacedPictures";
import { SeenPill } from "./seen/SeenPill";
import { SeenShade } from "./seen/SeenShade";
import { useShading } from "./seen/shading";
import { useSeen } from "./seen/useSeen";
import type { SheetProps } from "./sheet";
import { openSurface } from "./surface/openSurface";
import type { Surface } from "./surface/surface";

/** One sheet that can be panned, zoomed and drawn on. The page never waits for the drawing: the last picture moves with the hand. */
export function SheetView(props: SheetProps) {
  const { draft, leaf } = props;
  const [opened, setOpened] = useState<{ frame: SheetLeaf["frame"]; sheet: Surface } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [share, setShare] = useState(0);
  const [tries, setTries] = useState(0);
  const again = () => setTries((n) => n + 1);
  // Whatever the caller gives anew with each of its renders, the sheet is fetched once.
  const onLayers = useRef(props.onLayers);
  useLayoutEffect(() => {
    onLayers.current = props.onLayers;
  });

  // What else is told of a sheet, such as its scale, may change while it is looked at; what is drawn hangs on its frame alone.
  const { seen, report } = useSeen(draft, leaf);
  const isShading = useShading();
  const frame = leaf?.frame;
  const latest = useRef(leaf);
  useLayoutEffect(() => {
    latest.current = leaf;
  });
  useEffect(() => {
    const stop = new AbortController();
    setOpened(null);
    setFault(null);
    setShare(0);
    if (frame && latest.current)
      openSurface(draft, latest.current, setShare, stop.signal)
        .then((sheet) => {
          if (stop.signal.aborted) return;
          onLayers.current(sheet.layers.map(({ name, isOn }) => ({ name, isOn })));
          setOpened({ frame, sheet });
        })
        .catch((e: Error) => {
          if (!stop.signal.aborted) setFault(e.message);
        });
    return () => stop.abort();
  }, [draft, leaf?.position, frame, tries]);

  if (fault)
    return (
      <div role="alert" className="m-auto max-w-sm p-6 text-center">
        <p className="mb-3">{fault}</p>
        <Button onClick={again}>Load again</Button>
      </div>
    );
  // What was open before is not shown for a moment under the next one's name.
  if (!leaf) return <Waiting>Fetching the sheet …</Waiting>;
  if (!opened || opened.frame !== frame)
    return (
      <ComingSheet
        key={`${draft}/${leaf.position}`}
        draft={draft}
        leaf={leaf}
        lookAt={props.lookAt}
        share={share}
        onShown={props.onShown}
        onLaid={props.onLaid}
      />
    );
  return (
    <LoadedSheet
      key={`${draft}/${leaf.position}/${tries}`}
      onAgain={again}
      {...props}
      corner={
        <>
          {seen && <SeenPill seen={seen} />}
          {props.corner}
        </>
      }
      under={(place, on) =>
        leaf.frame.pictures &&
        props.pictureOf && (
          <PlacedPictures pictures={leaf.frame.pictures} pictureOf={props.pictureOf} layersOn={on} place={place} />
        )
      }
      overlay={(place, unit) => (
        <>
          {seen && isShading && <SeenShade seen={seen} frame={leaf.frame} place={place} />}
          {props.overlay(place, unit)}
        </>
      )}
      restSeconds={seen?.seconds ?? null}
      onRest={report}
      position={leaf.position}
      sheet={opened.sheet}
      grid={leaf.grid ?? null}
      scales={leaf.scales}
    />
  );
}
