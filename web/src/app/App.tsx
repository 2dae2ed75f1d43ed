import { ChakraProvider } from "@chakra-ui/react";
import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { RouterProvider } from "react-router";

import { behindOf, Refusal, Working } from "../api/client";
import { keys } from "../api/keys";
import { system } from "../look/theme";
import { remember } from "../outbox/remembered";
import { makeRouter } from "./router";

/** How soon an answer that is made of something older is asked for anew. */
const BEHIND_MS = 1200;
const PATIENCE_MS = 1_000;

export const App = () => {
  const [queries] = useState<QueryClient>(
    () =>
      new QueryClient({
        // signed out elsewhere, as in another tab: then ask who one is
        queryCache: new QueryCache({
          onError: (error, query) => {
            if (!(error instanceof Refusal) || error.status !== 401 || query.queryKey[0] === keys.me[0]) return;
            void queries.invalidateQueries({ queryKey: keys.me });
          },
        }),
        defaultOptions: {
          queries: {
            staleTime: 15_000,
            // a refusal stays a refusal; only a lost connection is worth another try, and what is being worked out
            retry: (count, error) =>
              error instanceof Working || (count < 2 && error instanceof Refusal && error.status === 0),
            retryDelay: (_, error) => (error instanceof Working ? error.after_ms : 800),
            refetchInterval: (query) => (behindOf(query.state.data) ? BEHIND_MS : false),
            networkMode: "always",
          },
          // nothing was done yet where levels had to be worked out first
          mutations: {
            networkMode: "always",
            retry: (_, error) => error instanceof Working,
            retryDelay: (_, error) => (error instanceof Working ? error.after_ms : 800),
          },
        },
      }),
  );
  const [router] = useState(makeRouter);
  const [ready, setReady] = useState(false);
  useEffect(() => {
    // a device whose disk does not answer opens all the same
    const soon = new Promise((resolve) => setTimeout(resolve, PATIENCE_MS));
    void Promise.race([remember(queries), soon]).finally(() => setReady(true));
  }, [queries]);
  if (!ready) return null;
  return (
    <ChakraProvider value={system}>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </ChakraProvider>
  );
};
