import { pause, steadily } from "../api/again";
import { api, upload } from "../api/client";
import type { UploadState } from "../api/types";

/** Milliseconds until a line that broke is tried again, each time. */
export const AGAIN = [1000, 3000, 8000, 20_000];

/** Milliseconds until it is asked how far a file is read: at first, and at most. */
const [SOON, LATEST] = [250, 2000];

/**
 * Sends a file and waits until it is read or refused. Where the line breaks it goes on when it is back: what broke off while it was sent
 * is sent anew, what has arrived is not.
 * @param onShare how much of it has been sent, from 0 to 1
 * @param onState how far it is read
 */
export async function sendAndRead(
  file: File,
  onShare: (share: number) => void,
  onState: (state: UploadState) => void,
  stop: AbortSignal,
): Promise<UploadState> {
  let state = await steadily(
    () => {
      onShare(0);
      return upload<UploadState>(file, onShare, stop);
    },
    stop,
    AGAIN,
  );
  const { id } = state;
  for (let wait = SOON; state.state === "waiting" || state.state === "reading"; wait = Math.min(LATEST, wait * 1.3)) {
    onState(state);
    await pause(wait, stop);
    state = await steadily(() => api.get(`/uploads/${id}`), stop, AGAIN);
  }
  return state;
}
