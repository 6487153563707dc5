import { useQuery } from "@tanstack/react-query";
import { Columns2, ScrollText, Search, Signpost } from "lucide-react";
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import { api } from "../api/client";
import type { PackageView } from "../api/types";
import { PinButton } from "../kept/PinButton";
import { Afterwards } from "../ui/Afterwards";
import { RoundTag, StandingTag } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { PlaceBar } from "../ui/PlaceBar";
import { HistoryList } from "../slip/History";
import { LayersMenu, type LayerOn } from "./LayersMenu";
import { SlipActs } from "./SlipActs";

type Props = {
  p: PackageView;
  onFind: () => void;
  isBeside: boolean;
  onBeside: () => void;
  layers: readonly LayerOn[];
  setLayers: (layers: LayerOn[]) => void;
  overlays: ReactNode;
  files: ReactNode;
};

/** What package lies on the bench, and what can be done with all of it. */
export function BenchBar({ p, onFind, isBeside, onBeside, layers, setLayers, overlays, files }: Props) {
  const [ledger, setLedger] = useState(false);
  const [acting, setActing] = useState(false);
  return (
    <>
      <PlaceBar
        name={`${p.number} ${p.title}`}
        title={
          <span className="flex items-center gap-3">
            <Link to="/" className="font-normal text-soft hover:underline">
              Desk
            </Link>
            <span aria-hidden className="text-rule">
              ›
            </span>
            <span className="truncate">{p.title}</span>
          </span>
        }
        beside={
          <span className="flex items-center gap-3">
            <span className="font-mono text-sm">{p.number}</span>
            <RoundTag round={p.round} />
            <StandingTag standing={p.standing} />
            <PinButton kind="package" id={p.id} name={p.number} />
          </span>
        }
      >
        <Afterwards>
          {() => (
            <>
              <BarButton title="Find words on the sheets (/)" onClick={onFind}>
                <Search size={15} /> <Words>Find</Words>
              </BarButton>
              <BarButton title="Show another sheet or table beside this one (B)" pressed={isBeside} onClick={onBeside}>
                <Columns2 size={15} /> <Words>Beside</Words>
              </BarButton>
              {layers.length > 0 && <LayersMenu layers={layers} onChange={setLayers} />}
              {overlays}
              {files}
              <BarButton onClick={() => setLedger(true)}>
                <ScrollText size={15} /> <Words>Ledger</Words>
              </BarButton>
              <BarButton onClick={() => setActing(true)}>
                <Signpost size={15} /> <Words>Change the route</Words>
              </BarButton>
              <SlipActs p={p} open={acting} onClose={() => setActing(false)} />
            </>
          )}
        </Afterwards>
      </PlaceBar>
      <SideSheet title={`Ledger of ${p.number}`} open={ledger} onClose={() => setLedger(false)}>
        <PackageLedger id={p.id} />
      </SideSheet>
    </>
  );
}

/** On a phone the sign alone shows; the words are said. */
function Words({ children }: { children: ReactNode }) {
  return <span className="max-[700px]:sr-only">{children}</span>;
}

type BarButtonProps = { title?: string; pressed?: boolean; onClick: () => void; children: ReactNode };

function BarButton({ title, pressed, onClick, children }: BarButtonProps) {
  return (
    <button
      type="button"
      title={title}
      aria-pressed={pressed}
      className={`inline-flex min-h-8 items-center gap-2 rounded-[5px] border px-2.5 font-medium whitespace-nowrap ${pressed ? "border-ink bg-ink text-raised" : "border-edge bg-raised hover:bg-lit"}`}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

function PackageLedger({ id }: { id: string }) {
  const { data } = useQuery({
    queryKey: ["package", id, "ledger"],
    queryFn: () => api.get(`/packages/${id}/ledger`),
  });
  return data ? <HistoryList entries={data} /> : <p role="status">Fetching the ledger …</p>;
}
