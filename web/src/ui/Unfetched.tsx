import { Button, Empty } from "./kit";
import { useLoadAgain } from "./useLoadAgain";

/** A place, or a part of one, that could not be fetched: what went wrong, and asking again. */
export function Unfetched({ title, error }: { title: string; error: Error }) {
  const loadAgain = useLoadAgain();
  return (
    <div role="alert" className="m-auto">
      <Empty title={title}>
        <p className="mb-4">{error.message}</p>
        <Button look="main" onClick={loadAgain}>
          Load again
        </Button>
      </Empty>
    </div>
  );
}
