import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { outbox } from "./outbox";

const reading = (text: string) => ({
  kind: "reading" as const,
  rig: 1,
  body: { store: "fresh", text, at: "2026-11-25T20:00:00Z" },
});
const answer = (status: number, body: unknown = {}) =>
  new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });

beforeEach(() => localStorage.clear());
afterEach(() => vi.restoreAllMocks());

describe("the outbox", () => {
  it("sends what waits in the order in which it was logged", async () => {
    const sent: string[] = [];
    vi.stubGlobal("fetch", async (request: Request) => {
      sent.push(((await request.json()) as { text: string }).text);
      return answer(200);
    });
    outbox.add(reading("2/3"));
    outbox.add(reading("45 L"));
    expect(await outbox.flush()).toBe(true);
    expect(sent).toEqual(["2/3", "45 L"]);
    expect(outbox.size()).toBe(0);
  });

  it("keeps everything while there is no signal", async () => {
    vi.stubGlobal("fetch", async () => {
      throw new TypeError("no network");
    });
    outbox.add(reading("2/3"));
    expect(await outbox.flush()).toBe(false);
    expect(outbox.size()).toBe(1);
  });

  it("keeps everything while the server is ill", async () => {
    vi.stubGlobal("fetch", async () => answer(503));
    outbox.add(reading("2/3"));
    await outbox.flush();
    expect(outbox.size()).toBe(1);
  });

  it("does not let one refused entry hold up the next, and says which it was", async () => {
    vi.stubGlobal("fetch", async (request: Request) =>
      ((await request.json()) as { text: string }).text === "bad"
        ? answer(422, { place: "text", problem: "not understood" })
        : answer(200),
    );
    outbox.add(reading("bad"));
    outbox.add(reading("2/3"));
    expect(await outbox.flush()).toBe(true);
    expect(outbox.size()).toBe(0);
  });
});
