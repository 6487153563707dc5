import { Unfetched } from "./Unfetched";
import { Waiting } from "./Waiting";

/**
 * What stands in the place of something until it is there: that it is being fetched, or why it could not be. Nothing once it is there.
 * The query says itself what failed (`saysItself`), so that the page does not say it a second time.
 */
export function Awaited({ what, of }: { what: string; of: { data: unknown; error: Error | null } }) {
  if (of.data !== undefined) return null;
  return of.error ? (
    <Unfetched title={`${what[0]!.toUpperCase()}${what.slice(1)} could not be fetched`} error={of.error} />
  ) : (
    <Waiting>Fetching {what} …</Waiting>
  );
}
