import { act, fireEvent, screen } from "@testing-library/react";
import { beforeEach, expect, it, vi } from "vitest";

import { show } from "../testing/testing";
import { Update } from "./Update";

const worker = vi.hoisted(() => ({ ready: (): void => undefined, put: vi.fn() }));
vi.mock("virtual:pwa-register", () => ({
  registerSW: ({ onNeedRefresh }: { onNeedRefresh: () => void }) => {
    worker.ready = onNeedRefresh;
    return worker.put;
  },
}));

beforeEach(() => {
  worker.put.mockReset();
  vi.stubGlobal("navigator", Object.assign(Object.create(navigator) as object, { serviceWorker: {} }));
});

it("offers a new version when there is one, and puts it in only when it is asked to", async () => {
  show(<Update />);
  expect(screen.queryByRole("status")).toBeNull();
  await vi.waitFor(() => {
    act(() => worker.ready());
    expect(screen.getByRole("status")).toHaveTextContent("A new version of Lodeline is ready.");
  });
  expect(worker.put).not.toHaveBeenCalled();
  fireEvent.click(screen.getByRole("button", { name: "Load it now" }));
  expect(worker.put).toHaveBeenCalledWith(true);
});
