import createClient, { type Middleware } from "openapi-fetch";

import { line } from "./line";
import { readerHead } from "./reader";
import type { components, paths } from "./schema.generated";

export type Schemas = components["schemas"];

/** What the server refused: the place, the label of the field there, and a sentence. Status 0: not reached. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly place: string,
    problem: string,
    readonly label = "",
  ) {
    super(problem);
  }
}

/** What is asked for is being worked out on the server; asked again so much later it is there. [ms] */
export class Working extends Refusal {
  constructor(
    sentence: string,
    readonly after_ms: number,
  ) {
    super(202, "", sentence);
  }
}

/** An answer that was made of something older: as of when, and how much of the newer one is done. [share] */
export interface Behind {
  at: string;
  progress: number;
}

/** Whether an answer, or a page of one, is made of something older. */
export const behindOf = (data: unknown): Behind | null => {
  if (typeof data !== "object" || data === null) return null;
  const { behind, pages } = data as { behind?: Behind; pages?: unknown[] };
  return behind ?? pages?.map(behindOf).find((each) => each !== null) ?? null;
};

const PROGRESS = "X-Lodeline-Progress";

const OFFLINE = "There is no connection to Lodeline.";

const csrf: Middleware = {
  onRequest({ request }) {
    request.headers.set("X-Lodeline-Reader", readerHead());
    const token = document.cookie.match(/(?:^|; )csrftoken=([^;]+)/)?.[1];
    if (token && request.method !== "GET") request.headers.set("X-CSRFToken", token);
    return request;
  },
};

/** An answer that hangs is given up, and the view says so. An upload takes as long as it takes. */
const PATIENCE_MS = 30_000;

/** The fetch of the moment, so that tests can stand in for the wire. */
const patient = async (request: Request): Promise<Response> => {
  const isOver = () => request.signal.aborted;
  if (request.method !== "GET") return line.ask(() => fetch(request), isOver);
  const stop = new AbortController();
  const timer = setTimeout(() => stop.abort(), PATIENCE_MS);
  request.signal.addEventListener("abort", () => stop.abort());
  try {
    return await line.ask(() => fetch(new Request(request, { signal: stop.signal })), isOver);
  } finally {
    clearTimeout(timer);
  }
};

export const client = createClient<paths>({ baseUrl: window.location.origin, fetch: patient });
client.use(csrf);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** What an answer brings once it is worked out; until then it says how far that is. */
type Done<T> = Exclude<T, Schemas["Problem"]>;

/** The data of an answer, or a Refusal. */
export async function take<T>(call: Promise<Answer<T>>): Promise<Done<T>> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Refusal(0, "", OFFLINE);
  }
  const { headers } = answer.response;
  if (answer.response.status === 202)
    throw new Working(
      (answer.data as { problem?: string } | undefined)?.problem ?? "",
      1000 * (Number(headers.get("Retry-After")) || 1),
    );
  const at = headers.get("X-Lodeline-As-Of");
  if (answer.response.ok && at !== null)
    // a list stays a list
    return Object.assign(Array.isArray(answer.data) ? [...answer.data] : { ...answer.data }, {
      behind: { at, progress: Number(headers.get(PROGRESS)) },
    }) as Done<T>;
  if (answer.response.ok) return answer.data as Done<T>;
  const body = answer.error as { place?: string; problem?: string; label?: string } | undefined;
  throw new Refusal(
    answer.response.status,
    body?.place ?? "",
    body?.problem ?? "Lodeline could not answer.",
    body?.label ?? "",
  );
}

/** What went wrong, as a sentence; it begins with the label of the field that it is about, where it is about one. */
export const sentenceOf = (error: unknown): string => {
  if (error instanceof Refusal && error.label) return `${error.label}: ${error.message}`;
  return error instanceof Error ? error.message : String(error);
};
