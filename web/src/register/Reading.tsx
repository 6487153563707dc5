import { useQuery } from "@tanstack/react-query";
import { Maximize, ZoomIn, ZoomOut } from "lucide-react";
import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { PlaceBar } from "../ui/PlaceBar";
import { api } from "../api/client";
import { Button, Empty } from "../ui/kit";
import { exactly } from "../ui/time";
import { SheetView, type SheetHandle } from "../viewer/SheetView";
import { SheetTabs } from "../viewer/SheetTabs";

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
  const sheet = useRef<SheetHandle>(null);
  const [position, setPosition] = useState(0);
  const { data, error } = useQuery({
    queryKey: ["document", id],
    queryFn: () => api.get(`/documents/${id}`),
    meta: { saysItself: true },
  });
  const draft = data?.document.draft;
  const { data: sheets } = useQuery({
    queryKey: ["sheets", draft],
    queryFn: () => api.get(`/drafts/${draft}/leaves`),
    enabled: draft !== undefined,
    staleTime: Infinity,
  });
  if (!data || !draft) return error ? <Empty title="This document could not be opened">{error.message}</Empty> : null;
  const { document: d, drafts } = data;
  const words = warning(d.standing, d.stage);
  const released = drafts.find((w) => w.standing === "released");
  return (
    <>
      <PlaceBar
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
          className="flex items-center justify-center gap-4 border-b-2 border-rust bg-[#f7ebe4] px-4 py-1.5 font-semibold text-[#7d3216]"
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
      <main className="relative min-h-0 flex-1 bg-table">
        <SheetTabs sheets={sheets} position={position} onPick={setPosition} />
        <SheetView
          handle={sheet}
          draft={draft}
          position={position}
          layersOn={null}
          onLayers={() => undefined}
          overlay={() => null}
        />
      </main>
    </>
  );
}
