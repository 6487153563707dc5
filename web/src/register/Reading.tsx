import { useQuery } from "@tanstack/react-query";
import { Maximize, Search, ZoomIn, ZoomOut } from "lucide-react";
import { useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { PlaceBar } from "../ui/PlaceBar";
import { Unfetched } from "../ui/Unfetched";
import { Waiting } from "../ui/Waiting";
import { api } from "../api/client";
import { Button } from "../ui/kit";
import { exactly } from "../ui/time";
import { ScaleMenu } from "../viewer/scale/ScaleMenu";
import { ScalingLine, useScaling } from "../viewer/scale/useScaling";
import { SheetView } from "../viewer/SheetView";
import type { SheetHandle } from "../viewer/sheet";
import { isScene, isSheet, isTable, type NamedDocument, type Point } from "../api/types";
import { FindBox } from "../viewer/find/FindBox";
import { FoundMarks } from "../viewer/find/FoundMarks";
import { cornersOf, useFind } from "../viewer/find/useFind";
import { NamedCells } from "../viewer/named/NamedCells";
import { NamedMarks } from "../viewer/named/NamedMarks";
import { linksTo } from "../viewer/named/links";
import { useNamed } from "../viewer/named/useNamed";
import { NoSheet } from "../viewer/NoSheet";
import { SheetStrip } from "../viewer/SheetStrip";
import { SceneView } from "../viewer/scene/SceneView";
import { FoundCells } from "../viewer/table/FoundCells";
import { sheetsQuery } from "../viewer/sheetsQuery";
import { TableView } from "../viewer/table/TableView";

/** What a standing means to somebody who would build from the sheet; null when nothing warns. */
function warning(standing: string, stage: string): string | null {
  switch (standing) {
    case "released":
      return null;
    case "superseded":
      return "Superseded: a later revision is released. Do not use.";
    case "in review":
      return "In review: not released. Not for use on site.";
    case "returned":
      return "Returned: changes are asked for. Not for use on site.";
    case "withdrawn":
      return "Withdrawn. Do not use.";
    default:
      return `${stage ? stage[0]!.toUpperCase() + stage.slice(1) : "In work"}: not released. Not for use on site unless it was sent to you for that.`;
  }
}

/** Reading a document: its sheet, with its standing across the top whenever it is not released. */
export function Reading() {
  const { id } = useParams();
  // Another document that this one names begins anew.
  return <ReadingOf key={id} id={id!} />;
}

function ReadingOf({ id }: { id: string }) {
  const navigate = useNavigate();
  const sheet = useRef<SheetHandle>(null);
  // What is looked at stands in the address, so that a link shows the same.
  const [params, setParams] = useSearchParams();
  const position = Math.max(0, Number(params.get("sheet") ?? 1) - 1 || 0);
  const setPosition = (to: number) =>
    setParams(
      (now) => {
        now.set("sheet", `${to + 1}`);
        return now;
      },
      { replace: true },
    );
  const [place, setPlace] = useState<{ leaf: number; points: readonly Point[] } | null>(null);
  const { data, error } = useQuery({
    queryKey: ["document", id],
    queryFn: () => api.get(`/documents/${id}`),
    meta: { saysItself: true },
  });
  const draft = data?.document.draft;
  const { data: sheets } = useQuery({ ...sheetsQuery(draft ?? ""), enabled: draft !== undefined });
  const scaling = useScaling(draft ?? "", position);
  const named = useNamed(draft ?? "", position);
  const follow = ({ name }: NamedDocument) => void navigate(`/register/${name.document}/read`);
  const find = useFind({ draft: draft ?? "", leaf: position }, params.get("find") ?? "");
  if (!data || !draft)
    return error ? (
      <Unfetched title="This document could not be opened" error={error} />
    ) : (
      <Waiting>Opening the document …</Waiting>
    );
  const { document: d, drafts } = data;
  const leaf = sheets?.find((s) => s.position === position);
  const table = isTable(leaf) ? leaf : null;
  const scene = isScene(leaf) ? leaf : null;
  const words = warning(d.standing, d.stage);
  const released = drafts.find((w) => w.standing === "released");
  return (
    <>
      <PlaceBar
        name={`${d.number} ${d.title}`}
        title={
          <span className="flex items-center gap-3">
            <Link to={`/register/${d.id}`} className="font-normal text-soft hover:underline">
              Register
            </Link>
            <span aria-hidden className="text-rule">
              ›
            </span>
            <span className="truncate">{d.title}</span>
          </span>
        }
        beside={
          <span className="font-mono text-sm">
            {d.number} {d.revision}.{d.ordinal}
          </span>
        }
      >
        <Button aria-label="Find" title="Find words on the sheets (/)" onClick={find.open}>
          <Search size={15} />
        </Button>
        <Button aria-label="Zoom in" onClick={() => sheet.current?.zoom(1.4)}>
          <ZoomIn size={15} />
        </Button>
        <Button aria-label="Zoom out" onClick={() => sheet.current?.zoom(1 / 1.4)}>
          <ZoomOut size={15} />
        </Button>
        <Button aria-label="Fit" onClick={() => sheet.current?.fit()}>
          <Maximize size={15} />
        </Button>
      </PlaceBar>
      {words ? (
        <p
          role="status"
          className="flex items-center justify-center gap-4 border-b-2 border-rust bg-fault px-4 py-1.5 font-semibold text-fault-ink"
        >
          {words}
          {released && (
            <a className="font-normal underline" href={`/api/drafts/${released.id}/file`} download>
              Fetch the released {released.revision}.{released.ordinal}
            </a>
          )}
        </p>
      ) : (
        <p role="status" className="border-b border-ink bg-ink px-4 py-1 text-center text-raised">
          Released {drafts[0]?.releasedAt ? exactly(drafts[0].releasedAt) : ""}
        </p>
      )}
      <main className="flex min-h-0 flex-1 flex-col">
        <div className="relative min-h-0 flex-1 bg-table">
          <FindBox
            find={find}
            scopes={[
              { scope: "sheet", words: table ? "This table" : scene ? "This model" : "This sheet" },
              { scope: "document", words: "This document" },
            ]}
            onGo={(hit) => {
              setPosition(hit.leaf);
              setPlace({ leaf: hit.leaf, points: hit.covers.flatMap(cornersOf) });
            }}
          />
          <ScalingLine scaling={scaling} />
          {sheets?.length === 0 && <NoSheet draft={draft} />}
          {table && (
            <TableView
              handle={sheet}
              lookAt={place?.leaf === position ? place.points : null}
              draft={draft}
              leaf={table}
              onNote={null}
              overlay={(over) => (
                <>
                  <FoundCells find={find} draft={draft} leaf={position} over={over} />
                  <NamedCells links={linksTo(named, follow)} over={over} />
                </>
              )}
            />
          )}
          {scene && <SceneView handle={sheet} draft={draft} leaf={scene} />}
          {sheets?.length !== 0 && !table && !scene && (
            <SheetView
              handle={sheet}
              lookAt={place?.leaf === position ? place.points : null}
              draft={draft}
              leaf={isSheet(leaf) ? leaf : undefined}
              layersOn={null}
              onLayers={() => undefined}
              hand={scaling.isMeasuring ? scaling.hand : undefined}
              corner={isSheet(leaf) && <ScaleMenu key={leaf.position} draft={draft} leaf={leaf} scaling={scaling} />}
              overlay={(at) => (
                <>
                  <FoundMarks find={find} draft={draft} leaf={position} place={at} />
                  <NamedMarks links={linksTo(named, follow)} place={at} />
                  {scaling.overlay(at)}
                </>
              )}
            />
          )}
        </div>
        <SheetStrip draft={draft} sheets={sheets} position={position} onPick={setPosition} />
      </main>
    </>
  );
}
