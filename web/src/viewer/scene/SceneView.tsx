import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api } from "../../api/client";
import { Button } from "../../ui/kit";
import { lazyPart } from "../../ui/lazyPart";
import { fetchFile } from "../surface/fetchFile";
import type { SceneProps } from "./sceneProps";

// The engine of models is fetched when one is opened.
const LoadedScene = lazyPart(async () => (await import("./LoadedScene")).LoadedScene);

/** A model of a draft: turned, neared and looked through by its tree; what is picked of it is measured. */
export function SceneView(props: SceneProps) {
  const { draft, leaf } = props;
  // Files that were missing may come: then it is another preparation, and no form of the one before is taken from the browser.
  const { prepared } = leaf;
  const { data, error, refetch } = useQuery({
    queryKey: ["scene", draft, leaf.position, prepared],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${leaf.position}/scene`, { prepared: String(prepared) }),
    staleTime: Infinity,
    meta: { saysItself: true },
  });
  const [bytes, setBytes] = useState<ArrayBuffer | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [share, setShare] = useState(0);
  const [tries, setTries] = useState(0);
  useEffect(() => {
    const stop = new AbortController();
    setBytes(null);
    setFault(null);
    setShare(0);
    fetchFile(`/api/drafts/${draft}/leaves/${leaf.position}/meshes?prepared=${prepared}`, setShare, stop.signal)
      .then(setBytes)
      .catch((e: Error) => {
        if (!stop.signal.aborted) setFault(e.message.replace("The sheet", "The model"));
      });
    return () => stop.abort();
  }, [draft, leaf.position, prepared, tries]);

  if (error ?? fault)
    return (
      <div role="alert" className="m-auto max-w-sm p-6 text-center">
        <p className="mb-3">{error?.message ?? fault}</p>
        <Button
          onClick={() => {
            void refetch();
            setTries((n) => n + 1);
          }}
        >
          Load again
        </Button>
      </div>
    );
  const waiting = (
    <div className="absolute inset-0 grid place-items-center">
      <img
        alt=""
        src={`/api/drafts/${draft}/leaves/${leaf.position}/picture?prepared=${prepared}`}
        className="absolute inset-0 h-full w-full object-contain p-6 opacity-60"
      />
      <div className="relative w-56 bg-table/80 p-2 text-center" role="status">
        Fetching the model …
        <div className="mt-2 h-1 bg-rule">
          <div className="h-1 bg-spruce" style={{ width: `${Math.round(share * 100)}%` }} />
        </div>
      </div>
    </div>
  );
  if (!data || !bytes) return waiting;
  return (
    <LoadedScene
      key={`${draft}/${leaf.position}/${prepared}/${tries}`}
      {...props}
      facts={data}
      bytes={bytes}
      coming={waiting}
    />
  );
}
