import { QueryClient, type InvalidateOptions, type InvalidateQueryFilters, type QueryKey } from "@tanstack/react-query";

/**
 * What was asked of the server. A first answer that is under way while something is done may be of before that, and would be taken for
 * what was asked for afterwards: it is not waited for where somebody looks, and old as it comes where nobody does.
 */
export class Queries extends QueryClient {
  override async invalidateQueries<Key extends QueryKey = QueryKey>(
    filters: InvalidateQueryFilters<Key> = {},
    options: InvalidateOptions = {},
  ): Promise<void> {
    if (options.cancelRefetch !== false)
      for (const query of this.getQueryCache().findAll(filters)) {
        if (query.state.data !== undefined || query.state.fetchStatus !== "fetching") continue;
        const isOld = () => query.invalidate();
        if (query.isActive() && filters.refetchType !== "none") void query.cancel({ silent: true });
        else void query.promise?.then(isOld, isOld);
      }
    await super.invalidateQueries(filters, options);
  }
}
