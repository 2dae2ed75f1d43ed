import { QueryClient } from "@tanstack/react-query";
import { expect, it, vi } from "vitest";

import { keys } from "../api/keys";
import { ME } from "../testing/testing";
import { pages } from "./device";
import { forgetAccount, remember } from "./remembered";

const answered = async (key: readonly unknown[], data: unknown, queries: QueryClient) =>
  queries.fetchQuery({ queryKey: key, queryFn: () => Promise.resolve(data) });

it("keeps the last answers of an account, and gives them back at the next start, until it is told to forget", async () => {
  const first = new QueryClient();
  await remember(first);
  await answered(keys.me, ME, first);
  await answered(keys.round(7), { rig: "Heron" }, first);
  await answered(keys.understand(7, "fresh", "45 L"), { words: "45 L" }, first);
  await vi.waitFor(async () => expect(localStorage.getItem("lodeline-account")).toBe("mira"), { timeout: 5_000 });
  await vi.waitFor(async () => expect(await pages.read("mira", __LODELINE_VERSION__)).toBeDefined());
  const second = new QueryClient();
  await remember(second);
  expect(second.getQueryData(keys.round(7))).toEqual({ rig: "Heron" });
  expect(second.getQueryData(keys.understand(7, "fresh", "45 L"))).toBeUndefined();
  // the answers of another version may look otherwise
  expect(await pages.read("mira", "another")).toBeUndefined();
  await forgetAccount("mira", true);
  const third = new QueryClient();
  await remember(third);
  expect(third.getQueryData(keys.round(7))).toBeUndefined();
  expect(await pages.read("mira", __LODELINE_VERSION__)).toBeUndefined();
});
