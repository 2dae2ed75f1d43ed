import { type QueryClient, useMutation, useQueryClient } from "@tanstack/react-query";

import { ask, get } from "./asked";
import { client, type Schemas, take } from "./client";
import { keys } from "./keys";

/** The document that stands in the place of the one that was seen. */
export class Conflict extends Error {
  constructor(
    problem: string,
    readonly stands: Schemas["RigOut"],
  ) {
    super(problem);
  }
}

interface Change {
  doc: Schemas["RigDoc"];
  /** The revision that it was made from. */
  saw: number;
}

/** Change a rig's document; what is sent is made once its own changes before it are through. Raises a Conflict where
 *  another stands. */
export const useChangeRig = (rig: number) => {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `document-${rig}` },
    mutationFn: async (made: () => Change) => {
      const { doc, saw } = made();
      const asked = client.PUT("/api/rigs/{rig_id}", {
        params: { path: { rig_id: String(rig) }, query: { saw } },
        body: doc,
      });
      const refused = await asked.then(({ error }) => (error && "stands" in error ? error : null)).catch(() => null);
      if (refused) throw new Conflict(refused.problem, refused.stands);
      const answer = await take(asked);
      queries.setQueryData(get(rig, "").queryKey, answer);
      return answer;
    },
    onSuccess: () => queries.invalidateQueries(),
  });
};

/** Take as right what set-up assumed. */
export const useConfirm = (rig: number) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (paths: string[]) => ask(rig, "post", "/confirm", { body: { paths } }),
    onSuccess: (answer) => queries.setQueryData(get(rig, "").queryKey, answer),
  });
};

export const useDeleteRig = (rig: number) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (name: string) => ask(rig, "post", "/delete", { body: { name } }),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.me }),
  });
};

export const useLeaveRig = (rig: number) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => ask(rig, "post", "/leave"),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.me }),
  });
};

export const useChangePassword = () =>
  useMutation({ mutationFn: (body: Schemas["PasswordIn"]) => take(client.POST("/api/account/password", { body })) });

export const useDeleteAccount = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (password: string) => take(client.POST("/api/account/delete", { body: { password } })),
    onSuccess: (me) => signedOut(queries, me),
  });
};

/** Come aboard by an invitation, with the account that is signed in or with a new one. */
export const useJoin = (token: string) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (made: { username: string; password: string } | null) =>
      take(
        made === null
          ? client.POST("/api/account/accept", { body: { token } })
          : client.POST("/api/account/join", { body: { ...made, token } }),
      ),
    onSuccess: (me) => queries.setQueryData(keys.me, me),
  });
};

/** After signing out nothing of the account is left on screen. */
const signedOut = (queries: QueryClient, me: Schemas["Me"]) => {
  queries.setQueryData(keys.me, me);
  queries.removeQueries({ predicate: (query) => query.queryKey[0] !== keys.me[0] });
};

export const useSetUp = () =>
  useMutation({
    mutationFn: (body: Schemas["Answers"]) => take(client.POST("/api/rigs/set-up", { body })),
  });

const raw = (text: string) => ({
  body: text as never,
  bodySerializer: () => text,
  headers: { "Content-Type": "application/json" },
});

/** What a file would bring, and what it would replace; nothing is kept. */
export const usePreview = (rig: number | null) =>
  useMutation({
    mutationFn: (file: string): Promise<Schemas["Preview"]> =>
      take(
        rig === null
          ? client.POST("/api/imports/preview", raw(file))
          : client.POST("/api/rigs/{rig_id}/import/preview", {
              params: { path: { rig_id: String(rig) } },
              ...raw(file),
            }),
      ),
  });

/** Import a file as a new rig, or in the place of one. */
export const useImport = (rig: number | null) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ file, saw }: { file: string; saw: number }): Promise<Schemas["Imported"]> =>
      take(
        rig === null
          ? client.POST("/api/imports", raw(file))
          : client.POST("/api/rigs/{rig_id}/import", {
              params: { path: { rig_id: String(rig) }, query: { saw } },
              ...raw(file),
            }),
      ),
    onSuccess: () => queries.invalidateQueries(),
  });
};

export const useSignIn = (isFirst: boolean) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["FirstIn"]) =>
      take(
        isFirst
          ? client.POST("/api/account/first", { body })
          : client.POST("/api/account/sign-in", { body: { username: body.username, password: body.password } }),
      ),
    onSuccess: (me) => queries.setQueryData(keys.me, me),
  });
};

export const useEnterDemo = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => take(client.POST("/api/account/demo")),
    onSuccess: (me) => queries.setQueryData(keys.me, me),
  });
};

export const useSignOut = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => take(client.POST("/api/account/sign-out")),
    onSuccess: (me) => signedOut(queries, me),
  });
};
