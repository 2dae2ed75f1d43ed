import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { get } from "../api/asked";
import { client } from "../api/client";
import { keepRig, useRig } from "../api/rig";
import { system } from "../look/theme";
import { outbox } from "../outbox/outbox";
import { hasUnsaved, useUnsaved } from "../parts/unsaved";
import { answering } from "../testing/testing";
import { Lost } from "./Lost";
import { Shell } from "./Shell";

const View = ({ name }: { name: string }) => {
  const rig = useRig();
  useQuery({ ...get(rig, "/horizon"), enabled: name === "horizon" });
  return (
    <h1>
      {name} of rig {rig}
    </h1>
  );
};

const me = (rigs: object[]) => ({ username: "mira", demo: false, first: false, rigs });
const TWO = [
  { id: 7, name: "Heron", role: "owner", units: "metric" },
  { id: 8, name: "Tern", role: "crew", units: "metric" },
];

const opened = (
  account: object = me(TWO),
  at = "/",
  more: Record<string, unknown> = {},
  rigView = <View name="rig" />,
) => {
  const asked = answering({ "GET /me": account, ...more });
  const views = ["round", "log", "energy", "review", "set-up"];
  const router = createMemoryRouter(
    [
      {
        path: "/",
        element: <Shell />,
        children: [
          { index: true, element: <View name="horizon" /> },
          ...views.map((path) => ({ path, element: <View name={path} /> })),
          { path: "rig", element: rigView },
          { path: "*", element: <Lost /> },
        ],
      },
    ],
    { initialEntries: [at] },
  );
  render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </ChakraProvider>,
  );
  return asked;
};

const press = (key: string, part: object = {}) => fireEvent.keyDown(document.body, { key, ...part });

beforeEach(() => {
  localStorage.clear();
  document.documentElement.className = "";
});
afterEach(() => vi.restoreAllMocks());

describe("the frame of all views", () => {
  it("shows the first rig, and another where it is chosen, and keeps the choice on this device", async () => {
    opened();
    expect(await screen.findByRole("heading")).toHaveTextContent("horizon of rig 7");
    fireEvent.change(screen.getByLabelText("Rig"), { target: { value: "8" } });
    expect(screen.getByRole("heading")).toHaveTextContent("horizon of rig 8");
    expect(localStorage.getItem("lodeline-rig")).toBe("8");
  });

  it("does not hold on to a rig that is no longer one's own", async () => {
    localStorage.setItem("lodeline-rig", "99");
    opened();
    expect(await screen.findByRole("heading")).toHaveTextContent("horizon of rig 7");
  });

  it("asks to sign in where nobody is, whatever the address", async () => {
    opened({ username: null, demo: false, first: false, rigs: [] }, "/log");
    expect(await screen.findByRole("button", { name: "Sign in" })).toBeVisible();
    expect(screen.queryByRole("navigation")).toBeNull();
  });

  it("leads an account without a rig to setting one up", async () => {
    opened(me([]));
    expect(await screen.findByRole("heading")).toHaveTextContent("set-up of rig 0");
    expect(screen.queryByLabelText("Rig")).toBeNull();
  });

  it("says where an address leads nowhere", async () => {
    opened(me(TWO), "/nowhere");
    expect(await screen.findByText("There is nothing at this address.")).toBeVisible();
  });

  it("says when it cannot be reached at all, and tries again", async () => {
    const asked = opened({ status: 503, place: "", problem: "Lodeline could not answer." });
    expect(await screen.findByRole("alert")).toHaveTextContent("Lodeline could not answer.");
    fireEvent.click(screen.getByRole("button", { name: "Try again" }));
    await waitFor(() => expect(asked).toHaveLength(2));
  });

  it("asks before it leads away from what is typed and not kept", async () => {
    const Draft = () => {
      useUnsaved(true);
      return <h1>draft</h1>;
    };
    opened(me(TWO), "/rig", {}, <Draft />);
    await screen.findByText("draft");
    await waitFor(() => expect(hasUnsaved()).toBe(true));
    await act(async () => undefined); // the router takes a blocker a render later
    fireEvent.click(screen.getByRole("link", { name: "Round" }));
    const ask = await screen.findByRole("dialog", { name: "Leave what is not saved?" });
    fireEvent.click(within(ask).getByRole("button", { name: "Stay here" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    fireEvent.change(screen.getByLabelText("Rig"), { target: { value: "8" } });
    fireEvent.click(await screen.findByRole("button", { name: "Leave it behind" }));
    await waitFor(() => expect(screen.getByLabelText("Rig")).toHaveValue("8"));
  });

  it("follows a rig that is chosen elsewhere, as by setting one up", async () => {
    opened();
    await screen.findByRole("heading");
    act(() => keepRig(8));
    expect(screen.getByRole("heading")).toHaveTextContent("horizon of rig 8");
  });

  it("fetches anew when another hand has written", async () => {
    let stamp = "one";
    const asked = opened(me(TWO), "/", { "GET /revision": { revision: 3, stamp: "one" } });
    await screen.findByRole("heading");
    const wire = globalThis.fetch;
    globalThis.fetch = (async (request: Request) =>
      request.url.endsWith("/revision")
        ? new Response(JSON.stringify({ revision: 4, stamp }), { headers: { "Content-Type": "application/json" } })
        : wire(request)) as typeof fetch;
    const horizons = () => asked.filter((each) => each.path.endsWith("/horizon")).length;
    await waitFor(() => expect(horizons()).toBe(1));
    stamp = "two";
    await waitFor(() => expect(horizons()).toBe(2), { timeout: 30_000 });
  });
});

describe("keys", () => {
  it.each([
    ["r", "round"],
    ["l", "log"],
    ["e", "energy"],
    ["g", "rig"],
    ["b", "review"],
    ["h", "horizon"],
  ])("%s opens the %s", async (key, view) => {
    opened(me(TWO), key === "h" ? "/log" : "/");
    await screen.findByRole("heading");
    press(key);
    await waitFor(() => expect(screen.getByRole("heading")).toHaveTextContent(`${view} of rig 7`));
  });

  it("are letters where one types, and left to the browser with Ctrl", async () => {
    opened();
    const heading = await screen.findByRole("heading");
    press("l", { ctrlKey: true });
    fireEvent.keyDown(screen.getByLabelText("Rig"), { key: "l" });
    expect(heading).toHaveTextContent("horizon of rig 7");
  });

  it("are listed on ?, and the list goes at once on Escape", async () => {
    opened();
    await screen.findByRole("heading");
    press("?");
    const keys = await screen.findByRole("dialog", { name: "Keys" });
    for (const word of ["Horizon", "Round", "Logbook", "Energy", "Rig", "Looking back"])
      expect(within(keys).getByText(word)).toBeVisible();
    press("Escape");
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    press("?");
    fireEvent.click(within(await screen.findByRole("dialog")).getByRole("button", { name: "Close" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("turn day and night, which this device keeps", async () => {
    opened();
    const night = await screen.findByRole("button", { name: "Night" });
    expect(night).toHaveAttribute("aria-pressed", "false");
    press("n");
    expect(screen.getByRole("button", { name: "Day" })).toHaveAttribute("aria-pressed", "true");
    expect(document.documentElement).toHaveClass("dark");
    expect(localStorage.getItem("lodeline-night")).toBe("1");
    press("n");
    expect(document.documentElement).toHaveClass("light");
  });
});

const status = () => screen.getAllByRole("status")[0] as HTMLElement;

describe("without a signal", () => {
  const signal = (there: boolean) => {
    vi.spyOn(navigator, "onLine", "get").mockReturnValue(there);
    act(() => void window.dispatchEvent(new Event(there ? "online" : "offline")));
  };

  it("says that what is shown may be old, and stops saying so", async () => {
    opened();
    await screen.findByRole("heading");
    signal(false);
    expect(status()).toHaveTextContent("No signal: what is shown may be old.");
    signal(true);
    expect(status()).toBeEmptyDOMElement();
  });

  it("says so too where there is a network and the server is out of its reach", async () => {
    opened();
    await screen.findByRole("heading");
    const answers = globalThis.fetch;
    const ask = () => act(async () => void (await client.GET("/api/account/me").catch(() => undefined)));
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("out of reach")));
    await ask();
    expect(status()).toHaveTextContent("No signal: what is shown may be old.");
    vi.stubGlobal("fetch", answers);
    await ask();
    expect(status()).toBeEmptyDOMElement();
  });

  const hold = (text: string, account = "mira") => {
    const what = { add: { reading: { store: "fresh", text } } };
    return act(async () => void (await outbox.add({ account, rig: 7, what, words: `Fresh water ${text}` })));
  };

  it("counts what waits, and keeps what was not taken until one mends or discards it", async () => {
    let bad = true;
    opened();
    await screen.findByRole("heading");
    const wire = globalThis.fetch;
    globalThis.fetch = (async (request: Request) => {
      if (!request.url.endsWith("/writes")) return wire(request);
      const { writes } = (await request.json()) as { writes: { id: string }[] };
      const came = bad ? { state: "refused", problem: "310 L is more than it holds" } : { state: "kept" };
      const body = { revision: 4, stamp: "s", writes: writes.map(({ id }) => ({ id, label: "", place: "", ...came })) };
      return new Response(JSON.stringify(body), { headers: { "Content-Type": "application/json" } });
    }) as typeof fetch;
    signal(false);
    outbox.belongsTo(null);
    await hold("310 L");
    expect(status()).toHaveTextContent("1 entry waits on this device");
    await hold("300 L");
    expect(status()).toHaveTextContent("2 entries wait on this device");
    signal(true);
    await act(async () => {
      outbox.belongsTo("mira");
      await outbox.flush();
    });
    fireEvent.click(await screen.findByRole("button", { name: "2 entries not taken: look" }));
    const tray = within(screen.getByRole("list", { name: "Entries that were not taken" }));
    expect(tray.getAllByText("310 L is more than it holds")).toHaveLength(2);
    fireEvent.click(tray.getAllByRole("button", { name: "Discard it" })[0] as HTMLElement);
    await waitFor(() => expect(tray.getAllByRole("listitem")).toHaveLength(1));
    bad = false;
    fireEvent.change(tray.getByLabelText("Mend it"), { target: { value: "30 L" } });
    fireEvent.click(tray.getByRole("button", { name: "Send it again" }));
    await waitFor(() => expect(outbox.all()).toEqual([]));
  });

  it("says whose entries wait here when another account is signed in, and sends none of them", async () => {
    const asked = opened();
    await screen.findByRole("heading");
    await hold("45 L", "joss");
    expect(status()).toHaveTextContent("Entries of joss wait here until they sign in again.");
    expect(asked.some((each) => each.path.endsWith("/writes"))).toBe(false);
  });
});
