import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { client, take } from "./client";
import { keys } from "./keys";
import type { paths } from "./schema.generated";

type Method = "get" | "post" | "put" | "delete";
type Having<M extends Method> = { [P in keyof paths]: paths[P][M] extends object ? P : never }[keyof paths];
type Rest<P> = P extends `/api/rigs/{rig_id}${infer R}` ? R : never;

/** What a rig is asked or told: the part of its address after the rig. */
export type Route<M extends Method> = Rest<Having<M>>;
type Operation<M extends Method, R extends string> = paths[`/api/rigs/{rig_id}${R}` & keyof paths][M];

type PathOf<O> = O extends { parameters: { path: infer P } } ? Omit<P, "rig_id"> : never;
type QueryOf<O> = O extends { parameters: { query?: infer Q } } ? Q : never;
type BodyOf<O> = O extends { requestBody: { content: { "application/json": infer B } } } ? B : never;
type AnswerOf<O> = O extends { responses: { 200: { content: { "application/json": infer A } } } } ? A : undefined;

/** What goes with it. */
export interface Given<M extends Method, R extends string> {
  path?: PathOf<Operation<M, R>>;
  query?: QueryOf<Operation<M, R>>;
  body?: BodyOf<Operation<M, R>>;
}
export type Answer<M extends Method, R extends string> = AnswerOf<Operation<M, R>>;

/** Ask the server, or tell it. */
export const ask = <M extends Method, R extends Route<M>>(
  rig: number,
  method: M,
  route: R,
  { path, query, body }: Given<M, R> = {},
  more: object = {},
): Promise<Answer<M, R>> => {
  const init = { params: { path: { rig_id: String(rig), ...path }, query }, body, ...more };
  const call = client.request(method, `/api/rigs/{rig_id}${route}` as never, init as never);
  return take(call as Promise<{ data?: unknown; response: Response }>) as Promise<Answer<M, R>>;
};

const asking = <M extends Method, R extends Route<M>>(rig: number, method: M, route: R, given: Given<M, R> = {}) =>
  queryOptions({
    queryKey: keys.asked(rig, `${method} ${route}`, given),
    queryFn: ({ signal }) => ask(rig, method, route, given, { signal }),
  });

/** What is known of a rig, kept under method, address and what goes with it. */
export const get = <R extends Route<"get">>(rig: number, route: R, given: Given<"get", R> = {}) =>
  asking(rig, "get", route, given);

/** A question whose answer changes nothing. */
export const post = <R extends Route<"post">>(rig: number, route: R, given: Given<"post", R> = {}) =>
  asking(rig, "post", route, given);

/** The argument of a question or a change as it is sent; where nothing else is said, it is the body. */
type Send<M extends Method, R extends string, Said> = (said: Said) => Given<M, R>;
const asBody = (body: unknown): object => ({ body });

/** A question that is asked by a touch. */
export const useAsk = <M extends Method, R extends Route<M>, Said = NonNullable<Given<M, R>["body"]>>(
  rig: number,
  method: M,
  route: R,
  send: Send<M, R, Said> = asBody,
) => useMutation({ mutationFn: (said: Said) => ask(rig, method, route, send(said)) });

/** A change of what a crew decides or says; everything that follows from it is asked anew. */
export const useTell = <M extends Method, R extends Route<M>, Said = NonNullable<Given<M, R>["body"]>>(
  rig: number,
  method: M,
  route: R,
  send: Send<M, R, Said> = asBody,
) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (said: Said) => ask(rig, method, route, send(said)),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.ofRig(rig) }),
  });
};

/** Of which bank; the first where none is chosen. */
export const ofBank = (bank: string | null) => (bank ? { bank } : {});
