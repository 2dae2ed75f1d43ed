import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { outbox } from "../api/outbox";
import { useRig } from "../api/rig";
import { system } from "../look/theme";
import { answering } from "../testing/testing";
import { Lost } from "./Lost";
import { Shell } from "./Shell";

const View = ({ name }: { name: string }) => (
  <h1>
    {name} of rig {useRig()}
  </h1>
);

const me = (rigs: object[]) => ({ username: "mira", demo: false, first: false, rigs });
const TWO = [
  { id: 7, name: "Heron", role: "owner" },
  { id: 8, name: "Tern", role: "crew" },
];

const opened = (account: object = me(TWO), at = "/", more: Record<string, unknown> = {}) => {
  const asked = answering({ "GET /me": account, ...more });
  const views = ["round", "log", "energy", "rig", "review", "set-up"];
  const router = createMemoryRouter(
    [
      {
        path: "/",
        element: <Shell />,
        children: [
          { index: true, element: <View name="horizon" /> },
          ...views.map((path) => ({ path, element: <View name={path} /> })),
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

  it("signs out and forgets what it was shown", async () => {
    const asked = opened(me(TWO), "/", { "POST /sign-out": {} });
    fireEvent.click(await screen.findByRole("button", { name: "Sign out" }));
    await waitFor(() => expect(asked.filter((each) => each.path.endsWith("/sign-out"))).toHaveLength(1));
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

describe("without a signal", () => {
  const signal = (there: boolean) => {
    vi.spyOn(navigator, "onLine", "get").mockReturnValue(there);
    act(() => void window.dispatchEvent(new Event(there ? "online" : "offline")));
  };

  it("says that what is shown may be old, and stops saying so", async () => {
    opened();
    await screen.findByRole("heading");
    signal(false);
    expect(screen.getByRole("status")).toHaveTextContent("No signal: what is shown may be old.");
    signal(true);
    expect(screen.getByRole("status")).toBeEmptyDOMElement();
  });

  it("counts what waits, and names what was not taken in the end", async () => {
    opened(me(TWO), "/", {
      "POST /entries": { status: 422, place: "entries[1].text", problem: "310 L is more than it holds" },
    });
    await screen.findByRole("heading");
    const waiting = (text: string) => ({ rig: 7, entry: { reading: { store: "fresh", text } } });
    act(() => outbox.add(waiting("300 L")));
    expect(screen.getByRole("status")).toHaveTextContent("1 entry waits on this device");
    act(() => outbox.add(waiting("310 L")));
    expect(screen.getByRole("status")).toHaveTextContent("2 entries wait on this device");
    await act(async () => void (await outbox.flush()));
    expect(screen.getByRole("status")).toHaveTextContent("Not taken: fresh 3");
  });
});
