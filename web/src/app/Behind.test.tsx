import { screen } from "@testing-library/react";
import { useQuery } from "@tanstack/react-query";
import { afterEach, describe, expect, it, vi } from "vitest";

import { get } from "../api/asked";
import { behindOf, client, Refusal, take, Working } from "../api/client";
import { Waiting } from "../parts/Notice";
import { show } from "../testing/testing";
import { Behind } from "./Behind";
import { SOON_MS, useBehind } from "./older";

const answer = (status: number, body: object, headers: Record<string, string>) =>
  vi.stubGlobal("fetch", () =>
    Promise.resolve(
      new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json", ...headers } }),
    ),
  );
const ask = () => take(client.GET("/api/rigs/{rig_id}/horizon", { params: { path: { rig_id: "7" } } }));
afterEach(() => vi.unstubAllGlobals());

const View = () => {
  const horizon = useQuery(get(7, "/horizon"));
  const behind = useBehind();
  if (horizon.isPending) return <Waiting what="the Horizon" why={horizon.failureReason} />;
  return behind ? <Behind shown={behind} /> : <div>The Horizon</div>;
};

describe("an answer that is being worked out", () => {
  it("is known by its head, and a page of one too", async () => {
    answer(200, { rig: "Heron" }, { "X-Lodeline-As-Of": "2026-11-25T20:05:00+00:00", "X-Lodeline-Progress": "0.40" });
    const data = await ask();
    expect(behindOf(data)).toEqual({ at: "2026-11-25T20:05:00+00:00", progress: 0.4 });
    expect(behindOf({ pages: [{}, data] })?.progress).toBe(0.4);
    answer(200, [{ store: "fresh" }], {
      "X-Lodeline-As-Of": "2026-11-25T20:05:00+00:00",
      "X-Lodeline-Progress": "0.40",
    });
    const list = (await ask()) as unknown;
    expect(list).toHaveLength(1);
    expect(Array.isArray(list)).toBe(true);
    expect(behindOf(list)?.progress).toBe(0.4);
    answer(200, { rig: "Heron" }, {});
    expect(behindOf(await ask())).toBeNull();
  });

  it("says what is shown meanwhile, and how far it is", async () => {
    answer(200, { rig: "Heron" }, { "X-Lodeline-As-Of": "2026-11-25T20:05:00+00:00", "X-Lodeline-Progress": "0.40" });
    show(<View />);
    expect(
      await screen.findByText(/What was logged since is being worked out: 40 % done\./, {}, { timeout: 5000 }),
    ).toBeVisible();
  });

  it("is not spoken of where it is a plan that stands until there is a new one", async () => {
    answer(200, { stands: true }, { "X-Lodeline-As-Of": "2026-11-25T20:05:00+00:00", "X-Lodeline-Progress": "0.40" });
    show(<View />);
    await screen.findByText("The Horizon");
    await new Promise((over) => setTimeout(over, SOON_MS + 300));
    expect(screen.queryByRole("status")).toBeNull();
  });

  it("says how far it is where there is nothing yet, in the server's words", async () => {
    const sentence = "The levels are being worked out: 29 % done.";
    answer(202, { place: "", label: "", problem: sentence }, { "X-Lodeline-Progress": "0.29", "Retry-After": "2" });
    await expect(ask()).rejects.toMatchObject({ status: 202, message: sentence, after_ms: 2_000 });
    answer(503, { place: "", label: "", problem: "The server may not write." }, {});
    const refused = await ask().catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(Refusal);
    expect(refused).not.toBeInstanceOf(Working);
    show(<Waiting what="the Horizon" why={new Working(sentence, 1_000)} />);
    expect(screen.getByRole("status")).toHaveTextContent(sentence);
  });
});
