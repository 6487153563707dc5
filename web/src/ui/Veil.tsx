/**
 * What lies between the page and a dialog over it. The primitive's own would lock the page's scrolling by a style that
 * every element of the page inherits; here the page itself never scrolls, and what it shows need not be styled anew.
 */
export const Veil = ({ layer = "z-40" }: { layer?: string }) => (
  <div className={`pointer-events-auto fixed inset-0 bg-veil ${layer}`} />
);
