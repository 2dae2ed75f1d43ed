import { QueryClient } from "@tanstack/react-query";
import { expect, it, vi } from "vitest";

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
