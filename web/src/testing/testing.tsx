import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes, useLocation } from "react-router";
import { vi } from "vitest";

import { RigContext } from "../api/rig";
import { system } from "../look/theme";

export interface Asked {
  method: string;
  path: string;
  body: unknown;
}

/** Stand in for the wire: answers by method and the end of the path; what was asked is kept, in order. */
export const answering = (answers: Record<string, unknown>): Asked[] => {
  const asked: Asked[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const path = new URL(request.url).pathname + new URL(request.url).search;
    const text = await request.text();
    asked.push({ method: request.method, path, body: text ? JSON.parse(text) : null });
    const key = Object.keys(answers).find((each) => {
      const [method, end] = each.split(" ");
      return method === request.method && path.endsWith(end ?? "");
    });
    const answer = key === undefined ? { status: 404, place: "", problem: "no such page" } : answers[key];
    const status = (answer as { status?: number } | null)?.status ?? 200;
    return new Response(JSON.stringify(answer), { status, headers: { "Content-Type": "application/json" } });
  });
  return asked;
};

/** A width for what measures itself: the test's page has no layout. */
export const asWideAs = (width: number): void => {
  vi.spyOn(HTMLElement.prototype, "clientWidth", "get").mockReturnValue(width);
};

const Elsewhere = () => {
  const place = useLocation();
  return <output data-testid="elsewhere">{place.pathname + place.search}</output>;
};

/** A part under the application's own theme at an address, with rig 7 chosen; other addresses say where one is. */
export const show = (part: ReactNode, at = "/") =>
  render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <MemoryRouter initialEntries={[at]}>
          <RigContext value={7}>
            <Routes>
              <Route path={at.split("?")[0]} element={part} />
              <Route path="*" element={<Elsewhere />} />
            </Routes>
          </RigContext>
        </MemoryRouter>
      </QueryClientProvider>
    </ChakraProvider>,
  );
