/** Gives the keys to the sheet, or to what stands in its place. */
export const focusSheet = () => document.getElementById("sheet")?.focus();
