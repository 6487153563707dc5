/** Where the picture of a leaf is to be had that the server made when it was read. */
export const picturePath = (draft: string, position: number) => `/api/drafts/${draft}/leaves/${position}/picture`;
