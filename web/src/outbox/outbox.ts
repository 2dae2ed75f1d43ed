import { v7 } from "uuid";

import { client, Refusal, type Schemas, take } from "../api/client";
import { smallOfTab } from "../api/small";
import { clockOff } from "./clock";
import { device, type Waiting, type What } from "./device";
import { forgetEarlier, takeEarlier } from "./earlier";
import { oneOf, send } from "./send";

type Outcome = Schemas["WriteOut"];
type Sender = (writes: readonly Waiting[]) => Promise<Outcome[]>;

/** What a view hands over: where it belongs, what it is, what its maker calls it, and which revision they saw. */
interface Made {
  account: string;
  rig: number;
  what: What;
  words: string;
  saw?: number;
  after?: string[];
}

// an earlier version did not say what it saw; the server takes no larger number
const WHATEVER_STANDS = 1e15;
const MOST_AT_ONCE = 100;
// what the API takes in one request, with room to spare. [bytes]
const MOST_BYTES = 48_000;
// the server's disk is full, or it cannot write: nothing else will be kept either
const CANNOT_KEEP = new Set([503, 507]);
const LOCK = "lodeline-outbox";
const RECENT = "lodeline-recent";
const MOST_RECENT = 200;

/** What two writes have in common where the later is put over the earlier: an entry, or a fact of a day. */
export const targetsOf = (what: What): string[] => {
  const ref = what.correct?.entry ?? what.remove;
  if (ref) return [`${ref.kind}:${ref.id}`];
  const [kind, day] = what.day ? (["day", what.day] as const) : (["plan", what.plan] as const);
  return day ? Object.keys(day.facts).map((name) => `${kind}:${day.on}:${name}`) : [];
};

/** As many of the first as fit into one request; one always does. */
const small = (writes: readonly Waiting[]): readonly Waiting[] => {
  let bytes = 0;
  const over = writes.findIndex((each) => (bytes += new Blob([JSON.stringify(each)]).size) > MOST_BYTES);
  return over < 0 ? writes : writes.slice(0, Math.max(1, over));
};

/** Writes of this page's own, which their maker has seen although no answer has shown them yet. */
const recent = {
  read: (): [string, string[]][] => JSON.parse(smallOfTab.get(RECENT) ?? "[]") as [string, string[]][],
  add: (id: string, targets: string[]) => {
    if (targets.length === 0) return;
    smallOfTab.set(RECENT, JSON.stringify([...recent.read(), [id, targets]].slice(-MOST_RECENT)));
  },
  of: (targets: string[]): string[] =>
    recent
      .read()
      .filter(([, theirs]) => theirs.some((each) => targets.includes(each)))
      .map(([id]) => id),
};

/**
 * The writes that wait on this device. They lie in the device's database; this is what one tab knows of them. One tab
 * at a time sends, by a lock; every tab hears what came of it.
 */
export class Outbox {
  private list: readonly Waiting[] = [];
  private readonly listeners = new Set<() => void>();
  private readonly makers = new Map<string, (outcome: Outcome) => void>();
  private readonly keptListeners = new Set<(rigs: number[]) => void>();
  private readonly channel: BroadcastChannel | null;
  private loaded: Promise<void> | null = null;
  private running: Promise<void> | null = null;
  private again = false;
  private account: string | null = null;
  /** Why the server keeps nothing at all for now, in its words. */
  trouble: string | null = null;

  constructor(
    private readonly sender: Sender = send,
    channel = true,
  ) {
    this.channel = channel && "BroadcastChannel" in globalThis ? new BroadcastChannel(LOCK) : null;
    if (this.channel) this.channel.onmessage = (event: MessageEvent<Outcome[]>) => void this.heard(event.data);
  }

  subscribe = (notify: () => void): (() => void) => {
    this.listeners.add(notify);
    return () => void this.listeners.delete(notify);
  };
  all = (): readonly Waiting[] => this.list;

  /** Told when something was kept, with the rigs that it was of. */
  onKept = (listener: (rigs: number[]) => void): (() => void) => {
    this.keptListeners.add(listener);
    return () => void this.keptListeners.delete(listener);
  };

  /** Who is signed in: theirs is sent, and of others nothing. */
  belongsTo(account: string | null): void {
    this.account = account;
    // by one tab: two that start at once would take it over twice
    if (account !== null) void this.alone(() => this.takeEarlier(account)).then(() => this.flush());
  }

  private async takeEarlier(account: string): Promise<void> {
    const early = takeEarlier();
    if (early.length === 0) return;
    await this.load();
    await this.put(
      ...early.map(({ rig, what, made_at }): Waiting => ({
        id: v7(),
        account,
        rig,
        what,
        words: "Logged with an earlier version",
        made_at: made_at ?? new Date().toISOString(),
        off_ms: null,
        saw: WHATEVER_STANDS,
        after: [],
        state: "waiting",
      })),
    );
    forgetEarlier();
  }

  load(): Promise<void> {
    this.loaded ??= this.refresh();
    return this.loaded;
  }

  /** Put a write on this device, then send it; answers its id once it is safe here. */
  async add(made: Made, outcome?: (outcome: Outcome) => void): Promise<string> {
    await this.load();
    const id = v7();
    const targets = targetsOf(made.what);
    const after = [...new Set([...recent.of(targets), ...(made.after ?? [])])];
    recent.add(id, targets);
    if (outcome) this.makers.set(id, outcome);
    await this.put({
      id,
      account: made.account,
      rig: made.rig,
      what: made.what,
      words: made.words,
      made_at: new Date().toISOString(),
      off_ms: clockOff(),
      saw: made.saw ?? null,
      after: after.slice(-MOST_AT_ONCE),
      state: "waiting",
    });
    void this.flush();
    return id;
  }

  /** Send a refused write again, as its maker mended it, or over what stands now. */
  async mend(old: Waiting, what: What, words: string, saw: number | null): Promise<void> {
    const { account, rig, made_at, off_ms, after } = old;
    await this.put({ account, rig, made_at, off_ms, after, what, words, saw, id: v7(), state: "waiting" });
    await this.discard(old.id);
    void this.flush();
  }

  /** Take a write off this device for good: its maker says so. */
  async discard(...ids: string[]): Promise<void> {
    await device.remove(...ids);
    await this.refresh();
    this.channel?.postMessage([]);
  }

  /** Send what waits, oldest first; one run at a time, and one more where something came meanwhile. */
  flush(): Promise<void> {
    this.again = true;
    this.running ??= this.runs().finally(() => (this.running = null));
    return this.running;
  }

  private async runs(): Promise<void> {
    await this.load();
    while (this.again) {
      this.again = false;
      if (this.mine().length === 0) return;
      await this.alone(() => this.run());
    }
  }

  /** One tab at a time; where the browser has no locks, the server keeps each id once all the same. */
  private alone(run: () => Promise<void>): Promise<void> {
    const locks = navigator.locks as LockManager | undefined;
    return locks ? (locks.request(LOCK, run) as Promise<unknown> as Promise<void>) : run();
  }

  private mine(without?: Set<string>): Waiting[] {
    return this.list.filter(
      (each) => each.account === this.account && each.state === "waiting" && !without?.has(each.id),
    );
  }

  private async run(): Promise<void> {
    await this.refresh(); // another tab may have sent some of it
    const ill = new Set<string>();
    let most = MOST_AT_ONCE;
    let renewed = false;
    for (let left = this.mine(ill); left.length > 0; left = this.mine(ill)) {
      const other = left.findIndex((each) => each.rig !== left[0]?.rig);
      const batch = small(left.slice(0, Math.min(other < 0 ? left.length : other, most)));
      try {
        await this.took(batch, await this.sender(batch));
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        const { status } = error;
        this.trouble = CANNOT_KEEP.has(status) ? error.message : null;
        if (status === 401) this.trouble = await this.whoInstead();
        if (status === 0 || status === 408 || status === 429 || this.trouble !== null) return await this.refresh();
        if (status === 403 && !renewed) {
          // the page's token may be an old one
          renewed = true;
          if ((await this.signedIn()) !== this.account) return;
        } else if (status >= 500) {
          // one that the server fails on does not hold up the rest; it waits here for a better server
          if (batch.length > 1) most = 1;
          else batch.forEach((each) => ill.add(each.id));
        } else {
          const bad = oneOf(error, batch.length);
          if (bad === null && status !== 403 && status !== 404) most = 1;
          else await this.refuse(bad === null ? batch : batch.slice(bad, bad + 1), error);
        }
      }
    }
  }

  /** Why what waits is not taken though there is a signal: its maker is not signed in here now. */
  private async whoInstead(): Promise<string> {
    const who = await this.signedIn();
    const theirs = `It is sent when ${this.account ?? ""} signs in here again.`;
    return who === null || who === this.account ? theirs : `${who} is signed in here now. ${theirs}`;
  }

  private async signedIn(): Promise<string | null> {
    try {
      return (await take(client.GET("/api/account/me"))).username ?? null;
    } catch {
      return null;
    }
  }

  private async took(batch: readonly Waiting[], outcomes: Outcome[]): Promise<void> {
    const kept = outcomes.filter((each) => each.state === "kept").map((each) => each.id);
    const rest = batch.flatMap((each) => {
      const outcome = outcomes.find((of) => of.id === each.id);
      return outcome && outcome.state !== "kept" ? [{ ...each, ...toldOf(outcome) }] : [];
    });
    this.trouble = null;
    await device.remove(...kept);
    await device.put(...rest);
    await this.tell(outcomes, kept.length > 0 ? [...new Set(batch.map((each) => each.rig))] : []);
  }

  private async refuse(batch: readonly Waiting[], error: Refusal): Promise<void> {
    const outcomes: Outcome[] = batch.map((each) => ({
      id: each.id,
      state: "refused",
      place: error.place.replace(/^writes\[\d+\]\.?/, ""),
      label: error.label,
      problem: error.message,
      stands: null,
      revision: 0,
      entry: null,
    }));
    await this.took(batch, outcomes);
  }

  private async tell(outcomes: Outcome[], rigs: number[]): Promise<void> {
    await this.refresh();
    this.channel?.postMessage(outcomes);
    outcomes.forEach((outcome) => this.makers.get(outcome.id)?.(outcome));
    outcomes.forEach((outcome) => this.makers.delete(outcome.id));
    if (rigs.length > 0) this.keptListeners.forEach((listener) => listener(rigs));
  }

  /** What another tab did. */
  private async heard(outcomes: Outcome[]): Promise<void> {
    const rigs = this.list.filter((each) => outcomes.some((of) => of.id === each.id)).map((each) => each.rig);
    await this.refresh();
    outcomes.forEach((outcome) => this.makers.get(outcome.id)?.(outcome));
    if (rigs.length > 0) this.keptListeners.forEach((listener) => listener([...new Set(rigs)]));
  }

  private async put(...writes: Waiting[]): Promise<void> {
    await device.put(...writes);
    // what is not on the server yet is not to be cleared away by the browser
    void (navigator.storage as StorageManager | undefined)?.persist?.().catch(() => false);
    await this.refresh();
    this.channel?.postMessage([]);
  }

  private async refresh(): Promise<void> {
    this.list = await device.all();
    this.listeners.forEach((notify) => notify());
  }
}

const toldOf = (outcome: Outcome): Partial<Waiting> => ({
  state: outcome.state === "stale" ? "stale" : "refused",
  problem: outcome.state === "stale" ? "Somebody else changed it meanwhile." : outcome.problem,
  place: outcome.place,
  label: outcome.label,
  stands: outcome.stands ?? null,
  stands_at: outcome.revision,
});

export const outbox = new Outbox();
