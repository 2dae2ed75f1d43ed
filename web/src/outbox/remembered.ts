import { dehydrate, type DehydratedState, hydrate, type Query, type QueryClient } from "@tanstack/react-query";

import { Refusal, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { readerHead } from "../api/reader";
import { small } from "../api/small";
import { pages } from "./device";

/** Whose answers this device holds; there may be none. */
const KEY = "lodeline-account";
const SETTLE_MS = 150;
// what an answer looks like changes with the program, and how it is written with its reader
const version = (): string => `${__LODELINE_VERSION__} ${readerHead()}`;
const NOT_KEPT = "apart";

/** Whether an answer stands: the last that came, also where asking again got none, as without a signal. */
const stands = ({ state: { status, data, error } }: Query): boolean =>
  status === "success" ||
  (data !== undefined && error instanceof Refusal && (error.status < 400 || error.status >= 500));

/** The answers that stand, each as it came. */
const answersOf = (queries: QueryClient): DehydratedState => {
  const whole = dehydrate(queries, {
    shouldDehydrateQuery: (query) => stands(query) && query.queryKey[0] !== NOT_KEPT,
  });
  const answered = { status: "success", error: null, fetchFailureCount: 0, fetchFailureReason: null } as const;
  return { ...whole, queries: whole.queries.map((each) => ({ ...each, state: { ...each.state, ...answered } })) };
};

/** The last answers that were seen on this device, for a start without a signal. */
export const remember = async (queries: QueryClient): Promise<void> => {
  const account = small.get(KEY);
  const written = version(); // as this page writes, whatever is chosen for the next
  if (account) hydrate(queries, ((await pages.read(account, written)) ?? {}) as DehydratedState);
  // shown at once, and fetched anew: another hand may have written meanwhile
  await queries.invalidateQueries({ refetchType: "none" });
  let timer: number | undefined;
  const keep = () => {
    const me = queries.getQueryData<Schemas["Me"]>(keys.me);
    if (!me?.username) return;
    small.set(KEY, me.username);
    void pages.write(me.username, written, answersOf(queries));
  };
  window.addEventListener("pagehide", keep);
  queries.getQueryCache().subscribe((event) => {
    if (event.type !== "updated" || event.action.type !== "success") return;
    window.clearTimeout(timer);
    timer = window.setTimeout(keep, SETTLE_MS);
  });
};

/** After signing out the shell asks for a name again; the answers themselves go where that was chosen. */
export const forgetAccount = async (account: string, answersToo: boolean): Promise<void> => {
  small.remove(KEY);
  if (answersToo) await pages.forget(account);
};
