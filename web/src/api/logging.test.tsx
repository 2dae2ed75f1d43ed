import { act, renderHook } from "@testing-library/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { useLogging } from "./logging";
import { outbox } from "./outbox";

const wrapper = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
);
const reading = (text: string) => ({ rig: 7, entry: { reading: { store: "fresh", text } } });

const batches: string[][] = [];
const open: (() => void)[] = [];

/** A server that answers when it is told to, and refuses what is bad. */
const listen = (held = false) =>
  vi.stubGlobal("fetch", async (request: Request) => {
    const { entries } = (await request.json()) as { entries: { reading: { text: string } }[] };
    const texts = entries.map((each) => each.reading.text);
    batches.push(texts);
    if (held) await new Promise<void>((resolve) => open.push(resolve));
    const bad = texts.indexOf("bad");
    const body =
      bad < 0
        ? { entries: texts.map((words, id) => ({ id, words })) }
        : { place: `entries[${bad}].text`, problem: "no" };
    return new Response(JSON.stringify(body), {
      status: bad < 0 ? 200 : 422,
      headers: { "Content-Type": "application/json" },
    });
  });

const logging = () => renderHook(() => useLogging(7), { wrapper }).result.current;

beforeEach(() => {
  localStorage.clear();
  batches.length = 0;
  open.length = 0;
});
afterEach(() => vi.restoreAllMocks());

describe("logging", () => {
  it("sends at once, and what comes meanwhile as one batch after it", async () => {
    listen(true);
    const log = logging();
    const all = [log(reading("1")), log(reading("2"))];
    await act(async () => void (await vi.waitFor(() => expect(open).toHaveLength(1))));
    all.push(log(reading("3")), log(reading("4")));
    open[0]?.();
    await vi.waitFor(() => expect(open).toHaveLength(2));
    open[1]?.();
    expect((await Promise.all(all)).map((each) => !each.waits && each.entry?.words)).toEqual(["1", "2", "3", "4"]);
    expect(batches).toEqual([
      ["1", "2"],
      ["3", "4"],
    ]);
  });

  it("tells the one that was refused, and keeps the others", async () => {
    listen();
    const log = logging();
    const outcomes = await Promise.allSettled([log(reading("1")), log(reading("bad")), log(reading("3"))]);
    expect(outcomes.map((each) => each.status)).toEqual(["fulfilled", "rejected", "fulfilled"]);
    expect(batches.at(-1)).toEqual(["1", "3"]);
  });

  it("lets what cannot be sent wait on this device with the time at which it was logged", async () => {
    vi.stubGlobal("fetch", async () => {
      throw new TypeError("no network");
    });
    const log = logging();
    expect(await log(reading("1"))).toEqual({ waits: true });
    expect(outbox.size()).toBe(1);
    const [waiting] = JSON.parse(localStorage.getItem("lodeline-outbox") ?? "[]") as { entry: { at: string } }[];
    expect(Number.isNaN(Date.parse(waiting?.entry.at ?? ""))).toBe(false);
  });

  it("sends what waits before anything new", async () => {
    outbox.add(reading("early"));
    listen();
    await logging()(reading("late"));
    expect(batches).toEqual([["early"], ["late"]]);
  });
});
