import { Button, Empty } from "./kit";

/** A place, or a part of one, that could not be fetched: what went wrong, and asking again. */
export function Unfetched({ title, error, onAgain }: { title: string; error: Error; onAgain: () => void }) {
  return (
    <div role="alert" className="m-auto">
      <Empty title={title}>
        <p className="mb-4">{error.message}</p>
        <Button look="main" onClick={onAgain}>
          Load again
        </Button>
      </Empty>
    </div>
  );
}
