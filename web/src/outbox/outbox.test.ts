import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { Refusal, type Schemas } from "../api/client";
import { device, reopened, type Waiting } from "./device";
import { Outbox, targetsOf } from "./outbox";

type Outcome = Schemas["WriteOut"];

const kept = (id: string): Outcome => ({
  id,
  state: "kept",
  place: "",
  label: "",
  problem: "",
  stands: null,
  revision: 0,
  entry: null,
});
const texts = (writes: readonly Waiting[]) => writes.map((each) => each.what.add?.reading?.text ?? each.words);

/** A server that remembers ids: what was kept stays kept, however often it is sent. */
class Server {
  sent: string[][] = [];
  log = new Map<string, string>();
  /** What befalls the next requests, in order; after that all goes well. */
  fate: ("lost" | "answer lost" | number | ((writes: readonly Waiting[]) => Outcome[]))[] = [];

  take = async (writes: readonly Waiting[]): Promise<Outcome[]> => {
    this.sent.push(texts(writes));
    const fate = this.fate.shift();
    if (typeof fate === "function") return fate(writes);
    if (typeof fate === "number") throw new Refusal(fate, "", "no");
    if (fate === "lost") throw new Refusal(0, "", "no way through");
    for (const each of writes) if (!this.log.has(each.id)) this.log.set(each.id, texts([each])[0] ?? "");
    if (fate === "answer lost") throw new Refusal(0, "", "no way through");
    return writes.map((each) => kept(each.id));
  };
}

let server: Server;
const start = (account = "mira") => {
  const outbox = new Outbox(server.take, false);
  outbox.belongsTo(account);
  return outbox;
};
const reading = (text: string, account = "mira", rig = 7) => ({
  account,
  rig,
  what: { add: { reading: { store: "fresh", text } } },
  words: text,
});

beforeEach(() => {
  server = new Server();
});
afterEach(async () => {
  await device.remove(...(await device.all()).map((each) => each.id));
  await reopened();
});

describe("what waits on this device", () => {
  it("sends no more at once than the API takes in one request", async () => {
    const outbox = start();
    server.fate = ["lost"];
    const long = "x".repeat(20_000);
    for (const n of [1, 2, 3]) await outbox.add({ ...reading(`${n} L`), words: long });
    await outbox.flush();
    expect(server.sent.slice(-2)).toEqual([["1 L", "2 L"], ["3 L"]]);
  });

  it("is sent all the same where the device's own store refuses, and says so", async () => {
    const refuse = vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    const tab = vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    try {
      const outbox = start();
      server.fate = ["lost"];
      await outbox.add({ ...reading("1 L"), what: { day: { on: "2026-11-25", facts: { sky: "wet" } } } });
      await outbox.flush();
      expect(device.refuses()).toBe(true);
      expect(outbox.all()).toHaveLength(0);
      expect(server.log.size).toBe(1);
      // without a signal it waits as long as the page is open
      server.fate = ["lost"];
      await outbox.add(reading("2 L"));
      await vi.waitFor(() => expect(outbox.all()).toHaveLength(1));
    } finally {
      refuse.mockRestore();
      tab.mockRestore();
    }
    const outbox = start();
    await outbox.add(reading("3 L"));
    await outbox.flush();
    expect(device.refuses()).toBe(false);
    expect([...server.log.values()].sort()).toEqual(["1 L", "2 L", "3 L"]);
  });

  it("says whose it is where somebody else is signed in now", async () => {
    vi.stubGlobal("fetch", () => Promise.resolve(Response.json({ username: "joss", rigs: [] })));
    const outbox = start();
    server.fate = [401, 401];
    await outbox.add(reading("1 L"));
    const said = "joss is signed in here now. It is sent when mira signs in here again.";
    await vi.waitFor(() => expect(outbox.trouble).toBe(said));
    expect(outbox.all()).toHaveLength(1);
    await vi.waitFor(() => outbox.flush().then(() => expect(outbox.all()).toHaveLength(0)));
    expect(outbox.trouble).toBeNull();
    vi.unstubAllGlobals();
  });

  it("stops where the server can keep nothing, says why, and goes on when it can", async () => {
    const outbox = start();
    server.fate = [507, 507, 507];
    await outbox.add(reading("1 L"));
    await vi.waitFor(() => expect(outbox.trouble).toBe("no"));
    expect(outbox.all()).toHaveLength(1);
    server.fate = [];
    await outbox.flush();
    expect(outbox.trouble).toBeNull();
    expect(outbox.all()).toHaveLength(0);
  });

  it("is sent in its order, and what comes meanwhile after it", async () => {
    const outbox = start();
    await Promise.all(["1", "2", "3"].map((text) => outbox.add(reading(text))));
    await outbox.flush();
    expect(server.sent.flat()).toEqual(["1", "2", "3"]);
    expect(outbox.all()).toEqual([]);
  });

  it("is kept once, though the answer was lost after the server kept it", async () => {
    const outbox = start();
    server.fate = ["answer lost"];
    await outbox.add(reading("45 L"));
    await outbox.flush();
    await outbox.flush();
    expect(server.sent).toEqual([["45 L"], ["45 L"]]);
    expect([...server.log.values()]).toEqual(["45 L"]);
    expect(outbox.all()).toEqual([]);
  });

  it("outlives the page, and a sign-out, and another account's session", async () => {
    server.fate = ["lost"];
    await start().add(reading("45 L"));
    const other = start("joss");
    await other.load();
    await other.flush();
    expect(other.all()).toHaveLength(1);
    expect(server.log.size).toBe(0);
    const back = start();
    await back.flush();
    await vi.waitFor(() => expect([...server.log.values()]).toEqual(["45 L"]));
  });

  it.each([401, 408, 429, 500, 503])("waits on where the server answers %s", async (status) => {
    const outbox = start();
    server.fate = [status, status];
    await outbox.add(reading("45 L"));
    await vi.waitFor(() => expect(server.sent.length).toBeGreaterThan(0));
    expect(outbox.all()).toMatchObject([{ state: "waiting" }]);
  });

  it.each([403, 404, 422])("is refused with its reason where the server answers %s, and stays", async (status) => {
    vi.stubGlobal(
      "fetch",
      async () =>
        new Response(JSON.stringify({ username: "mira" }), {
          status: 200,
          headers: { "Content-Type": "application/json" },
        }),
    );
    const outbox = start();
    server.fate = status === 403 ? [status, status] : [status]; // an old token of the page is renewed once
    await outbox.add(reading("45 L"));
    await vi.waitFor(() => expect(outbox.all()).toMatchObject([{ state: "refused", problem: "no" }]));
    await outbox.add(reading("50 L"));
    await vi.waitFor(() => expect([...server.log.values()]).toEqual(["50 L"]));
    expect(outbox.all()).toMatchObject([{ state: "refused", problem: "no", words: "45 L" }]); // not forgotten
    expect(await device.all()).toHaveLength(1);
  });

  it("does not hold up the rest by one on which the server fails", async () => {
    const outbox = new Outbox(server.take, false);
    await outbox.add(reading("poison"));
    await outbox.add(reading("good"));
    const failing = async (writes: readonly Waiting[]) => {
      if (texts(writes).includes("poison")) throw new Refusal(500, "", "defect");
      return server.take(writes);
    };
    const second = new Outbox(failing, false);
    second.belongsTo("mira");
    await second.flush();
    await vi.waitFor(() => expect([...server.log.values()]).toEqual(["good"]));
    expect(second.all()).toMatchObject([{ words: "poison", state: "waiting" }]);
  });

  it("names the one of a list that has the wrong shape, and sends the others", async () => {
    const outbox = new Outbox(server.take, false);
    for (const text of ["1", "bad", "3"]) await outbox.add(reading(text));
    server.fate = [
      () => {
        throw new Refusal(422, "writes[1].add.reading.text", "too long", "Reading");
      },
    ];
    outbox.belongsTo("mira");
    await outbox.flush();
    await vi.waitFor(() => expect([...server.log.values()]).toEqual(["1", "3"]));
    expect(outbox.all()).toMatchObject([
      { words: "bad", state: "refused", place: "add.reading.text", label: "Reading" },
    ]);
  });

  it("goes rig by rig", async () => {
    const outbox = new Outbox(server.take, false);
    for (const rig of [7, 7, 8, 7]) await outbox.add(reading(String(rig), "mira", rig));
    outbox.belongsTo("mira");
    await outbox.flush();
    await vi.waitFor(() => expect(server.sent).toEqual([["7", "7"], ["8"], ["7"]]));
  });

  it("keeps what is stale with what stands there, to be put over it or let be", async () => {
    const outbox = start();
    server.fate = [(writes) => writes.map((each) => ({ ...kept(each.id), state: "stale" as const, stands: "50 L" }))];
    await outbox.add({
      ...reading(""),
      what: { remove: { kind: "reading", id: "entry-31" } },
      words: "Remove",
      saw: 3,
    });
    await vi.waitFor(() => expect(outbox.all()).toMatchObject([{ state: "stale", stands: "50 L" }]));
    const [stale] = outbox.all();
    if (!stale) throw new Error("it is gone");
    await outbox.mend(stale, stale.what, stale.words, 99);
    await vi.waitFor(() => expect(outbox.all()).toEqual([]));
    expect([...server.log.keys()]).not.toContain(stale.id); // under an id of its own
  });

  it("names what its maker had done before it to the same thing", async () => {
    const outbox = new Outbox(server.take, false);
    const facts = (temp_max: number) => ({
      account: "mira",
      rig: 7,
      what: { day: { on: "2026-11-25", facts: { temp_max } } },
      words: "",
      saw: 3,
    });
    const first = await outbox.add(facts(20));
    await outbox.add({ ...facts(0), what: { day: { on: "2026-11-24", facts: { temp_max: 1 } } } });
    await outbox.add(facts(25));
    expect(outbox.all().map((each) => each.after)).toEqual([[], [], [first]]);
    expect(targetsOf({ remove: { kind: "reading", id: "entry-4" } })).toEqual(["reading:entry-4"]);
  });

  it("takes over what an earlier version left, once", async () => {
    localStorage.setItem(
      "lodeline-outbox",
      JSON.stringify([
        { kind: "reading", rig: 1, body: { store: "fresh", text: "1/3", at: "2026-11-25T07:00:00Z" } },
        { rig: 1, entry: { event: { type: "dump", store: "grey" }, at: "2026-11-25T07:05:00Z" } },
        { kind: "day", rig: 1, date: "2026-11-25", body: { sky: "wet" } },
      ]),
    );
    const outbox = new Outbox(server.take, false);
    server.fate = ["lost"];
    outbox.belongsTo("mira");
    await vi.waitFor(() => expect(outbox.all()).toHaveLength(3));
    expect(outbox.all().map((each) => each.what)).toEqual([
      { add: { reading: { store: "fresh", text: "1/3" } } },
      { add: { event: { type: "dump", store: "grey" } } },
      { day: { on: "2026-11-25", facts: { sky: "wet" } } },
    ]);
    expect(outbox.all()[0]?.made_at).toBe("2026-11-25T07:00:00Z");
    expect(localStorage.getItem("lodeline-outbox")).toBeNull();
  });
});
