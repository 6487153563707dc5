/** A refusal by the server: `message` is its sentence for the person, `code` is stable. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly code: string,
    readonly status: number,
  ) {
    super(message);
  }
}

let formToken = "";
let owner: string | null = null;
/** Keeps what requests that change something must carry, and whose page this is. */
export function keepFormToken(token: string, person: string | null) {
  formToken = token;
  owner = person;
}

/** A token for the session as it is now; false when the page belongs to somebody else by now, so that nothing is done in their name. */
async function renewToken(): Promise<boolean> {
  const response = await fetch("/api/session");
  if (!response.ok) return false;
  const session = (await response.json()) as { person: { id: string } | null; formToken: string };
  if (session.person?.id !== owner) {
    window.dispatchEvent(new Event("froe-signed-out"));
    return false;
  }
  formToken = session.formToken;
  return true;
}

async function answer<T>(response: Response): Promise<T> {
  if (response.ok) {
    const text = await response.text();
    return (text === "" ? undefined : JSON.parse(text)) as T;
  }
  const problem = (await response.json().catch(() => null)) as { title?: string; code?: string } | null;
  if (response.status === 401) window.dispatchEvent(new Event("froe-signed-out"));
  const fallback =
    response.status === 401
      ? "Your session has ended. Sign in again; what you typed stays here."
      : "The server could not do this. Try again; if it keeps failing, tell your administrator.";
  throw new Refusal(problem?.title ?? fallback, problem?.code ?? "unknown", response.status);
}

async function send<T>(method: string, path: string, body?: unknown, again = false): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: { "X-Froe-Form": formToken, ...(body === undefined ? {} : { "Content-Type": "application/json" }) },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new Refusal("The server cannot be reached. Check the connection and try again.", "offline", 0);
  }
  // The same person signed in anew in another window: this page's token is old, what it asks for is not.
  if (response.status === 400 && !again && method !== "GET") {
    const problem = (await response
      .clone()
      .json()
      .catch(() => null)) as { code?: string } | null;
    if (problem?.code === "stale-page" && (await renewToken())) return send<T>(method, path, body, true);
  }
  return answer<T>(response);
}

export const api = {
  get: <T>(path: string) => send<T>("GET", path),
  post: <T>(path: string, body: unknown) => send<T>("POST", path, body),
  put: <T>(path: string, body: unknown) => send<T>("PUT", path, body),
  delete: <T>(path: string) => send<T>("DELETE", path),
};

/** Sends a file with progress (0 to 1); abort with the signal. */
export function upload<T>(file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", `/api/uploads?name=${encodeURIComponent(file.name)}`);
    request.setRequestHeader("X-Froe-Form", formToken);
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.upload.onprogress = (e) => onProgress(e.total > 0 ? e.loaded / e.total : 0);
    request.onload = () => {
      const status = request.status === 204 ? 200 : request.status;
      answer<T>(new Response(request.responseText, { status })).then(resolve, reject);
    };
    request.onerror = () =>
      reject(new Refusal("The upload broke off. Check the connection and try again.", "offline", 0));
    request.onabort = () => reject(new Refusal("The upload was cancelled.", "cancelled", 0));
    signal.addEventListener("abort", () => request.abort());
    request.send(file);
  });
}
