import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useState } from "react";
import { RouterProvider } from "react-router";

import { Refusal } from "../api/client";
import { makeRouter } from "./router";
import { system } from "../look/theme";

export const App = () => {
  const [queries] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          queries: {
            staleTime: 15_000,
            // a refusal stays a refusal; only a lost connection is worth another try
            retry: (count, error) => count < 2 && error instanceof Refusal && error.status === 0,
            retryDelay: 800,
            networkMode: "always",
          },
          mutations: { networkMode: "always" },
        },
      }),
  );
  const [router] = useState(makeRouter);
  return (
    <ChakraProvider value={system}>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </ChakraProvider>
  );
};
