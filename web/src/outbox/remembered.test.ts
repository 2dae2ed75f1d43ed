import { QueryClient } from "@tanstack/react-query";
import { expect, it, vi } from "vitest";

import { Refusal } from "../api/client";
import { keys } from "../api/keys";
import { keepReader, readerHead } from "../api/reader";
import { ME } from "../testing/testing";
import { pages } from "./device";
import { forgetAccount, remember } from "./remembered";

const VERSION = () => `${__LODELINE_VERSION__} ${readerHead()}`;

const answered = async (key: readonly unknown[], data: unknown, queries: QueryClient) =>
  queries.fetchQuery({ queryKey: key, queryFn: () => Promise.resolve(data) });

it("keeps the last answers of an account, and gives them back at the next start, until it is told to forget", async () => {
  const first = new QueryClient();
  await remember(first);
  await answered(keys.me, ME, first);
  await answered(keys.asked(7, "get /round"), { rig: "Heron" }, first);
  await answered(keys.apart(7, "understand", { text: "45 L" }), { words: "45 L" }, first);
  await vi.waitFor(async () => expect(localStorage.getItem("lodeline-account")).toBe("mira"), { timeout: 5_000 });
  await vi.waitFor(async () => expect(await pages.read("mira", VERSION())).toBeDefined());
  const second = new QueryClient();
  await remember(second);
  expect(second.getQueryData(keys.asked(7, "get /round"))).toEqual({ rig: "Heron" });
  expect(second.getQueryState(keys.asked(7, "get /round"))?.isInvalidated).toBe(true); // it is shown, and fetched anew
  expect(second.getQueryData(keys.apart(7, "understand", { text: "45 L" }))).toBeUndefined();
  // the answers of another version may look otherwise
  expect(await pages.read("mira", "another")).toBeUndefined();
  keepReader({ clock: "12", dates: "day", numbers: "comma" }); // what is written otherwise is fetched anew
  const otherwise = new QueryClient();
  await remember(otherwise);
  expect(otherwise.getQueryData(keys.asked(7, "get /round"))).toBeUndefined();
  keepReader({ clock: "24", dates: "day", numbers: "point" });
  await forgetAccount("mira", true);
  const third = new QueryClient();
  await remember(third);
  expect(third.getQueryData(keys.asked(7, "get /round"))).toBeUndefined();
  expect(await pages.read("mira", VERSION())).toBeUndefined();
});

it("remembers what was answered also where asking again got no answer, but not what was refused since", async () => {
  const first = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const noor = { ...ME, username: "noor" };
  await remember(first);
  const refused = (key: readonly unknown[], status: number) =>
    first
      .fetchQuery({ queryKey: key, queryFn: () => Promise.reject(new Refusal(status, "", "Not now.")) })
      .catch(() => null);
  await answered(keys.me, noor, first);
  await answered(keys.asked(7, "get /round"), { rig: "Heron" }, first);
  await answered(keys.asked(8, "get /round"), { rig: "Another's now" }, first);
  await refused(keys.me, 0);
  await refused(keys.asked(7, "get /round"), 503);
  await refused(keys.asked(8, "get /round"), 404);
  await pages.forget("noor");
  window.dispatchEvent(new Event("pagehide"));
  await vi.waitFor(async () => expect(await pages.read("noor", VERSION())).toBeDefined());
  const second = new QueryClient();
  await remember(second);
  expect(second.getQueryState(keys.me)).toMatchObject({ data: noor, status: "success", error: null });
  expect(second.getQueryData(keys.asked(7, "get /round"))).toEqual({ rig: "Heron" });
  expect(second.getQueryData(keys.asked(8, "get /round"))).toBeUndefined();
});
