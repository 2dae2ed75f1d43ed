import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes, useLocation } from "react-router";
import { vi } from "vitest";

import type { Schemas } from "../api/client";
import { keys } from "../api/keys";
import { RigContext } from "../api/rig";
import { system } from "../look/theme";
import { outbox } from "../outbox/outbox";

export interface Asked {
  method: string;
  path: string;
  body: unknown;
}

interface Writes {
  writes: Schemas["WriteIn"][];
}

/** What writing answers: each is kept, unless the test says what came of it. */
const written = (body: unknown, outcome: unknown): unknown => ({
  revision: 4,
  stamp: "later",
  writes: (body as Writes).writes.map((each) => ({
    id: each.id,
    state: "kept",
    place: "",
    label: "",
    problem: "",
    stands: null,
    entry: null,
    ...(outcome as object | undefined),
  })),
});

/** What was written, in order: each as it was made, without its id and its times. */
export const writesOf = (asked: Asked[]) =>
  asked
    .filter((each) => each.path.endsWith("/writes"))
    .flatMap((each) => (each.body as Writes).writes)
    .map(({ saw, add, correct, remove, day, plan }) =>
      Object.fromEntries(
        Object.entries({ saw, add, correct, remove, day, plan }).filter(([, value]) => value !== undefined),
      ),
    ) as Partial<Schemas["WriteIn"]>[];

/** Stand in for the wire: answers by method and the end of the path, or what makes them; what was asked is kept, in order. */
export const answering = (answers: Record<string, unknown>): Asked[] => {
  const asked: Asked[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const path = new URL(request.url).pathname + new URL(request.url).search;
    const text = await request.text();
    const body = text ? JSON.parse(text) : null;
    asked.push({ method: request.method, path, body });
    const key = Object.keys(answers).find((each) => {
      const [method, end] = each.split(" ");
      return method === request.method && path.endsWith(end ?? "");
    });
    const held = answers[key ?? ""];
    const given: unknown = typeof held === "function" ? (held as () => unknown)() : held;
    const status_ = (given as { status?: number } | undefined)?.status;
    if (path.endsWith("/writes") && status_ === undefined)
      return new Response(JSON.stringify(written(body, given)), {
        headers: { "Content-Type": "application/json" },
      });
    const answer = key === undefined ? { status: 404, place: "", problem: "no such page" } : given;
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

/** An entry that waits on this device and is not sent: it is of somebody else. */
export const held = (): Promise<string> =>
  outbox.add({ account: "joss", rig: 7, what: { add: { event: { type: "shower", full: false } } }, words: "Showered" });

export const ME: Schemas["Me"] = {
  username: "mira",
  demo: false,
  first: false,
  code: false,
  rigs: [{ id: 7, name: "Heron", role: "owner", units: "metric" }],
};

/** Somebody who looks and changes nothing. */
export const READER: Schemas["Me"] = { ...ME, rigs: [{ id: 7, name: "Heron", role: "reader", units: "metric" }] };

/** A part under the application's own theme at an address, with rig 7 chosen; other addresses say where one is. */
export const show = (part: ReactNode, at = "/", me: Schemas["Me"] = ME) => {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  queries.setQueryData(keys.me, me);
  outbox.belongsTo(me.username);
  return render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={queries}>
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
};
