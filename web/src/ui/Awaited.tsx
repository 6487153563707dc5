import { Unfetched } from "./Unfetched";
import { Waiting } from "./Waiting";

/** Whether a first answer is still to come: one that failed is not waited for, however often it is asked again. */
export const isFirstAwaited = (of: { data: unknown; failureCount: number }) =>
  of.data === undefined && of.failureCount === 0;

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
