import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { outbox, together } from "./outbox";

const reading = (text: string, rig = 1) => ({
  rig,
  entry: { reading: { store: "fresh", text }, at: "2026-11-25T20:00:00Z" },
});
const day = { rig: 1, date: "2026-11-25", facts: { sky: "wet" as const } };
const answer = (status: number, body: unknown = { entries: [] }) =>
  new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });

interface Batch {
  entries: { reading?: { text: string }; event?: unknown; at: string }[];
}

/** What was sent, by its texts; the server answers as it is told to. */
const server = (respond: (batch: Batch) => Response = () => answer(200)) => {
  const sent: string[][] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const body = (await request.json()) as Batch;
    sent.push((body.entries ?? []).map((each) => each.reading?.text ?? JSON.stringify(each.event)));
    return respond(body);
  });
  return sent;
};

beforeEach(() => localStorage.clear());
afterEach(() => vi.restoreAllMocks());

describe("the outbox", () => {
  it("sends what waits as one batch, in the order in which it was logged", async () => {
    const sent = server();
    outbox.add(reading("2/3"), reading("45 L"));
    expect(await outbox.flush()).toBe(true);
    expect(sent).toEqual([["2/3", "45 L"]]);
    expect(outbox.size()).toBe(0);
  });

  it("sends another rig's entries and a day's facts apart, and keeps the order", async () => {
    expect(together([reading("a"), reading("b"), reading("c", 2)])).toBe(2);
    expect(together([reading("a"), day, reading("b")])).toBe(1);
    expect(together([day, day])).toBe(1);
    const sent = server();
    outbox.add(reading("a"), day, reading("b"), reading("c", 2));
    await outbox.flush();
    expect(sent).toEqual([["a"], [], ["b"], ["c"]]);
  });

  it("keeps everything while there is no signal, or while the server is ill", async () => {
    vi.stubGlobal("fetch", async () => {
      throw new TypeError("no network");
    });
    outbox.add(reading("2/3"));
    expect(await outbox.flush()).toBe(false);
    server(() => answer(503));
    expect(await outbox.flush()).toBe(false);
    expect(outbox.size()).toBe(1);
  });

  it("does not let one refused entry hold up the others, and says which it was", async () => {
    const sent = server(({ entries }) => {
      const bad = entries.findIndex((each) => each.reading?.text === "bad");
      return bad < 0 ? answer(200) : answer(422, { place: `entries[${bad}].text`, problem: "not understood" });
    });
    outbox.add(reading("1/3"), reading("bad"), reading("2/3"));
    expect(await outbox.flush()).toBe(true);
    expect(sent.at(-1)).toEqual(["1/3", "2/3"]);
    expect(outbox.size()).toBe(0);
  });

  it("sends what an earlier version left waiting", async () => {
    const old = [
      { kind: "reading", rig: 1, body: { store: "fresh", text: "1/3", at: "2026-11-25T07:00:00Z" } },
      { kind: "event", rig: 1, body: { type: "dump", store: "grey", at: "2026-11-25T07:05:00Z" } },
      { kind: "day", rig: 1, date: "2026-11-25", body: { sky: "wet" } },
    ];
    localStorage.setItem("lodeline-outbox", JSON.stringify(old));
    const sent = server();
    await outbox.flush();
    expect(sent).toEqual([["1/3", '{"type":"dump","store":"grey"}'], []]);
    expect(outbox.size()).toBe(0);
  });
});
