import type { paths } from "./schema";

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

/** What a line that breaks says, before an answer or in the middle of one. */
export const offline = (): never => {
  throw new Refusal("The server cannot be reached. Check the connection and try again.", "offline", 0);
};

let formToken = "";
let owner: string | null = null;
/** Keeps what requests that change something must carry, and whose page this is. */
export function keepFormToken(token: string, person: string | null) {
  formToken = token;
  owner = person;
}

/** Whose page this is; null while nobody is signed in. */
export const personNow = () => owner;

/** A token for the session as it is now; false when the page belongs to somebody else by now, so that nothing is done in their name. */
async function renewToken(isQuiet: boolean): Promise<boolean> {
  const response = await fetch("/api/session").catch(offline);
  if (!response.ok) return false;
  const session = (await response.json()) as { person: { id: string } | null; formToken: string };
  if (session.person?.id !== owner) {
    if (!isQuiet) window.dispatchEvent(new Event("froe-signed-out"));
    return false;
  }
  formToken = session.formToken;
  return true;
}

async function answer<T>(response: Response, isQuiet: boolean): Promise<T> {
  if (response.ok) {
    const text = await response.text().catch(offline);
    return (text === "" ? undefined : JSON.parse(text)) as T;
  }
  const problem = (await response.json().catch(() => null)) as { title?: string; code?: string } | null;
  if (response.status === 401 && !isQuiet) window.dispatchEvent(new Event("froe-signed-out"));
  const fallback =
    response.status === 401
      ? "Your session has ended. Sign in again; what you typed stays here."
      : "The server could not do this. Try again; if it keeps failing, tell your administrator.";
  throw new Refusal(problem?.title ?? fallback, problem?.code ?? "unknown", response.status);
}

type How = {
  /** Whether nobody is asked to sign in for it, as for what the page tells by itself. */
  isQuiet?: boolean;
  /** The key by which the server does it once; null where it carries its own, or may be done again. */
  key?: string | null;
};

async function send<T>(method: string, path: string, body?: unknown, how: How = {}, again = false): Promise<T> {
  const { isQuiet = false, key = null } = how;
  const response = await fetch(`/api${path}`, {
    method,
    headers: {
      "X-Froe-Form": formToken,
      ...(key === null ? {} : { "Idempotency-Key": key }),
      ...(body === undefined ? {} : { "Content-Type": "application/json" }),
    },
    body: body === undefined ? undefined : JSON.stringify(body),
  }).catch(offline);
  // The same person signed in anew in another window: this page's token is old, what it asks for is not.
  if (response.status === 400 && !again && method !== "GET") {
    const problem = (await response
      .clone()
      .json()
      .catch(() => null)) as { code?: string } | null;
    if (problem?.code === "stale-page" && (await renewToken(isQuiet))) return send<T>(method, path, body, how, true);
  }
  return answer<T>(response, isQuiet);
}

/** A path in its parts between slashes; what is filled in is any text: `/plans/${string}` as ["", "plans", string]. */
type Parts<Path extends string> = Path extends `${infer First}/${infer Rest}` ? [First, ...Parts<Rest>] : [Path];
/** Whether the parts of a path fit those of one the server describes, where {id} stands for any text. */
type Fits<Given extends string[], Known extends string[]> = [Given, Known] extends [
  [infer G, ...infer GivenRest extends string[]],
  [infer K, ...infer KnownRest extends string[]],
]
  ? K extends `{${string}}`
    ? Fits<GivenRest, KnownRest>
    : G extends K
      ? Fits<GivenRest, KnownRest>
      : false
  : [Given, Known] extends [[], []]
    ? true
    : false;
/** What a path of this page's asks of the server, by its description: the path itself, or the one that it fills in. */
type Asked<Method extends "get" | "post" | "put" | "delete", Path extends string> = `/api${Path}` extends keyof paths
  ? NonNullable<paths[`/api${Path}`][Method]>
  : {
      [Known in keyof paths & string]: Fits<Parts<`/api${Path}`>, Parts<Known>> extends true
        ? NonNullable<paths[Known][Method]>
        : never;
    }[keyof paths & string];
type Json<Content> = Content extends { content: { "application/json": infer Body } } ? Body : undefined;
/** What is sent may be read-only all through: nothing here writes to it. */
type Given<Body> = Body extends readonly (infer Item)[]
  ? readonly Given<Item>[]
  : Body extends object
    ? { readonly [Key in keyof Body]: Given<Body[Key]> }
    : Body;
/** The body an operation takes, or none; no call fits a path that the server does not describe. */
type Sent<Operation> = [Operation] extends [never]
  ? [unknownPath: never]
  : Operation extends { requestBody: infer Body }
    ? [body: Given<Json<Body>>]
    : [];
type Answered<Operation> = Operation extends { responses: { 200: infer Body } } ? Json<Body> : undefined;
/** The names an operation knows after the question mark, or none. */
type Queried<Operation> = [Operation] extends [never]
  ? [unknownPath: never]
  : Operation extends { parameters: { query?: infer Query } }
    ? [Query] extends [undefined]
      ? []
      : [query?: { readonly [Name in keyof NonNullable<Query>]?: string }]
    : [];

/** An address of the server's with what is asked; what is empty is left out. */
export const addressOf = (path: string, what: Readonly<Record<string, string | undefined>> = {}): string => {
  const query = new URLSearchParams(Object.entries(what).flatMap(([name, value]) => (value ? [[name, value]] : [])));
  return query.size === 0 ? path : `${path}?${query.toString()}`;
};

/** What can be asked of the server; what is sent and what comes back are checked against its description when this page is built. */
const asking = (how: How) => ({
  post: <Path extends string>(path: Path, ...[body]: Sent<Asked<"post", Path>>) =>
    send<Answered<Asked<"post", Path>>>("POST", path, body, how),
  put: <Path extends string>(path: Path, ...[body]: Sent<Asked<"put", Path>>) =>
    send<Answered<Asked<"put", Path>>>("PUT", path, body, how),
  delete: <Path extends string>(path: Path, ...[query]: Queried<Asked<"delete", Path>>) =>
    send<undefined>("DELETE", addressOf(path, query), undefined, how),
});

/** What was asked for before whoever shows it was there, by its address. */
const ahead = new Map<string, Promise<unknown>>();

export const api = {
  get: <Path extends string>(path: Path, ...[query]: Queried<Asked<"get", Path>>) => {
    const address = addressOf(path, query);
    const asked = ahead.get(address) as Promise<Answered<Asked<"get", Path>>> | undefined;
    ahead.delete(address);
    return asked ?? send<Answered<Asked<"get", Path>>>("GET", address);
  },
  /** Asks now for what will be asked for in a moment: whoever gets it next is given this answer, once. */
  ahead: <Path extends string>(path: Path, ...[query]: Queried<Asked<"get", Path>>) => {
    const answer = send<Answered<Asked<"get", Path>>>("GET", addressOf(path, query));
    // Whoever gets it says what was wrong.
    answer.catch(() => undefined);
    ahead.set(addressOf(path, query), answer);
    return answer;
  },
  /** Lets go of what was asked for ahead and nobody got: later it would be old. */
  forgetAhead: () => ahead.clear(),
  ...asking({}),
  /** A post that nobody pressed for: where the session has ended it fails, and interrupts nobody. */
  tell: asking({ isQuiet: true }).post,
  /** The same, done once under a key however often it is sent. */
  once: (key: string) => asking({ key }),
};

/** Sends a file with progress (0 to 1); abort with the signal. */
export const upload = <T>(file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<T> =>
  sendFile<T>(`/uploads?name=${encodeURIComponent(file.name)}`, file, onProgress, signal);

/** Sends a file as what is asked of a path, with progress (0 to 1); abort with the signal. */
export function sendFile<T>(
  path: string,
  file: File,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", `/api${path}`);
    request.setRequestHeader("X-Froe-Form", formToken);
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.upload.onprogress = (e) => onProgress(e.total > 0 ? e.loaded / e.total : 0);
    request.onload = () => {
      const status = request.status === 204 ? 200 : request.status;
      answer<T>(new Response(request.responseText, { status }), false).then(resolve, reject);
    };
    request.onerror = () =>
      reject(new Refusal("The upload broke off. Check the connection and try again.", "offline", 0));
    request.onabort = () => reject(new Refusal("The upload was cancelled.", "cancelled", 0));
    signal.addEventListener("abort", () => request.abort());
    request.send(file);
  });
}
